import { randomUUID } from 'node:crypto'
import { eq, inArray } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { Settlement } from '../../core/application/keying'
import { answerChange, application, auditEvent, openMatter, paperForm } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { readDossier } from '../../server/services/applications/dossier'
import { deleteDraft, registerApplication } from '../../server/services/applications/begin'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { listKeying, readKeying } from '../../server/services/keying/list'
import type { Caller } from '../../server/services/context'
import { nextToKey, saveSecondKeying } from '../../server/services/keying/second'
import { findPeople } from '../../server/services/roster/page'
import { openOffice, type Office } from '../support/office'
import { problemOf as refusedAs } from '../support/problem'
import { sampleAnswers, testNow } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
beforeEach(() => {
  office.now = testNow
})

const problemOf = async (work: Promise<unknown>) => (await refusedAs(work)).code
const third = () => office.as('officer', 'auditor')
const stands = async (id: string) => (await readKeying(office.as(), id)).state

/** A paper form that the officer has begun. */
async function paper(receivedAt = office.now, reference = 'Box 3'): Promise<string> {
  const id = randomUUID()
  await registerApplication(office.as(), office.cycle, id, {}, { receivedAt: receivedAt.toISOString(), reference })
  return id
}
/** One that was keyed the first time. */
async function keyedOnce(change: Record<string, string> = {}): Promise<string> {
  const id = await paper()
  await saveAnswers(office.as(), id, { revision: 0, changes: { ...sampleAnswers, ...change } })
  await office.act(id, 'finish-keying')
  return id
}

describe('a paper form', () => {
  it('is keyed by two people and holds at once where they agree', async () => {
    const id = await keyedOnce()
    expect(await problemOf(office.act(id, 'submit', { revision: 1, declared: true }))).toBe('act.keying')
    expect(await problemOf(saveAnswers(office.as(), id, { revision: 1, changes: { address: 'Quay 9' } }))).toBe('act.keyed-once')
    await saveSecondKeying(office.second(), id, sampleAnswers)
    await office.act(id, 'finish-second-keying', {}, office.second())
    const view = await readKeying(office.as(), id)
    expect([view.state, view.differences, view.settled?.by, (view.compared ?? 0) > 10]).toEqual(['agreed', [], null, true])
    // What two people have read off the paper is changed with a reason only, as a candidate's own word is.
    expect(await problemOf(saveAnswers(office.as(), id, { revision: 1, changes: { address: 'Quay 9' } }))).toBe('act.reason')
    await saveAnswers(office.as(), id, { revision: 1, changes: { address: 'Quay 9' } }, { reason: 'a slip of both' })
    expect((await office.db.select().from(openMatter).where(eq(openMatter.applicationId, id))).filter(matter => matter.kind === 'keying')
      .map(matter => [matter.about, matter.clearedAt !== null])).toEqual([['second', true]])
  })

  it('is not shown to whoever keys it the second time, and never to be keyed by one person twice', async () => {
    const id = await keyedOnce()
    expect(await problemOf(saveSecondKeying(office.as(), id, { address: 'x' }))).toBe('keying.same-person')
    expect(await problemOf(office.act(id, 'finish-second-keying'))).toBe('act.keying-others')
    expect((await saveSecondKeying(office.second(), id, {})).keyed).toEqual({})
    expect(await problemOf(readDossier(office.second(), id))).toBe('keying.blind')
    const seen = async (who: Caller) =>
      (await findPeople(who, office.cycle, (await readKeying(who, id)).number)).map(row => [row.name, row.mobile, row.category])
    expect([await seen(office.second()), (await readKeying(office.second(), id)).name]).toEqual([[['', '', '']], ''])
    expect((await seen(office.as()))[0]?.[0]).not.toBe('')
    expect(await problemOf(office.act(id, 'finish-second-keying', {}, office.second()))).toBe('act.keyed-nothing')
    await saveSecondKeying(office.second(), id, { address: 'Quay 2' })
    // What the second has typed is theirs alone until it is done.
    expect((await readKeying(office.as(), id)).keyed).toEqual({})
    expect(await problemOf(saveSecondKeying(third(), id, { address: 'Quay 3' }))).toBe('keying.in-hand')
    expect(await problemOf(office.act(id, 'take-back-keying'))).toBe('act.keying-begun')
    office.pass(31)
    expect((await saveSecondKeying(third(), id, { email: 'a@b.example' })).keyed).toEqual({ email: 'a@b.example' })
    // What the one before had typed is kept aside.
    expect((await office.db.select({ earlier: paperForm.earlier }).from(paperForm).where(eq(paperForm.applicationId, id)))[0]?.earlier)
      .toMatchObject([{ by: office.second().principal.id, answers: { address: 'Quay 2' } }])
  })

  it('takes what somebody has read off the paper where they differ, and leaves a row of each', async () => {
    const id = await keyedOnce({ address: 'Quay 17', email: 'one@ferry.example' })
    await saveSecondKeying(office.second(), id, {
      ...sampleAnswers,
      address: 'Quay 71',
      email: 'two@ferry.example',
      certificateName: 'Tavirel Osk',
    })
    await office.act(id, 'finish-second-keying', {}, office.second())
    expect((await readKeying(third(), id)).differences.map(one => one.question).sort()).toEqual(['address', 'certificateName', 'email'])
    const word = (question: string, keep: 'first' | 'second' | 'anew', answer = ''): Settlement => ({
      question,
      row: null,
      column: null,
      ...keep === 'anew' ? { keep, answer } : { keep },
    })
    const said = [word('address', 'anew', ' Quay  77 '), word('email', 'second'), word('certificateName', 'first')]
    expect(await problemOf(office.act(id, 'settle-keying', { settlements: said.slice(1) }))).toBe('keying.unsettled')
    expect(await stands(id)).toBe('differing')
    await office.act(id, 'settle-keying', { settlements: said }, third())
    const { answers } = await office.dossier(id)
    expect([answers.address, answers.email, answers.certificateName]).toEqual(['Quay 77', 'two@ferry.example',
      sampleAnswers.certificateName])
    const rows = await office.db.select({ question: answerChange.question, after: answerChange.after, by: answerChange.by })
      .from(answerChange).where(eq(answerChange.applicationId, id))
    expect(rows.filter(row => row.by === third().principal.id).map(row => [row.question, row.after]).sort()).toEqual([['address',
      'Quay 77'], ['email', 'two@ferry.example']])
    expect((await office.db.select({ act: auditEvent.act }).from(auditEvent).where(eq(auditEvent.subject, id)).orderBy(auditEvent.id)).map(
      row => row.act
    )).toEqual(['begin', 'save-answers', 'finish-keying', 'finish-second-keying', 'settle-keying'])
    expect((await listKeying(office.as(), office.cycle, 'agreed')).figures).toMatchObject({ first: 1, second: 1, anew: 1, differing: 3 })
  })

  it('counts from when it came in: dates, lapsing and what is late', async () => {
    office.now = new Date(Date.parse(office.notice.keyDates.closes) - 3_600_000)
    const came = office.now
    const before = await paper(came)
    office.pass(3 * 24 * 60)
    const after = await paper(came, 'in the letter box before the close')
    await saveAnswers(office.as(), after, { revision: 0, changes: sampleAnswers })
    await lapseOverdue(office.product)
    expect(await office.db.select({ form: application.form, outside: application.openUntil }).from(application)
      .where(eq(application.id, before))).toEqual([{ form: 'drafting', outside: null }])
    expect(await problemOf(paper(office.now))).toBe('dates.closed')
    expect(await problemOf(paper(new Date(office.now.getTime() + 60_000)))).toBe('keying.from-the-future')
    await office.act(after, 'finish-keying')
    await saveSecondKeying(office.second(), after, sampleAnswers)
    await office.act(after, 'finish-second-keying', {}, office.second())
    await office.addPictures(after)
    await office.addPapers(after)
    await office.act(after, 'submit', { revision: 1, declared: true })
    expect((await office.dossier(after)).submittedAt).toBe(came.toISOString())
    // Only keying it and handing it in count from then: what is done afterwards, or by whoever was given access, goes by the clock.
    const owner = await office.candidate()
    await office.db.update(application).set({ ownerId: owner.id }).where(inArray(application.id, [before, after]))
    expect(await problemOf(office.act(after, 'take-back-submission', {}, office.by(owner)))).toBe('dates.closed')
    expect(await problemOf(saveAnswers(office.by(owner), before, { revision: 0, changes: { address: 'Quay 1' } }))).toBe('dates.closed')
    expect(await problemOf(office.act(before, 'submit', { revision: 0, declared: true }, office.by(owner)))).toBe('act.keying')
  }, 120_000)

  it('goes to two people who ask at once as two forms, the longest wait first', async () => {
    const [old, young] = [await keyedOnce(), await keyedOnce()]
    await office.db.update(paperForm).set({ secondBy: null, secondSeen: null })
    await office.db.update(application).set({ receivedAt: new Date(testNow.getTime() - 86_400_000) }).where(eq(application.id, old))
    const taken = await Promise.all([nextToKey(office.second(), office.cycle), nextToKey(third(), office.cycle)])
    expect(new Set(taken.map(one => one.id)).size).toBe(2)
    expect(taken.map(one => one.id)).toContain(old)
    expect((await nextToKey(office.second(), office.cycle)).id).toBe(taken[0].id)
    expect(await nextToKey(office.as(), office.cycle)).toEqual({ id: null })
    const list = await listKeying(office.as(), office.cycle, 'second')
    expect([list.open, list.rows[0]?.id, list.rows.every(row => row.isOwnFirst), list.rows.some(row => row.id === young)]).toEqual([0, old,
      true, true])
  })

  it('that is empty is deleted with what was kept of it', async () => {
    const id = await paper()
    expect(await problemOf(office.act(id, 'finish-keying'))).toBe('act.keyed-nothing')
    await deleteDraft(office.as(), id)
    expect(await problemOf(readKeying(office.as(), id))).toBe('keying.unknown')
  })
})
