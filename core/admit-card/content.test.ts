import { english } from '../words/en'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import type { Answers } from '../application/answers'
import { newTracks, type Tracks } from '../application/tracks'
import { cardBlockers, cardContent, codeContent, type CardSubject } from './content'

const notice = sampleNotice()
const seat = { paper: '', city: 'skarnholm', venue: 'skarnholm-a', room: 'skarnholm-a-1', session: 'forenoon', seat: 3, accessible: false }
const subject: CardSubject = { number: 'HL27-0000001-5', answers: sampleAnswers, sittings: [seat], roll: '01000013', version: 2 }
const ready: Tracks = { form: 'submitted', fee: 'settled', scrutiny: 'accepted', placement: 'published', card: 'not issued' }
const both = { photograph: true, signature: true }

describe('what stands between an application and its card', () => {
  it('is nothing when every track is where it must be', () => {
    expect(cardBlockers(ready, both, ['photograph', 'signature'])).toEqual([])
    expect(cardBlockers({ ...ready, fee: 'nothing due', placement: 'moved' }, both, ['photograph', 'signature'])).toEqual([])
  })

  it.each<[Partial<Tracks>, string]>([
    [{ form: 'correcting' }, 'form'],
    [{ fee: 'due' }, 'fee'],
    [{ fee: 'confirming' }, 'fee'],
    [{ scrutiny: 'waiting' }, 'scrutiny'],
    [{ scrutiny: 'refused' }, 'scrutiny'],
    [{ placement: 'placed' }, 'placement'],
  ])('with %j is the %s', (change, wanted) => {
    expect(cardBlockers({ ...ready, ...change }, both, ['photograph', 'signature'])).toEqual([wanted])
  })

  it('names all of a new application', () => {
    expect(cardBlockers(newTracks, {}, ['photograph', 'signature'])).toEqual(['form', 'fee', 'scrutiny', 'placement', 'photograph',
      'signature'])
  })
})

describe('what a card says', () => {
  const content = cardContent(notice, subject, english)
  const said = Object.fromEntries([...content.person, ...content.sitting].map(row => [row.label, row.text]))

  it("is the certificate's name, the seat and the times with their zone", () => {
    expect(content).toMatchObject({ name: 'Tavirel Osk-Anundé', roll: '01000013', application: 'HL27-0000001-5', version: 2 })
    expect(said['Room and seat']).toBe('Room 1, seat 3')
    expect(said['Report at']).toBe('08:30 Ilmara time')
    expect(said.Posts).toBe('Pilot cadet, Lighthouse keeper')
    expect(said['Test centre']).toBe('Skarnholm Grammar School')
  })

  it('shows of the identity proof its kind and last four places, never the whole number', () => {
    expect(said['Identity proof to carry']).toBe("Seafarer's book ending 1923, the original")
    expect(JSON.stringify(content)).not.toContain('SB4471923')
    expect(JSON.stringify(codeContent(notice, subject, 'f'.repeat(64), english))).not.toContain('SB4471923')
  })

  it('marks a step-free seat, and tells who needs none that no other was left', () => {
    const text = (answers: Answers) =>
      cardContent(notice, { ...subject, answers: { ...subject.answers, ...answers }, sittings: [{ ...seat, accessible: true }] }, english)
        .sitting.at(-1)?.text
    expect(text({ pwd: 'yes', pwdDegree: 'below', stepFree: 'yes' })).toBe('Room 1, seat 3 (step-free)')
    expect(text({})).toBe('Room 1, seat 3 (step-free; no other was left)')
  })

  it('names each of several papers with its time and seat, in order of time, and a centre once', () => {
    const papers = {
      ...notice,
      testPapers: [{ id: 'deck', title: 'Deck', sessions: ['afternoon'] }, { id: 'engine', title: 'Engine', sessions: ['forenoon'] }],
    }
    const both = { ...subject, sittings: [{ ...seat, paper: 'deck', session: 'afternoon', seat: 2 }, { ...seat, paper: 'engine' }] }
    const rows = cardContent(papers, both, english).sitting
    expect(rows.map(row => row.label)).toEqual(['Test centre', 'Address', 'Engine', 'Deck'])
    expect(rows[2]?.text).toBe('Fri 1 Jan 2027, 09:45 to 12:15. Report at 08:30, the gate closes at 09:20, Ilmara time. Room 1, seat 3')
    expect(codeContent(papers, both, 'f'.repeat(64), english)).toMatchObject({
      seat: 'Room 1 / 3; Room 1 / 2',
      session: 'Forenoon session; Afternoon session',
      venue: 'Skarnholm Grammar School',
    })
  })

  it("is repeated by the code, with the first bytes of the photograph's hash", () => {
    expect(codeContent(notice, subject, '0123456789abcdef'.repeat(4), english)).toMatchObject({
      cycle: 'HL27',
      application: subject.number,
      roll: subject.roll,
      name: 'Tavirel Osk-Anundé',
      born: '2004-06-15',
      seat: 'Room 1 / 3',
      version: 2,
      photograph: '0123456789abcdef',
    })
  })

  it('cannot be said of a seat that the notice does not have', () => {
    expect(() => cardContent(notice, { ...subject, sittings: [{ ...seat, room: 'cellar' }] }, english))
      .toThrow('skarnholm-a/cellar/forenoon')
  })
})
