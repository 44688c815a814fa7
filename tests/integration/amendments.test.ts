import { and, eq, isNull, sql } from 'drizzle-orm'
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Notice } from '../../core/notice/schema'
import { isBalanced, type LedgerLine } from '../../core/fees/ledger'
import {
  auditEvent,
  feeAssessment,
  job,
  ledgerLine,
  ledgerTransaction,
  message,
  openMatter,
  postVerdict,
  review,
} from '../../server/database/schema'
import { runReview } from '../../server/services/eligibility/review-run'
import { discardReview, openReview, readReview } from '../../server/services/eligibility/reviews'
import { acceptReview, takeOverAgreed } from '../../server/services/eligibility/take-over'
import { ruleOnClaim } from '../../server/services/eligibility/claims'
import { settleAllAnew } from '../../server/services/acts/matters-anew'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { assessAllAnew } from '../../server/services/fees/anew'
import { moveDates } from '../../server/services/notice/dates'
import { versionsInForce } from '../../server/services/notice/in-force'
import { currentNotice, proposeNotice, putNotice } from '../../server/services/notice/notices'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const goOn = async () => true
const later = (at: string, days: number) => new Date(Date.parse(at) + days * 86_400_000).toISOString()

/** An amendment of the notice in force, reviewed and listed. */
async function amended(change: (notice: Notice) => void, reason = 'The board has decided so.'): Promise<string> {
  const { notice } = await currentNotice(office.db, office.cycle)
  const copy = structuredClone(notice)
  change(copy)
  const id = randomUUID()
  await office.db.transaction(async (tx) => {
    const context = await office.as().authorise('notice.amend')
    await openReview(tx, context, office.cycle, id, await proposeNotice(tx, context, office.cycle, copy, reason), reason)
  })
  await runReview(office.as(), id, goOn)
  return id
}
const dearer = (by: number) => (notice: Notice) => {
  for (const row of notice.fees.base) row.amount += by
}
const list = (id: string) => readReview(office.as('auditor'), id, { limit: 100 })
const feeOf = async (id: string) => (await office.dossier(id)).assessment?.total
const versionsOf = async (id: string) =>
  (await office.db.select().from(feeAssessment).where(eq(feeAssessment.applicationId, id)).orderBy(feeAssessment.version)).map(row =>
    row.noticeVersion
  )

describe('an amendment of the fees', () => {
  it("says what it would do, and leaves fees of those who are in where that is the officer's word", async () => {
    const paid = await office.at('scrutiny')
    const before = await feeOf(paid) ?? 0
    const id = await amended(dearer(1000))
    const listed = await list(id)
    expect(listed).toMatchObject({
      reason: 'The board has decided so.',
      fees: null,
      totals: { differences: 0, fees: { more: 1, moreBy: 1000, less: 0, dueAgain: 1, owedBack: 0 } },
    })
    expect(listed.feeChanges.rows).toMatchObject([{ applicationId: paid, before, after: before + 1000, received: before }])
    await acceptReview(office.as(), id, { fees: 'kept' })
    expect(await feeOf(paid)).toBe(before)
    // A claim ruled on later does not bring the new schedule in by a back door.
    const [claim] = (await office.dossier(paid)).claims
    if (claim) await ruleOnClaim(office.as('scrutineer'), paid, claim.claim, { ruling: 'false', reason: 'No paper of it.' })
    if (claim) await ruleOnClaim(office.as('scrutineer'), paid, claim.claim, { ruling: 'stands', reason: 'It was found.' })
    expect(await feeOf(paid)).toBe(before)
    // Who comes after it pays by it.
    const fresh = await office.at('scrutiny')
    expect(await feeOf(fresh)).toBe(before + 1000)
    const { version } = await currentNotice(office.db, office.cycle)
    expect(await versionsOf(fresh)).toEqual([version])
    expect((await office.db.select({ version: postVerdict.noticeVersion }).from(postVerdict).where(eq(postVerdict.applicationId, fresh)))[
      0
    ]).toEqual({ version })
  })

  it('assesses everybody anew where it says so: differences booked and told once, however often the work runs', async () => {
    const [paid, other] = [await office.at('scrutiny'), await office.at('accepted')]
    const before = await feeOf(paid) ?? 0
    const raised = await amended(dearer(500))
    await acceptReview(office.as(), raised, { fees: 'anew' })
    expect(await office.db.select({ kind: job.kind, request: job.request }).from(job).where(eq(job.kind, 'assess-anew'))).toEqual([{
      kind: 'assess-anew',
      request: JSON.stringify({ review: raised }),
    }])
    // A process that died half-way leaves the rest to the next.
    await assessAllAnew(office.as(), office.cycle, async () => false)
    await assessAllAnew(office.as(), office.cycle, goOn)
    expect(await assessAllAnew(office.as(), office.cycle, goOn)).toMatchObject({ changed: 0 })
    for (const id of [paid, other]) {
      const dossier = await office.dossier(id)
      expect(dossier).toMatchObject({ assessment: { total: before + 500 }, tracks: { fee: 'due' } })
      const told = await office.db.select().from(message).where(sql`${message.applicationId} = ${id} and ${message.kind} = 'assess-fee'`)
      expect(told.map(row => row.parameters)).toEqual([{ before, after: before + 500 }])
    }
    expect((await office.dossier(other)).tracks.scrutiny).toBe('accepted')
    // What is open follows: the fee is due again, and what waits for it waits no longer for anybody else.
    const open = async (id: string) =>
      (await office.db.select({ kind: openMatter.kind }).from(openMatter)
        .where(and(eq(openMatter.applicationId, id), isNull(openMatter.clearedAt)))).map(row => row.kind)
    for (const id of [paid, other]) expect(await open(id)).toEqual(['fee-due'])
    const lowered = await amended(dearer(-2000))
    expect((await list(lowered)).totals.fees).toMatchObject({ more: 0, dueAgain: 0, owedBack: 4 })
    await acceptReview(office.as(), lowered, { fees: 'anew' })
    await assessAllAnew(office.as(), office.cycle, goOn)
    expect((await office.dossier(paid)).tracks.fee).toBe('refund due')
    expect(await open(paid)).toEqual(['scrutiny'])
    const books = await office.db.select({ id: ledgerTransaction.id, account: ledgerLine.account, amount: ledgerLine.amount })
      .from(ledgerLine).innerJoin(ledgerTransaction, eq(ledgerTransaction.id, ledgerLine.transactionId))
    const lines = (id: string): LedgerLine[] => books.filter(row => row.id === id)
    expect(books.every(({ id }) => isBalanced(lines(id)))).toBe(true)
  })
})

describe('an amendment with a moment', () => {
  it('waits for it, lets nothing come between, takes in who changed meanwhile, and then holds by the clock', async () => {
    const { version } = await currentNotice(office.db, office.cycle)
    const id = await amended((notice) => {
      const rule = notice.posts[0]?.clauses[0]?.rule
      if (rule?.kind === 'age') rule.maxYears = 19
    })
    const other = await amended(dearer(100))
    const from = new Date(office.now.getTime() + 3_600_000)
    expect(await acceptReview(office.as(), id, { from: from.toISOString() })).toMatchObject({ from: from.toISOString() })
    await expect(acceptReview(office.as(), other)).rejects.toMatchObject({ problem: { code: 'review.waits' } })
    await expect(moveDates(office.as(), office.cycle, {
      dates: { lastPayment: later(office.notice.keyDates.lastPayment, 1) },
      reason: 'More time.',
    })).rejects.toMatchObject({ problem: { code: 'review.waits' } })
    expect(await takeOverAgreed(office.product)).toBe(0)
    office.pass(30 * 60)
    const meanwhile = await office.submitted({ bornOn: '2003-06-15' })
    office.pass(31 * 60)
    expect(await Promise.all([takeOverAgreed(office.product), takeOverAgreed(office.product)])).toContain(1)
    const now = await currentNotice(office.db, office.cycle)
    expect(now.version).toBeGreaterThan(version)
    expect((await office.db.select().from(postVerdict)
      .where(sql`${postVerdict.applicationId} = ${meanwhile} and ${postVerdict.post} = ${now.notice.posts[0]?.id ?? ''}`))[0])
      .toMatchObject({ verdict: 'fail', noticeVersion: now.version })
    await expect(acceptReview(office.as(), other)).rejects.toMatchObject({ problem: { code: 'review.other-version' } })
    expect((await list(id)).state).toBe('accepted')
  })

  it('is left to the clock at once where it touches the seats of many', async () => {
    const { version } = await currentNotice(office.db, office.cycle)
    const id = await amended(dearer(1))
    const [row] = await office.db.select().from(review).where(eq(review.id, id))
    if (row) {
      await office.db.update(review).set({ totals: { ...row.totals, seats: { gone: 900, anotherHour: 101 } } }).where(eq(review.id, id))
    }
    expect(await acceptReview(office.as(), id)).toMatchObject({ from: office.now.toISOString() })
    expect((await currentNotice(office.db, office.cycle)).version).toBe(version)
    expect(await takeOverAgreed(office.product)).toBe(1)
    expect([(await list(id)).state, (await currentNotice(office.db, office.cycle)).version > version]).toEqual(['accepted', true])
  })

  it('can be laid aside until then, and a review without an amendment holds at once', async () => {
    const { version } = await currentNotice(office.db, office.cycle)
    const id = await amended(dearer(100))
    const from = new Date(office.now.getTime() + 60_000).toISOString()
    await acceptReview(office.as(), id, { from })
    await discardReview(office.as(), id)
    office.pass(120)
    expect(await takeOverAgreed(office.product)).toBe(0)
    expect((await currentNotice(office.db, office.cycle)).version).toBe(version)
    const plain = randomUUID()
    await office.db.transaction(async tx => openReview(tx, await office.context(), office.cycle, plain, null))
    await runReview(office.as(), plain, goOn)
    await expect(acceptReview(office.as(), plain, { from: new Date(office.now.getTime() + 60_000).toISOString() })).rejects.toMatchObject({
      problem: { code: 'review.no-moment' },
    })
  })
})

describe('an agreed amendment whose notice was replaced', () => {
  it('is laid aside by the clock and changes nothing', async () => {
    const id = await amended(dearer(300))
    await acceptReview(office.as(), id, { from: new Date(office.now.getTime() + 60_000).toISOString() })
    const { notice } = await currentNotice(office.db, office.cycle)
    const { version } = await putNotice(office.as(), { ...notice, declaration: `${notice.declaration} It is true.` })
    office.pass(120)
    await takeOverAgreed(office.product)
    expect((await list(id)).state).toBe('discarded')
    expect((await currentNotice(office.db, office.cycle)).version).toBe(version)
    expect(await takeOverAgreed(office.product)).toBe(0)
  })
})

describe('more time', () => {
  it('moves ends later by one act with its reason, refuses what does not go together, and opens drafts again', async () => {
    const draft = await office.draft()
    const { notice } = await currentNotice(office.db, office.cycle)
    const { closes, lastPayment, correctionOpens } = notice.keyDates
    office.now = new Date(Date.parse(closes) + 60_000)
    await lapseOverdue(office.product)
    expect((await office.dossier(draft)).tracks.form).toBe('lapsed')
    const move = (dates: Parameters<typeof moveDates>[2]['dates']) =>
      moveDates(office.as(), office.cycle, { dates, reason: 'The lines to Vesk were down.' })
    await expect(move({ closes: later(closes, -1) })).rejects.toMatchObject({ problem: { code: 'dates.earlier' } })
    await expect(move({})).rejects.toMatchObject({ problem: { code: 'dates.none' } })
    await expect(move({ closes: later(lastPayment, 30) })).rejects.toMatchObject({ problem: { code: 'notice.faults' } })
    const to = new Date((Date.parse(closes) + Math.min(Date.parse(correctionOpens), Date.parse(lastPayment))) / 2).toISOString()
    const { version } = await move({ closes: to })
    await lapseOverdue(office.product)
    expect((await office.dossier(draft)).tracks.form).toBe('drafting')
    const versions = await versionsInForce(office.nobody, office.cycle)
    expect(versions.at(-1)).toMatchObject({
      version,
      reason: 'The lines to Vesk were down.',
      fees: 'kept',
      by: '',
      changes: [{ kind: 'changed', before: closes, after: to }],
    })
    expect((await office.db.select().from(auditEvent).where(eq(auditEvent.act, 'move-dates')))[0]).toMatchObject({
      before: { closes },
      after: { closes: to },
      reason: 'The lines to Vesk were down.',
    })
    office.now = new Date(Date.parse(to) + 60_000)
    await lapseOverdue(office.product)
    expect((await office.dossier(draft)).tracks.form).toBe('lapsed')
  })
})

describe('what is open', () => {
  it('follows the notice for everybody under way: a paper that is wanted now, a later close, and nothing twice', async () => {
    const own = await openOffice()
    const [ended, waits] = [await own.at('scrutiny'), await own.draft()]
    await own.act(ended, 'withdraw', { reason: 'Goes elsewhere.' })
    const rows = async (id: string) =>
      (await own.db.select().from(openMatter).where(and(eq(openMatter.applicationId, id), isNull(openMatter.clearedAt)))).map(
        ({ kind, about, until }) => [kind, about, until?.toISOString()]
      )
    const { notice } = await currentNotice(own.db, own.cycle)
    const paper = {
      id: 'proof-of-home',
      title: 'Proof of home',
      shows: 'The address.',
      formats: ['pdf' as const],
      bytes: { max: 1_000_000 },
      pages: { min: 1, max: 2 },
      required: true,
      identity: false,
    }
    const id = randomUUID()
    await own.db.transaction(async (tx) => {
      const context = await own.as().authorise('notice.amend')
      await openReview(
        tx,
        context,
        own.cycle,
        id,
        await proposeNotice(tx, context, own.cycle, { ...notice, documents: [...notice.documents, paper] }, 'A proof of home is wanted.'),
      )
    })
    await runReview(own.as(), id, goOn)
    await acceptReview(own.as(), id)
    const closes = later(notice.keyDates.closes, 0.5 / 24)
    await moveDates(own.as(), own.cycle, { dates: { closes }, reason: 'The lines to Vesk were down.' })
    expect(await own.db.select().from(job).where(eq(job.kind, 'settle-matters'))).toHaveLength(2)
    expect(await rows(waits)).not.toContainEqual(['file-missing', 'proof-of-home', expect.anything()])
    expect(await settleAllAnew(own.as(), own.cycle, goOn)).toEqual({ applications: 1 })
    const now = await rows(waits)
    expect(now).toContainEqual(['file-missing', 'proof-of-home', closes])
    expect(now).toContainEqual(['submission', '', closes])
    await settleAllAnew(own.as(), own.cycle, goOn)
    expect([await rows(waits), await rows(ended)]).toEqual([now, []])
    await own.close()
  })
})
