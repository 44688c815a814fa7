import { sql } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { openAfter } from '../../../core/fees/order'
import type { ActId } from '../../../core/application/acts/rule'
import type { LedgerLine, TransactionKind } from '../../../core/fees/ledger'
import { grouped } from '../../../shared/grouped'
import type { Executor } from '../../database/client'
import { application } from '../../database/schema'
import { carryOutOnMany } from '../acts/carry-out'
import { settleMattersOfMany } from '../acts/matters'
import type { ApplicationRow } from '../applications/store'
import type { Context } from '../context'
import { movePaidCorrections } from '../corrections/paid'
import { currentNotice } from '../notice/notices'
import { bookMany } from './book'
import { moneyOf, stateOfMoney, surplusesOf } from './received'

/** Money for one application from outside the gateway, under a source that stands for it for ever. */
export interface Receipt {
  application: string
  amount: number
  source: string
  lines: LedgerLine[]
}

/** Holds applications until the transaction ends, in one order, so that two who want the same ones never wait for each other. */
export async function lockApplications(tx: Executor, ids: readonly string[]): Promise<Map<string, ApplicationRow>> {
  if (ids.length === 0) return new Map()
  const rows = await tx.select().from(application).where(sql`${application.id} = any(${sql.param([...new Set(ids)])}::uuid[])`)
    .orderBy(application.id).for('update')
  return new Map(rows.map(row => [row.id, row]))
}

/**
 * Books money for applications that the transaction holds, and moves each on as its fee then stands. A source that was booked before counts
 * for nothing. As with the gateway, the product moves them on; who explained the money stands in the explanation.
 */
export async function receiveForMany(
  tx: Executor,
  asker: Context,
  rows: ReadonlyMap<string, ApplicationRow>,
  currency: string,
  receipts: readonly Receipt[],
  act: ActId = 'payment-settled',
): Promise<void> {
  await moveMoney(tx, { ...asker, principal: product }, rows, currency, 'receipt', receipts, act)
}

/** The same for money of any kind; without an act nothing of the applications changes. */
export async function moveMoney(
  tx: Executor,
  context: Context,
  rows: ReadonlyMap<string, ApplicationRow>,
  currency: string,
  kind: TransactionKind,
  receipts: readonly Receipt[],
  act: ActId | null,
): Promise<void> {
  const ids = [...new Set(receipts.map(receipt => receipt.application))]
  await bookMany(tx, context.now(), currency, kind, receipts)
  if (!act) return
  await bookMany(tx, context.now(), currency, 'surplus', await surplusesOf(tx, ids))
  const money = await moneyOf(tx, context, ids)
  const sums =
    new Map([...grouped(receipts, receipt => receipt.application)].map(([id, own]) => [id, own.reduce((sum, one) => sum + one.amount, 0)]))
  for (const [cycle, members] of grouped(ids.flatMap(id => rows.get(id) ?? []), row => row.cycle)) {
    const under = await currentNotice(tx, cycle)
    for (const [fee, group] of grouped(members, row => stateOfMoney(money.get(row.id)))) {
      await carryOutOnMany(
        tx,
        context,
        act,
        under,
        group,
        { outcome: { fee } },
        ({ id, form, fee: before }) => ({
          before: { fee: before },
          after: { fee, amount: sums.get(id) ?? 0 },
          tell: { amount: sums.get(id) ?? 0, open: openAfter(fee, form) },
        }),
      )
    }
    const moved = await tx.select().from(application).where(sql`${application.id} = any(${sql.param(members.map(row => row.id))}::uuid[])`)
    await settleMattersOfMany(tx, context, moved, under.notice)
  }
  await movePaidCorrections(tx, context, ids)
}
