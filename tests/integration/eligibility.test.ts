import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { eq, inArray } from 'drizzle-orm'
import { openOffice, type Office } from '../support/office'
import { sampleNotice } from '../support/sample'
import { evaluatePosts } from '../../core/eligibility/evaluate'
import type { Notice } from '../../core/notice/schema'
import { answersThatCount } from '../../core/eligibility/claims'
import type { Answers } from '../../core/application/answers'
import { application, postVerdict, review } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { ruleOnClaim } from '../../server/services/eligibility/claims'
import { runReview } from '../../server/services/eligibility/review-run'
import { discardReview, openReview, readReview } from '../../server/services/eligibility/reviews'
import { acceptReview } from '../../server/services/eligibility/take-over'
import { currentNotice, proposeNotice, putNotice } from '../../server/services/notice/notices'
import { orderPdf } from '../../server/services/scrutiny/order'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

/** Somebody of 25, of the Outer Isles: a pilot cadet by that claim alone. */
const islander = { category: 'outer-isles', islesCertificate: 'OI-1', bornOn: '2001-06-15', posts: ['pilot-cadet'] }
const everything = { limit: 100 }
const goOn = async () => true
const refusal = (kind: string) => ({ problem: { kind } })

async function reviewed(version: number | null = null): Promise<string> {
  const id = randomUUID()
  await office.db.transaction(async tx => openReview(tx, await office.context(), office.cycle, id, version))
  await runReview(office.as(), id, goOn)
  return id
}
const propose = (change: (notice: Notice) => void) => {
  const notice = structuredClone(sampleNotice())
  change(notice)
  return office.db.transaction(async tx => proposeNotice(tx, await office.context(), office.cycle, notice, 'A bound is corrected.'))
}

describe('a claim found false', () => {
  it('takes verdict, fee and queue with it, keeps what was typed, and can be let stand again', async () => {
    const id = await office.accepted(islander)
    const before = await office.dossier(id)
    expect(before.verdicts).toEqual(evaluatePosts(office.notice, before.answers))
    expect(before.claims).toMatchObject([{
      claim: 'outer-isles',
      foundFalse: false,
      fee: 16_000,
      posts: [{ post: 'pilot-cadet', now: 'pass', without: 'fail' }],
    }])
    await ruleOnClaim(office.as('scrutineer'), id, 'outer-isles', { ruling: 'false', reason: 'The certificate names another person.' })
    const after = await office.dossier(id)
    expect(after.answers.category).toBe('outer-isles')
    expect(after.counted.category).toBe('general')
    expect(after.verdicts.find(v => v.post === 'pilot-cadet')?.verdict).toBe('fail')
    expect(after.tracks).toMatchObject({ fee: 'due', scrutiny: 'not started' })
    expect(after.assessment?.total).toBe((before.assessment?.total ?? 0) + 16_000)
    expect(after.rulings).toMatchObject([{ claim: 'outer-isles', ruling: 'false', by: 'the scrutineer' }])
    const told = after.history.find(h => h.act === 'rule-on-claim')
    expect(told).toMatchObject({
      reason: 'The certificate names another person.',
      before: { verdicts: { 'pilot-cadet': 'pass' }, falseClaims: [] },
      after: { verdicts: { 'pilot-cadet': 'fail' }, falseClaims: ['outer-isles'] },
    })
    await ruleOnClaim(office.as('scrutineer'), id, 'outer-isles', { ruling: 'stands', reason: 'The right certificate came.' })
    expect(await office.dossier(id)).toMatchObject({
      counted: { category: 'outer-isles' },
      tracks: { fee: 'settled', scrutiny: 'waiting' },
    })
  })

  it('is ruled on once for a repeated press, by scrutiny, after submission, before a seat is published', async () => {
    const id = await office.paid(islander)
    const ruling = { ruling: 'false', reason: 'Not issued by a district office.' } as const
    await Promise.all([1, 2, 3].map(() => ruleOnClaim(office.as('scrutineer'), id, 'outer-isles', ruling)))
    expect((await office.dossier(id)).rulings).toHaveLength(1)
    await expect(ruleOnClaim(office.as('auditor'), id, 'outer-isles', ruling)).rejects.toMatchObject(refusal('not-allowed'))
    await expect(ruleOnClaim(office.as('scrutineer'), id, 'pwd', ruling)).rejects.toMatchObject(refusal('bad-input'))
    await expect(ruleOnClaim(office.as('scrutineer'), await office.draft(islander), 'outer-isles', ruling)).rejects
      .toMatchObject(refusal('not-now'))
    const seated = await office.accepted({ ...islander, cities: ['skarnholm'] })
    const { runId } = await office.run()
    await office.publish(runId)
    await expect(ruleOnClaim(office.as('scrutineer'), seated, 'outer-isles', ruling)).rejects.toMatchObject(refusal('not-now'))
  })
})

describe('answers changed after a decision', () => {
  it('are marked with what stood there', async () => {
    const id = await office.paid()
    await office.act(id, 'return', { reasons: [{ item: 'marksObtained', reason: 'The certificate says 398.' }] }, office.as('scrutineer'))
    office.pass(5)
    const { revision } = await office.dossier(id)
    await saveAnswers(office.as(), id, { revision, changes: { marksObtained: '390' } })
    await saveAnswers(office.as(), id, { revision: revision + 1, changes: { marksObtained: '398' } })
    await office.act(id, 'submit', { revision: revision + 2, declared: true })
    expect((await office.dossier(id)).changed).toMatchObject([{ question: 'marksObtained', before: '412', by: 'the officer' }])
  })
})

describe('a review', () => {
  it('judges nothing twice that hangs on the same facts and rules', async () => {
    const id = await office.submitted(islander)
    const first = await readReview(office.as(), await reviewed(), everything)
    expect(first.totals).toMatchObject({ judged: 0, differences: 0 })
    expect(first.totals.kept).toBe(first.totals.applications * 4)
    // A fact changed behind the services' back: only what reads it is judged again.
    await office.db.update(application).set({ answers: { ...(await office.dossier(id)).answers, attempts: '9' } })
      .where(eq(application.id, id))
    const second = await readReview(office.as(), await reviewed(), everything)
    expect(second.totals).toMatchObject({ judged: 2, differences: 1 })
    expect(second.differences).toMatchObject([{
      applicationId: id,
      post: 'pilot-cadet',
      before: 'pass',
      after: 'fail',
      clauses: '4.5',
      chosen: true,
    }])
  })

  it('shows what an amended notice would change, changes nothing until it is accepted, and then all at once', async () => {
    const id = await office.accepted({ ...islander, bornOn: '2003-06-15', category: 'general' })
    const { version } = await currentNotice(office.db, office.cycle)
    const proposed = await propose((notice) => {
      const rule = notice.posts[0]?.clauses[0]?.rule
      if (rule?.kind === 'age') rule.maxYears = 22
    })
    const reviewId = await reviewed(proposed)
    const listed = await readReview(office.as('auditor'), reviewId, everything)
    expect(listed.amendments).toHaveLength(1)
    expect(listed.differences)
      .toContainEqual(expect.objectContaining({ applicationId: id, post: 'pilot-cadet', before: 'pass', after: 'fail', clauses: '4.1' }))
    expect((await currentNotice(office.db, office.cycle)).version).toBe(version)
    expect((await office.dossier(id)).tracks.scrutiny).toBe('accepted')
    await expect(acceptReview(office.as('scrutineer'), reviewId)).rejects.toMatchObject(refusal('not-allowed'))
    office.pass(1)
    expect((await acceptReview(office.as(), reviewId)).sentBack).toBeGreaterThan(0)
    expect((await currentNotice(office.db, office.cycle)).version).toBe(proposed)
    expect((await office.dossier(id)).tracks.scrutiny).toBe('waiting')
    await expect(acceptReview(office.as(), reviewId)).rejects.toMatchObject(refusal('conflict'))
    expect((await readReview(office.as(), await reviewed(), everything)).totals).toMatchObject({ differences: 0, judged: 0 })
    await putNotice(office.as(), sampleNotice())
  })

  it('leaves out what changed meanwhile, gives way to a newer notice, and can be laid aside or stopped', async () => {
    const id = await office.submitted({ ...islander, bornOn: '2003-06-15', category: 'general' })
    await reviewed().then(made => acceptReview(office.as(), made))
    const stricter = (years: number) =>
      propose((notice) => {
        const rule = notice.posts[0]?.clauses[0]?.rule
        if (rule?.kind === 'age') rule.maxYears = years
      })
    const [one, two] = [await reviewed(await stricter(21)), await reviewed(await stricter(20))]
    office.pass(1)
    await office.db.update(application).set({ updatedAt: office.now }).where(eq(application.id, id))
    expect((await acceptReview(office.as(), one)).leftOut).toBe(1)
    await expect(acceptReview(office.as(), two)).rejects.toMatchObject(refusal('conflict'))
    await discardReview(office.as(), two)
    const stopped = randomUUID()
    await office.db.transaction(async tx => openReview(tx, await office.context(), office.cycle, stopped, null))
    await expect(runReview(office.as(), stopped, async () => false)).rejects.toMatchObject(refusal('not-now'))
    const states = await office.db.select({ id: review.id, state: review.state }).from(review)
    expect(states).toContainEqual({ id: two, state: 'discarded' })
    expect(states).toContainEqual({ id: stopped, state: 'discarded' })
    await putNotice(office.as(), sampleNotice())
  })

  it("keeps verdicts equal to the engine's for everybody, whatever was changed in between", async () => {
    const facts: Answers[] = [{ bornOn: '1999-05-05' }, { marksObtained: '210' }, { nationality: 'foreign' }, { attempts: '6' }, {
      resultForm: 'subjects',
      subjects: [],
    }, { certificateName: 'Another Name' }]
    for (const change of facts) {
      const id = await office.submitted({ posts: ['port-clerk'] })
      await office.db.update(application).set({ answers: { ...(await office.dossier(id)).answers, ...change } })
        .where(eq(application.id, id))
    }
    office.pass(1)
    await acceptReview(office.as(), await reviewed())
    const rows = await office.db.select().from(application).where(inArray(application.form, ['submitted', 'correcting']))
    const kept = await office.db.select().from(postVerdict)
    for (const row of rows.filter(r => r.scrutiny !== 'refused')) {
      const wanted = evaluatePosts(office.notice, answersThatCount(office.notice, row.answers, row.falseClaims)).map(
        v => [v.post, v.verdict]
      )
      expect(kept.filter(v => v.applicationId === row.id).map(v => [v.post, v.verdict]).sort()).toEqual(wanted.sort())
    }
    expect((await readReview(office.as(), await reviewed(), everything)).totals).toMatchObject({ judged: 0, differences: 0 })
  })

  it('once listed and accepted is not made anew when its work is handed out again', async () => {
    const id = await office.submitted(islander)
    await office.db.update(application).set({ answers: { ...(await office.dossier(id)).answers, attempts: '9' } })
      .where(eq(application.id, id))
    const made = await reviewed()
    const before = await readReview(office.as(), made, everything)
    expect(before.differences.length).toBeGreaterThan(0)
    office.pass(1)
    await acceptReview(office.as(), made)
    expect(await runReview(office.as(), made, goOn)).toMatchObject({ differences: before.totals.differences })
    expect(await readReview(office.as(), made, everything)).toMatchObject({ state: 'accepted', differences: before.differences })
  })

  it('refuses a notice with faults, of another cycle, or without a change', async () => {
    await expect(propose((n) => {
      n.code = 'XX99'
    })).rejects.toMatchObject(refusal('bad-input'))
    await expect(propose(() => undefined)).rejects.toMatchObject(refusal('bad-input'))
    await expect(propose((n) => {
      n.posts[0]?.clauses.splice(0, 6)
    })).rejects.toMatchObject({
      problem: { kind: 'bad-input', message: expect.stringContaining('Posts › Pilot cadet › Clauses: Needs at least 1 entry.') },
    })
  })
})

describe('the order of refusal', () => {
  it('names clause, finding, false claim and what is still open, read back with poppler', async () => {
    const id = await office.paid(islander)
    await ruleOnClaim(office.as('scrutineer'), id, 'outer-isles', { ruling: 'false', reason: 'The certificate names another person.' })
    await office.db.update(application).set({ fee: 'settled', headline: 'in scrutiny' }).where(eq(application.id, id))
    await expect(orderPdf(office.as(), id)).rejects.toMatchObject(refusal('not-now'))
    await office.act(id, 'refuse', {
      reasons: [{ item: 'pilot-cadet', reason: 'Above the age of clause 4.1 without the relaxation claimed.' }],
    }, office.as('scrutineer'))
    const { pdf } = await orderPdf(office.as('auditor'), id)
    const file = join(mkdtempSync(join(tmpdir(), 'lucid-order-')), 'order.pdf')
    writeFileSync(file, pdf)
    const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).replace(/\s+/g, ' ')
    for (
      const wanted of ['Order of refusal', 'Tavirel Osk-Anundé', 'Clause 4.1', 'Not below 18 and not above 24 years', 'Claims found false',
        'names another person', 'What is still open', 'Port clerk']
    ) expect(text).toContain(wanted)
  })
})
