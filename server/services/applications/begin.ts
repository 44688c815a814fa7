import { eq, sql } from 'drizzle-orm'
import { judgeAct, reasonLeast } from '../../../core/application/acts/judge'
import { headline, newTracks } from '../../../core/application/tracks'
import { applicationNumber } from '../../../core/identity/check-digit'
import { isPaidFirst } from '../../../core/fees/order'
import type { Notice } from '../../../core/notice/schema'
import type { PaperFormGiven } from '../../../shared/keying'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, cycle, headlineChange, paperForm } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { settleMatters } from '../acts/matters'
import { log, type Caller, type Context } from '../context'
import { currentNotice } from '../notice/notices'

/**
 * Begins an application under an id that the caller made. The same id again gives the same application: a double press
 * or a repeated request makes no second one.
 */
export async function registerApplication(
  caller: Caller,
  cycleCode: string,
  id: string,
  given: Given = {},
  paper?: PaperFormGiven,
): Promise<{ id: string, number: string }> {
  const context = await caller.authorise('applications.begin')
  if (paper) await caller.authorise('forms.key')
  return context.db.transaction(async (tx) => {
    const [existing] = await tx.select().from(application).where(eq(application.id, id))
    if (existing) {
      // An id that somebody else has used says nothing about theirs.
      await caller.authorise('applications.write', { application: id })
      return { id, number: existing.number }
    }
    const { notice } = await currentNotice(tx, cycleCode)
    const receivedAt = paper ? receivedAtOf(context, paper) : null
    const isOutside = permitToBegin(context, notice, given, receivedAt)
    const [counter] = await tx.update(cycle).set({ lastSerial: sql`${cycle.lastSerial} + 1` }).where(eq(cycle.code, cycleCode)).returning()
    if (counter?.erasingSince) throw refusal('erase.cycle', { cycle: cycleCode })
    // Whoever asked for the same id meanwhile has waited for the counter, too.
    const [again] = await tx.select().from(application).where(eq(application.id, id))
    if (again) return { id, number: again.number }
    const row = await insertDraft(tx, context, cycleCode, id, applicationNumber(notice.code, counter?.lastSerial ?? 1), receivedAt)
    if (paper) await tx.insert(paperForm).values({ applicationId: id, reference: paper.reference })
    await log(tx, context, 'begin', {
      subject: { kind: 'application', id },
      cycle: cycleCode,
      reason: given.reason,
      outsideDates: isOutside,
      after: { number: row.number, ...newTracks, ...paper ? { receivedAt: receivedAt?.toISOString(), reference: paper.reference } : {} },
    })
    await settleMatters(tx, context, row, notice)
    return { id, number: row.number }
  })
}

/**
 * Whether beginning now is outside the dates of the notice, where that is permitted with its reason. @throws ProblemError where it is not.
 */
export function permitToBegin(context: Context, notice: Notice, given: Given, receivedAt: Date | null = null): boolean {
  const facts = {
    number: '',
    tracks: newTracks,
    headline: headline(newTracks),
    openUntil: null,
    isEmpty: true,
    isDecided: false,
    isPaid: false,
    hasOpenPayment: false,
    isCorrected: false,
    hasCard: false,
    heldBy: null,
    correction: null,
    slip: null,
    isAsking: false,
    isAwaited: false,
    isRelieved: false,
    isPaidFirst: isPaidFirst(notice),
    keying: null,
    receivedAt,
    isSaid: false,
    isOwned: false,
    isReleased: false,
  }
  const { refusal: refused, outsideDates } = judgeAct(
    'begin',
    context.principal,
    ['own application', 'own institution'],
    facts,
    notice,
    context.arrived(),
  )
  const why = refused ?? (given.outsideDates ? null : outsideDates)
  if (why) throw refusal(why.code, why.parameters, outsideDates ? { outsideDates: true } : undefined)
  if (outsideDates && (given.reason?.trim().length ?? 0) < reasonLeast) throw refusal('dates.reason', { least: reasonLeast })
  return outsideDates !== null
}

function receivedAtOf(context: Context, { receivedAt }: PaperFormGiven): Date {
  const at = new Date(receivedAt)
  if (at > context.now()) throw refusal('keying.from-the-future')
  return at
}

async function insertDraft(tx: Executor, context: Context, cycleCode: string, id: string, number: string, receivedAt: Date | null) {
  const at = context.now()
  const { kind, id: by } = context.principal
  const [row] = await tx.insert(application).values({
    id,
    cycle: cycleCode,
    number,
    answers: {},
    ...newTracks,
    headline: headline(newTracks),
    headlineSince: at,
    createdAt: at,
    updatedAt: at,
    receivedAt,
    keying: receivedAt ? 'first' : null,
    ownerId: kind === 'candidate' ? by : null,
    institutionId: kind === 'institution' ? by : null,
  }).returning()
  if (!row) throw refusal('fault', { request: context.requestId.slice(0, 8) })
  await tx.insert(headlineChange).values({
    id: context.newId(),
    applicationId: id,
    cycle: cycleCode,
    from: null,
    to: headline(newTracks),
    at,
  })
  return row
}

/** Deletes a draft in which nothing was ever typed and to which no file was added. Its number is not given again; the log keeps it. */
export async function deleteDraft(caller: Caller, id: string, given: Given = {}): Promise<void> {
  await carryOut(caller, 'delete-draft', id, given, async ({ tx, row }) => {
    await tx.delete(paperForm).where(eq(paperForm.applicationId, id))
    await tx.delete(headlineChange).where(eq(headlineChange.applicationId, id))
    await tx.delete(application).where(eq(application.id, id))
    return { result: null, before: { number: row.number }, isGone: true }
  })
}
