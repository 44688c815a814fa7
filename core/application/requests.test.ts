import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { cardContent } from '../admit-card/content'
import { evaluatePosts } from '../eligibility/evaluate'
import { readNotice } from '../notice/check'
import type { Notice } from '../notice/schema'
import { english } from '../words/en'
import type { Answers } from './answers'
import {
  basisOf,
  clockAfter,
  decisionsThatHold,
  extraMinutes,
  needsStepFree,
  openRequests,
  requestsMade,
  withDecisions,
  type RequestDecisions,
  type RequestWord,
} from './requests'
import { emptySlots } from './slots'

const notice = sampleNotice()
const asking = {
  ...sampleAnswers,
  pwd: 'yes',
  pwdDegree: 'benchmark',
  pwdKind: 'movement',
  stepFree: 'no',
  scribe: 'yes',
  scribeName: 'Tovo Menari',
  moreTime: 'yes',
}
const rule = (id: string) =>
  notice.requests.find(one => one.id === id) ?? (() => {
    throw new Error(id)
  })()
const words = (answers: Answers, said: Record<string, RequestWord>): RequestDecisions =>
  Object.fromEntries(Object.entries(said).map(([id, word]) => [id, { word, basis: basisOf(notice, rule(id), answers) }]))

describe('requests', () => {
  it('are made by answers, and wait until the office has said its word', () => {
    expect(requestsMade(notice, sampleAnswers)).toEqual([])
    expect(openRequests(notice, asking).map(one => one.id)).toEqual(['scribe', 'more-time'])
    const counted = withDecisions(notice, asking, words(asking, { 'scribe': 'granted', 'more-time': 'declined' }))
    expect(requestsMade(notice, counted).map(({ rule: { id }, word }) => [id, word])).toEqual([['scribe', 'granted'], ['more-time',
      'declined']])
    // Whoever takes a question back asks for nothing, whatever was decided.
    expect(requestsMade(notice, { ...counted, pwd: 'no' })).toEqual([])
  })

  it('are decided on what they rest on: other answers there make the word fall, and others do not', () => {
    const decisions = words(asking, { scribe: 'granted' })
    expect(openRequests(notice, withDecisions(notice, { ...asking, scribeName: 'Somebody else' }, decisions)).map(one => one.id))
      .toContain('scribe')
    expect(openRequests(notice, withDecisions(notice, { ...asking, address: 'another street' }, decisions)).map(one => one.id)).toEqual([
      'more-time',
    ])
    expect(decisionsThatHold(notice, asking, decisions, ['scribe-paper'])).toEqual({})
    expect(decisionsThatHold(notice, asking, decisions, ['identity-proof'])).toEqual(decisions)
  })

  it('cannot be granted by what somebody types', () => {
    fc.assert(fc.property(
      fc.dictionary(
        fc.constantFrom('scribe', 'granted', 'request', 'requestScribe', 'moreTime'),
        fc.constantFrom('granted', 'yes', 'declined'),
      ),
      (typed) => {
        expect(requestsMade(notice, { ...asking, ...typed }).every(({ word }) => word === null)).toBe(true)
      },
    ))
  })

  it('give a step-free seat to whoever is granted one, and to nobody who is declined', () => {
    expect([needsStepFree(notice, asking), needsStepFree(notice, withDecisions(notice, asking, words(asking, { scribe: 'granted' }))),
      needsStepFree(notice, withDecisions(notice, asking, words(asking, { scribe: 'declined' })))]).toEqual([false, true, false])
  })

  // 20 minutes an hour is common practice (no source); the sums are worked by hand.
  it.each([['09:45', '12:15', 20, 50, '13:05'], ['10:00', '11:00', 20, 20, '11:20'], ['10:00', '10:50', 20, 17, '11:07'], ['10:00', '13:00',
    15, 45, '13:45'], ['22:30', '23:30', 40, 40, '24:10']])(
      'from %s to %s, %i minutes an hour more are %i: until %s',
      (starts, ends, anHour, more, until) => {
        expect(extraMinutes({ starts, ends }, anHour)).toBe(more)
        expect(clockAfter(ends, more)).toBe(until)
      },
    )

  it('stand on the card once they are granted, and not before', () => {
    const city = notice.cities[0]
    const [venue] = city?.venues ?? []
    const seat = {
      paper: '',
      city: city?.id ?? '',
      venue: venue?.id ?? '',
      room: venue?.rooms[0]?.id ?? '',
      session: 'forenoon',
      seat: 1,
      accessible: true,
    }
    const rows = (said: Record<string, RequestWord>) =>
      cardContent(notice, {
        number: 'HL27-1',
        answers: withDecisions(notice, asking, words(asking, said)),
        sittings: [seat],
        roll: '01000017',
        version: 1,
      }, english).sitting.map(({ label, text }) => `${label}: ${text}`)
    expect(rows({}).filter(row => /Scribe|time:/.test(row))).toEqual([])
    // Two hours and a half at 15 minutes an hour are 37.5 minutes: 38.
    expect(rows({ 'scribe': 'granted', 'more-time': 'granted' }))
      .toEqual(expect.arrayContaining(['Compensatory time: 38 minutes more, until 12:53', "Scribe: A scribe of one's own: Tovo Menari"]))
  })
})

describe('an exception', () => {
  const old = {
    ...sampleAnswers,
    bornOn: '1980-03-03',
    posts: ['lighthouse-keeper'],
    ageException: 'yes',
    exceptionWhy: 'three years at a light',
  }
  const verdict = (answers: Answers) => evaluatePosts(notice, answers).find(one => one.post === 'lighthouse-keeper')
  const age = (answers: Answers) => verdict(answers)?.findings.find(finding => finding.origin?.rule === 'age')

  it('leaves open what it asks for, passes a clause by once it is granted, and nothing else', () => {
    expect(verdict({ ...old, ageException: 'no' })?.verdict).toBe('fail')
    expect(age(old)).toMatchObject({
      verdict: 'unsure',
      code: 'eligibility.exception-asked',
      parts: [{ verdict: 'fail', code: 'eligibility.age' }],
    })
    const granted = withDecisions(notice, old, words(old, { 'age-exception': 'granted' }))
    expect([verdict(granted)?.verdict, age(granted)?.code]).toEqual(['pass', 'eligibility.excepted'])
    expect(verdict(withDecisions(notice, old, words(old, { 'age-exception': 'declined' })))?.verdict).toBe('fail')
    // Of other posts, and of other clauses of this one, nothing changes.
    const poor = { ...granted, marksObtained: '100' }
    expect(verdict(poor)?.verdict).toBe('fail')
    const others = (answers: Answers) => evaluatePosts(notice, answers).filter(one => one.post !== 'lighthouse-keeper')
    expect(others(granted)).toEqual(others({ ...old, ageException: 'no' }))
  })
})

describe('more time for a paper', () => {
  it('lets it follow from the moment it is asked for, and not once it is declined', () => {
    const answers = { ...sampleAnswers, category: 'outer-isles', islesCertificate: 'OI-1', certificateLater: 'yes' }
    const files = { 'photograph': 1, 'signature': 1, 'identity-proof': 1 }
    const before = new Date(Date.parse(notice.keyDates.closes) - 1)
    const lacking = (counted: Answers, at?: Date) => emptySlots(notice, counted, files, at).map(slot => slot.id)
    expect([lacking(answers, before), lacking({ ...answers, certificateLater: 'no' }, before)]).toEqual([[], ['category-certificate']])
    // Nobody is accepted without it, and its moment ends.
    expect(lacking(answers)).toEqual(['category-certificate'])
    expect(lacking(answers, new Date(Date.parse(notice.keyDates.cardsFrom)))).toEqual(['category-certificate'])
    expect(lacking(withDecisions(notice, answers, words(answers, { 'late-certificate': 'declined' })), before)).toEqual([
      'category-certificate',
    ])
  })
})

describe('requests of a notice', () => {
  const codes = (change: (requests: Notice['requests']) => unknown[]) =>
    readNotice({ ...sampleNotice(), requests: change(structuredClone(notice.requests)) }).findings.map(one => `${one.code} ${one.at}`)
  it.each<[string, (requests: Notice['requests']) => unknown[], string]>([
    ['one id twice', all => [...all, all[0]], 'id.twice /requests/4/id'],
    ['a clause that is none',
      all => all.map(one => one.kind === 'exception' ? { ...one, clauses: [{ post: 'lighthouse-keeper', clause: 'height' }] } : one),
      'member.unknown /requests/3/clauses/0/clause'],
    ['a post that is none',
      all => all.map(one => one.kind === 'exception' ? { ...one, clauses: [{ post: 'stoker', clause: 'age' }] } : one),
      'member.unknown /requests/3/clauses/0/post'],
    ['a paper that is none', all => all.map(one => one.kind === 'scribe' ? { ...one, papers: ['diary'] } : one),
      'member.unknown /requests/0/papers/0'],
    ['a question that is none', all => all.map(one => one.kind === 'scribe' ? { ...one, about: ['shoeSize'] } : one),
      'member.unknown /requests/0/about/0'],
    ['papers after the cards', all => all.map(one => one.kind === 'late proof' ? { ...one, until: '2027-12-01T00:00:00Z' } : one),
      'dates.order /requests/2/until'],
    ['time into the next session', all => all.map(one => one.kind === 'time' ? { ...one, minutesAnHour: 60 } : one),
      'request.overlap /requests/1/minutesAnHour'],
    ['a condition on nothing', all => all.map(one => one.kind === 'time' ? { ...one, when: { question: 'none', in: ['yes'] } } : one),
      'condition.question /requests/1/when'],
  ])('with %s are told', (_, change, wanted) => {
    expect(codes(change)).toContain(wanted)
  })
  it('of the demo are sound', () => {
    expect(codes(all => all)).toEqual([])
  })
})
