import { and, eq, inArray } from 'drizzle-orm'
import { payingCosts } from '../../../core/fees/channel'
import { inProportion } from '../../../core/fees/together'
import type { PayingWay } from '../../../core/notice/schema'
import { togetherAtMost } from '../../../shared/acts'
import { billedAtMost } from '../../../shared/bills'
import type { RosterFilter } from '../../../shared/applications'
import type { OwedTogether } from '../../../shared/fees'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { inTurn } from '../../database/gate'
import { payment } from '../../database/schema'
import type { PaymentGateway } from '../../standins/gateway'
import { actingOn, carryOutOn } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { askedOf } from '../roster/filter'
import { keysOf } from '../roster/page'
import { reassessDraft } from './assessments'
import { askGateway, costOf, openAtGateway, stillDue, type OpenedPayment } from './payments'
import { lockApplications } from './receive'
import { moneyOf } from './received'
import type { PaymentRow } from './events'

/**
 * Opens one payment at the gateway for several applications of one examination: a family's, or those that an institution sent. Each keeps a
 * part of its own, so that each has its receipt, and what becomes of one of them leaves the others as they are. While it is open the same
 * one is given again.
 *
 * @throws ProblemError where one of them has nothing due, is being paid for otherwise, or belongs to another examination; then nothing is
 * opened.
 */
export async function openTogether(
  caller: Caller,
  gateway: PaymentGateway,
  asked: readonly string[],
  { way, ...given }: Given & { way?: PayingWay } = {},
): Promise<OpenedPayment> {
  const ids = [...new Set(asked)].sort()
  const [first] = ids
  if (first === undefined) throw refusal('application.unknown')
  let context = await caller.authorise('fees.collect', { application: first })
  for (const id of ids.slice(1)) context = await caller.authorise('fees.collect', { application: id })
  if (!gateway.isSet) throw refusal('payment.no-gateway')
  for (const id of ids) await askGateway(context, gateway, id, 'overdue')
  const open = await inTurn(() =>
    context.db.transaction(async (tx) => {
      const rows = [...(await lockApplications(tx, ids)).values()]
      const [leading] = rows
      if (!leading || rows.length < ids.length) throw refusal('application.unknown')
      if (rows.some(row => row.cycle !== leading.cycle)) {
        throw refusal('payment.together-cycles', {
          numbers: rows.map(row => row.number).join(', '),
        })
      }
      return { open: await openedBefore(tx, ids) ?? await openParts(tx, context, ids, way, given), row: leading }
    })
  )
  return openAtGateway(context, gateway, open)
}

/** The payment that is open for just these already. */
async function openedBefore(tx: Executor, ids: readonly string[]): Promise<PaymentRow | null> {
  const open = await tx.select().from(payment).where(and(inArray(payment.applicationId, [...ids]), eq(payment.state, 'open')))
  const [one] = open
  if (!one || open.length < ids.length || open.some(other => other.gatewayOrder !== one.gatewayOrder)) return null
  const all = await tx.select({ id: payment.id }).from(payment).where(eq(payment.gatewayOrder, one.gatewayOrder))
  return all.length === ids.length ? one : null
}

async function openParts(
  tx: Executor,
  context: Context,
  ids: readonly string[],
  way: PayingWay | undefined,
  given: Given,
): Promise<PaymentRow> {
  const parts = []
  for (const id of ids) {
    const acting = await actingOn(tx, context, id)
    const assessed = await reassessDraft(acting, acting.row)
    parts.push({ acting, assessed, due: await stillDue(tx, context, acting.row) })
  }
  const [first] = parts
  if (!first) throw refusal('application.unknown')
  const { notice } = first.acting
  const dues = parts.map(part => part.due)
  const cost = costOf(notice.fees, dues.reduce((sum, due) => sum + due, 0), way)
  // What the way of paying costs is charged once, and borne by each as the fee is.
  const [charges, taxes] = [inProportion(cost?.charge ?? 0, dues), inProportion(cost?.tax ?? 0, dues)]
  const openedAt = context.now()
  const expiresAt = new Date(openedAt.getTime() + notice.fees.paymentWindowSeconds * 1000)
  const gatewayOrder = `${notice.code}.${context.newId().slice(0, 13)}`
  let opened: PaymentRow | undefined
  for (const [place, { acting, assessed, due }] of parts.entries()) {
    const [charge = 0, tax = 0] = [charges[place], taxes[place]]
    const amount = due + charge + tax
    const carried = await carryOutOn(acting, 'start-payment', given, async () => {
      const [made] = await tx.insert(payment).values({
        id: context.newId(),
        applicationId: acting.row.id,
        amount,
        way: cost?.way,
        charge,
        tax,
        currency: notice.body.currency.code,
        state: 'open',
        gatewayOrder,
        openedAt,
        expiresAt,
      }).returning()
      opened ??= made
      return { result: null, columns: assessed.columns, after: { order: gatewayOrder, amount, together: ids.length } }
    })
    if (!carried.isDone) throw refusal('payment.not-opened')
  }
  if (!opened) throw refusal('payment.not-opened')
  return opened
}

/** What those of a list owe who have a fee to pay, and what each way of paying it in one payment costs; `due` in minor units. */
export async function owedByList(caller: Caller, cycle: string, filter: RosterFilter): Promise<OwedTogether> {
  const context = await caller.authorise('fees.collect', { cycle })
  const { notice } = await currentNotice(context.db, cycle)
  const ids = await owingInList(context, cycle, filter, billedAtMost)
  const money = await moneyOf(context.db, context, ids)
  const due = ids.reduce(
    (sum, id) => sum + Math.max(0, (money.get(id)?.assessed ?? 0) + (money.get(id)?.held ?? 0) - (money.get(id)?.received ?? 0)),
    0,
  )
  return {
    people: ids.length,
    isForOnePayment: ids.length <= togetherAtMost,
    due,
    currency: notice.body.currency,
    costs: payingCosts(notice.fees, due),
  }
}

/** Opens one payment for those of a list who have a fee to pay: an institution pays for whom it sent. */
export async function openForList(
  caller: Caller,
  gateway: PaymentGateway,
  cycle: string,
  { filter, ...given }: Given & { filter: RosterFilter, way?: PayingWay },
): Promise<OpenedPayment> {
  return openTogether(
    caller,
    gateway,
    await owingInList(await caller.authorise('fees.collect', { cycle }), cycle, filter, togetherAtMost),
    given,
  )
}

/** Those of a list who have a fee to pay, by number. @throws ProblemError where there is nobody, or more than `most`. */
export async function owingInList({ db }: Context, cycle: string, filter: RosterFilter, most: number): Promise<string[]> {
  const tags = filter.is ?? []
  // A list of others than those who owe holds nobody to pay for.
  if (tags.some(tag => tag.startsWith('fee:')) && !tags.includes('fee:due')) throw refusal('payment.together-none')
  const keys = await keysOf(db, askedOf(cycle, { ...filter, is: [...tags.filter(tag => !tag.startsWith('fee:')), 'fee:due'] }), {
    sort: 'number',
    limit: most,
  })
  if (keys.length === 0) throw refusal('payment.together-none')
  if (keys.length > most) throw refusal('payment.together-many', { most })
  return keys.map(key => key.id)
}
