import { randomUUID } from 'node:crypto'
import { and, eq, isNull } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Answers } from '../../core/application/answers'
import { admitCard, auditEvent, image, letter, message, openMatter, scrutinyCase, seat } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { readDossier } from '../../server/services/applications/dossier'
import { saveCorrection } from '../../server/services/corrections/draft'
import { readCorrection } from '../../server/services/corrections/view'
import { readApplication } from '../../server/services/applications/store'
import { postLetter, carryLetters } from '../../server/services/letters/outbox'
import { writeLetters } from '../../server/services/letters/write'
import { keepFile, bringFile } from '../../server/services/files/bytes'
import { readRoster } from '../../server/services/roster/page'
import { sortCases } from '../../server/services/scrutiny/sorting'
import { addImage } from '../../server/services/images/store'
import { inspectorWith } from '../../pictures/inspect'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import type { Principal } from '../../core/access/principal'
import { early, openOffice, type Office } from '../support/office'
import { rosterQuerySchema } from '../../shared/applications'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const reason = 'the physician says so'
const disabled: Answers = { pwd: 'yes', pwdDegree: 'below', pwdKind: 'movement', stepFree: 'no' }
const wantsScribe: Answers = { ...disabled, scribe: 'yes', scribeName: 'Tovo Menari' }

/** An application that asks for something and waits in scrutiny, with the papers named. */
async function waiting(changes: Answers, papers: string[] = [], owner?: Principal): Promise<string> {
  const id = await office.complete(owner)
  await saveAnswers(owner ? office.by(owner) : office.as(), id, { revision: 1, changes })
  const sha256 = await office.db.transaction(async tx => keepFile(tx, await bringFile(office.db, Buffer.from('a paper'))))
  if (papers.length > 0) {
    await office.db.insert(image).values(papers.map(kind => ({
      id: randomUUID(),
      applicationId: id,
      kind,
      version: 1,
      sha256,
      state: 'measured' as const,
      displaySha256: sha256,
      format: 'jpeg',
      width: 10,
      height: 10,
      findings: [],
      by: office.as().principal.id,
      at: office.now,
    })))
  }
  await office.act(id, 'submit', { revision: 2, declared: true })
  await office.settle(id)
  return id
}
const decide = (id: string, request: string, word: 'granted' | 'declined', by = office.as('scrutineer')) =>
  office.act(id, 'decide-request', { request, word, reason }, by)
const kinds = async (id: string) => (await office.dossier(id)).matters.map(matter => matter.kind)
const lane = async (id: string) => {
  await sortCases(office.product)
  return (await office.db.select().from(scrutinyCase).where(eq(scrutinyCase.applicationId, id)))[0]?.lane
}

describe('what somebody asks for', () => {
  it('stands in its queue, keeps an acceptance waiting, and is told with the reason once it is decided', async () => {
    const owner = await office.candidate()
    const id = await waiting(wantsScribe, ['disability-certificate', 'scribe-paper'], owner)
    expect([await lane(id), await kinds(id)]).toEqual(['requests', expect.arrayContaining(['request-open'])])
    expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.request-open' })
    expect(await problemOf(decide(id, 'scribe', 'granted', office.as('accounts')))).toMatchObject({ code: 'access.role' })
    expect(await problemOf(decide(id, 'more-time', 'granted'))).toMatchObject({ code: 'request.none' })
    expect(await problemOf(office.act(id, 'decide-request', { request: 'scribe', word: 'granted' }, office.as('scrutineer'))))
      .toMatchObject({ code: 'act.reason' })
    await Promise.allSettled([decide(id, 'scribe', 'granted'), decide(id, 'scribe', 'granted', office.second('scrutineer'))])
    const own = await readDossier(office.by(owner), id)
    expect(own.requests).toMatchObject([{
      id: 'scribe',
      word: 'granted',
      decisions: [{ word: 'granted', reason, by: office.notice.body.name }],
    }])
    expect(own.matters.map(m => m.kind)).not.toContain('request-open')
    expect(await office.db.select().from(message).where(and(eq(message.applicationId, id), eq(message.kind, 'decide-request'))))
      .toHaveLength(1)
    expect(await lane(id)).not.toBe('requests')
    expect((await readRoster(office.as(), office.cycle, rosterQuerySchema.parse({ is: 'asked:scribe=granted', limit: 10 }))).rows.map(row =>
      row.id
    )).toContain(id)
    await office.act(id, 'accept', {}, office.as('scrutineer'))
    // Decided anew while no seat is known; the candidate is told again.
    office.pass(1)
    await decide(id, 'scribe', 'declined')
    expect((await office.dossier(id)).requests[0]?.decisions.map(one => one.word)).toEqual(['declined', 'granted'])
    expect(await office.db.select().from(auditEvent).where(and(eq(auditEvent.subject, id), eq(auditEvent.act, 'decide-request'))))
      .toHaveLength(2)
  })

  it('shuts a post again when an exception is declined after acceptance, and the case waits anew', async () => {
    const id = await waiting({
      bornOn: '1980-01-01',
      posts: ['lighthouse-keeper'],
      ageException: 'yes',
      exceptionWhy: 'three years at a light',
    })
    await decide(id, 'age-exception', 'granted')
    expect((await office.dossier(id)).verdicts.find(v => v.post === 'lighthouse-keeper')?.verdict).toBe('pass')
    await office.act(id, 'accept', {}, office.as('scrutineer'))
    await decide(id, 'age-exception', 'declined')
    expect(await office.dossier(id)).toMatchObject({ tracks: { scrutiny: 'waiting' } })
    expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'decision.findings-failed' })
  })

  it('falls when what it rests on is corrected or its paper replaced, and waits for the office again', async () => {
    const id = await waiting(wantsScribe, ['disability-certificate', 'scribe-paper'])
    await decide(id, 'scribe', 'granted')
    await office.act(id, 'return', {
      reasons: [{ item: 'scribeName', reason: 'which one?' }, { item: 'scribe-paper', reason: 'unreadable' }],
    }, office.as('scrutineer'))
    const paper = await drawPortrait(new Random(5), 'none')
    await addImage(office.as(), inspectorWith(), id, 'scribe-paper', { bytes: paper })
    expect((await readApplication(office.db, id)).requests).toEqual({})
    const { revision } = await readApplication(office.db, id)
    await office.act(id, 'submit', { revision, declared: true })
    expect(await kinds(id)).toContain('request-open')
    await decide(id, 'scribe', 'granted')
    await office.act(id, 'return', { reasons: [{ item: 'scribeName', reason: 'another scribe came' }] }, office.as('scrutineer'))
    await saveAnswers(office.as(), id, { revision, changes: { scribeName: 'Orla Feth' } })
    await office.act(id, 'submit', { revision: revision + 1, declared: true })
    expect((await office.dossier(id)).requests).toMatchObject([{ word: null, decisions: [{ word: 'granted' }, { word: 'granted' }] }])
  })

  it('gives the granted a step-free seat, stands on the card, and is not turned round once a seat is known', async () => {
    const id = await waiting({ ...wantsScribe, moreTime: 'yes' }, ['disability-certificate', 'scribe-paper'])
    await decide(id, 'scribe', 'granted')
    await decide(id, 'more-time', 'granted')
    await office.act(id, 'accept', {}, office.as('scrutineer'))
    await office.publish((await office.run()).runId)
    const [held] = await office.db.select().from(seat).where(eq(seat.applicationId, id))
    expect(held?.accessible).toBe(true)
    expect(await problemOf(decide(id, 'more-time', 'declined'))).toMatchObject({ code: 'request.published' })
    await office.act(id, 'issue-card', early)
    const [card] = await office.db.select().from(admitCard).where(and(eq(admitCard.applicationId, id), isNull(admitCard.voidAt)))
    expect(card?.content.sitting.map(row => row.label)).toEqual(expect.arrayContaining(['Compensatory time', 'Scribe']))
  })

  it('brought by a correction after the card is out makes the card void, and the next one waits for the office', async () => {
    const always = { opens: '2026-11-01T00:00:00Z', closes: '2027-03-01T00:00:00Z' }
    const other = await openOffice({
      corrections: [{ id: 'scribe', title: 'The scribe', items: ['scribeName'], by: ['office'], takesEffect: 'looked at', ...always }],
    })
    try {
      const [former, its] = [office, reason]
      office = other
      const id = await waiting(wantsScribe, ['disability-certificate', 'scribe-paper'])
      await decide(id, 'scribe', 'granted')
      await office.act(id, 'accept', {}, office.as('scrutineer'))
      await office.publish((await office.run()).runId)
      await office.issue(id)
      await saveCorrection(office.as(), id, { changes: { scribeName: 'Orla Feth' }, reason: its })
      await office.act(id, 'ask-correction', {})
      expect((await readCorrection(office.as('scrutineer'), id)).effects?.card).toBe('void')
      await office.act(id, 'accept-correction', {}, office.as('scrutineer'))
      expect(await office.dossier(id)).toMatchObject({
        tracks: { scrutiny: 'accepted', placement: 'published', card: 'not issued' },
        requests: [{ word: null }],
        matters: expect.arrayContaining([expect.objectContaining({ kind: 'request-open', holds: 'card' })]) as unknown,
      })
      expect(await office.issue(id)).toBe('withheld')
      await decide(id, 'scribe', 'granted')
      await office.act(id, 'let-card-go', { reason: its })
      expect(await office.issue(id)).toBe('issued')
      const [card] = await office.db.select().from(admitCard).where(and(eq(admitCard.applicationId, id), isNull(admitCard.voidAt)))
      expect(card?.content.sitting.find(row => row.label === 'Scribe')?.text).toContain('Orla Feth')
      office = former
    } finally {
      await other.close()
    }
  })

  it('may be confirmed by a second person where the notice says so', async () => {
    const strict = await openOffice({ secondPerson: ['decide-request'] })
    try {
      const id = await strict.complete()
      await saveAnswers(strict.as(), id, {
        revision: 1,
        changes: { posts: ['lighthouse-keeper'], ageException: 'yes', exceptionWhy: 'a light' },
      })
      await strict.act(id, 'submit', { revision: 2, declared: true })
      await strict.act(id, 'decide-request', { request: 'age-exception', word: 'granted', reason }, strict.as('scrutineer'))
      expect((await strict.dossier(id)).requests[0]?.word).toBeNull()
      expect((await strict.dossier(id)).proposals).toHaveLength(1)
    } finally {
      await strict.close()
    }
  })
})

describe('a message that does not arrive', () => {
  it('is a matter of the office until one arrives at the address', async () => {
    const owner = await office.candidate('Unreached', 'gone@post.example')
    const id = await office.complete(owner)
    const send = async (arrives: boolean) => {
      office.now = new Date(office.now.getTime() + 1000)
      await postLetter(office.db, await office.context(), {
        principalId: owner.id,
        channel: 'email',
        address: 'gone@post.example',
        subject: 'a',
        body: 'b',
      })
      await writeLetters(office.product)
      await carryLetters(office.product, { take: () => Promise.resolve(arrives ? 'taken' : 'refused') })
    }
    await saveAnswers(office.by(owner), id, { revision: 1, changes: {} })
    const { revision } = await readApplication(office.db, id)
    await office.act(id, 'submit', { revision, declared: true }, office.by(owner))
    await send(false)
    expect(await kinds(id)).toContain('message-bounced')
    expect(await office.db.select().from(openMatter)
      .where(and(eq(openMatter.applicationId, id), eq(openMatter.kind, 'message-bounced'), isNull(openMatter.clearedAt)))).toHaveLength(1)
    expect((await office.db.select().from(letter).where(eq(letter.principalId, owner.id))).some(one => one.state === 'refused')).toBe(true)
    await send(true)
    expect(await kinds(id)).not.toContain('message-bounced')
  })
})
