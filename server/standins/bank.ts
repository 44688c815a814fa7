import { desc, eq, isNull, and, sql } from 'drizzle-orm'
import { referenceOf } from '../../core/bank/references'
import { addDays } from '../../core/calendar/calendar-date'
import { refusal } from '../../shared/refusal'
import type { Due } from '../../core/bank/match'
import { camtFile, csvFile, mt940File, type MadeLine, type MadeStatement } from '../../statements/made'
import { settlementFile, type Payout } from '../../statements/settlement'
import type { Database, Executor } from '../database/client'
import { standinBankDay, standinGatewayOrder, standinGatewayRefund } from '../database/schema'

/**
 * A simulated bank and the paying out of the simulated gateway, which ship with the product. Each day that passes there brings what the
 * gateway paid out, and payers of every kind: some copy their reference, some spoil it, some write a name and nothing else.
 */
export class BankStandin {
  constructor(private readonly db: Database, private readonly now: () => Date = () => new Date()) {}

  /** What the gateway has charged and not paid out yet, as one payout, written into its own book. Nothing new gives the last file again. */
  async settlement(): Promise<string> {
    return this.db.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(7008)`)
      const orders = await tx.select().from(standinGatewayOrder)
        .where(and(eq(standinGatewayOrder.state, 'charged'), isNull(standinGatewayOrder.payout))).orderBy(standinGatewayOrder.at)
      const [currency] = orders.map(order => order.currency)
      const on = this.now().toISOString().slice(0, 10)
      const { rows: [last] } = await tx.execute<{ n: string }>(sql`select count(distinct payout) as n from standin_gateway_order`)
      const reference = `PO-${on.replaceAll('-', '')}-${Number(last?.n ?? 0) + 1}`
      const paid = orders.filter(order => order.currency === currency)
      if (paid.length > 0) await this.takeRefunds(tx, reference, paid)
      if (paid.length > 0) {
        await tx.update(standinGatewayOrder).set({ payout: reference })
          .where(sql`${standinGatewayOrder.id} = any(${sql.param(paid.map(order => order.id))}::text[])`)
      }
      const [latest] = paid.length > 0
        ? [reference]
        : (await tx.select({ payout: standinGatewayOrder.payout }).from(standinGatewayOrder)
          .where(sql`${standinGatewayOrder.payout} is not null`).orderBy(desc(standinGatewayOrder.payout)).limit(1)).map(row => row.payout)
      if (!latest) throw refusal('standin.nothing')
      const within = await tx.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.payout, latest))
        .orderBy(standinGatewayOrder.id)
      return settlementFile([
        payoutOf(latest, `${latest.slice(3, 7)}-${latest.slice(7, 9)}-${latest.slice(9, 11)}`, within, await refundsIn(tx, latest)),
      ])
    })
  }

  /** A payout is less by what was given back since the last one, as far as it reaches: nobody is paid less than nothing. */
  private async takeRefunds(tx: Executor, payout: string, paid: readonly OrderRow[]): Promise<void> {
    const waiting = await tx.select().from(standinGatewayRefund).where(and(
      eq(standinGatewayRefund.state, 'paid back'),
      isNull(standinGatewayRefund.payout),
      eq(standinGatewayRefund.currency, paid[0]?.currency ?? ''),
    )).orderBy(standinGatewayRefund.at)
    let left = sumOf(payoutOf(payout, '', paid, []))
    for (const { reference, amount } of waiting) {
      if (amount > left) continue
      left -= amount
      await tx.update(standinGatewayRefund).set({ payout }).where(eq(standinGatewayRefund.reference, reference))
    }
  }

  /** Lets a day pass at the bank: what came in and left then. `dues`: who might pay. */
  async passDay(account: { number: string, currency: string }, dues: readonly Due[]): Promise<number> {
    return this.db.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(7009)`)
      const days = await tx.select().from(standinBankDay).where(eq(standinBankDay.account, account.number))
        .orderBy(desc(standinBankDay.sequence))
      const [last] = days
      const sequence = (last?.sequence ?? 0) + 1
      const today = this.now().toISOString().slice(0, 10)
      const on = last ? [addDays(last.made.lines.at(-1)?.on ?? today, 1), today].sort()[1] ?? today : today
      const payouts = await tx.select().from(standinGatewayOrder)
        .where(and(sql`${standinGatewayOrder.payout} is not null`, eq(standinGatewayOrder.currency, account.currency)))
      const brought = days.flatMap(day => day.made.lines.map(line => line.text)).join(' ')
      const due = [...new Set(payouts.map(order => order.payout ?? ''))].filter(reference => !brought.includes(`${reference} `))
      const paidOut: MadeLine[] = []
      for (const reference of due) {
        const amount = sumOf(payoutOf(reference, on, payouts.filter(order => order.payout === reference), await refundsIn(tx, reference)))
        paidOut.push({ on, amount, text: `${reference} CARD PAYMENTS`, name: 'Simulated gateway' })
      }
      const opening = last ? last.made.lines.reduce((sum, line) => sum + line.amount, last.made.opening) : 25_000_000
      const made: MadeStatement = {
        account: account.number,
        currency: account.currency,
        identification: `DAY-${sequence}`,
        sequence,
        opening,
        lines: [...paidOut, ...payersOf(on, sequence, dues)],
      }
      await tx.insert(standinBankDay).values({ account: account.number, sequence, made, at: this.now() })
      return sequence
    })
  }

  async days(): Promise<{ account: string, sequence: number, on: string, lines: number }[]> {
    const rows = await this.db.select().from(standinBankDay).orderBy(desc(standinBankDay.at)).limit(60)
    return rows.map(({ account, sequence, made }) => ({ account, sequence, on: made.lines.at(-1)?.on ?? '', lines: made.lines.length }))
  }

  /** The statement of one day in one of three formats. */
  async statement(account: string, sequence: number, format: 'camt' | 'mt940' | 'csv'): Promise<string> {
    const [row] = await this.db.select().from(standinBankDay)
      .where(and(eq(standinBankDay.account, account), eq(standinBankDay.sequence, sequence)))
    if (!row) throw refusal('standin.nothing')
    return { camt: camtFile, mt940: mt940File, csv: csvFile }[format](row.made)
  }
}

/** What the gateway keeps of each charge: one and a half in a hundred, halves up. */
const kept = (amount: number) => Math.floor((amount * 15 + 500) / 1000)

type OrderRow = typeof standinGatewayOrder.$inferSelect
type RefundRow = typeof standinGatewayRefund.$inferSelect

const refundsIn = (tx: Executor, payout: string): Promise<RefundRow[]> =>
  tx.select().from(standinGatewayRefund).where(eq(standinGatewayRefund.payout, payout)).orderBy(standinGatewayRefund.reference)

function payoutOf(reference: string, on: string, orders: readonly OrderRow[], refunds: readonly RefundRow[]): Payout {
  const charged = orders.map(({ id, amount, charged: really }) => ({ order: id, gross: really ?? amount, charge: kept(really ?? amount) }))
  return {
    reference,
    on,
    currency: orders[0]?.currency ?? '',
    orders: [...charged, ...refunds.map(({ gatewayOrder, amount }) => ({ order: gatewayOrder, gross: -amount, charge: 0 }))],
  }
}
const sumOf = ({ orders }: Payout): number => orders.reduce((sum, order) => sum + order.gross - order.charge, 0)

/** A day's payers: every kind of care and carelessness once. */
function payersOf(on: string, sequence: number, dues: readonly Due[]): MadeLine[] {
  const perDay = 13
  const [a, b, c, d, e, f, g, h, i, j, k, l] = dues.slice((sequence - 1) * perDay, sequence * perDay)
  const lines: (MadeLine | null)[] = [
    a ? { on, amount: a.due, reference: referenceOf(a.number), text: '', name: a.name } : null,
    b ? { on, amount: b.due, text: `Fee ${referenceOf(b.number).replace(/(.{4})/g, '$1 ')}`, name: 'Brennet Family' } : null,
    c ? { on, amount: c.due, text: referenceOf(c.number).replaceAll('0', 'O'), name: c.name } : null,
    d ? { on, amount: d.due, text: swapped(referenceOf(d.number)), name: d.name.split(' ').reverse().join(' ') } : null,
    e ? { on, amount: e.due, text: swapped(referenceOf(e.number)), name: 'An Uncle of Theirs' } : null,
    f ? { on, amount: f.due, text: 'examination fee', name: f.name.toUpperCase() } : null,
    g && h ? { on, amount: g.due + h.due, text: `${g.number} ${h.number}`, name: 'Brennet Family' } : null,
    i ? { on, amount: Math.floor(i.due / 2), reference: referenceOf(i.number), text: 'first half', name: i.name } : null,
    j ? { on, amount: j.due + 5000, reference: referenceOf(j.number), text: 'with thanks', name: j.name } : null,
    k ? { on, amount: k.due, text: k.number.toLowerCase(), name: k.name } : null,
    l ? { on, amount: l.due - 100, text: 'fee', name: l.name } : null,
    { on, amount: 12_345, text: 'books and pencils', name: 'A Stranger' },
    { on, amount: -1250, text: 'account keeping', name: null },
  ]
  return lines.filter(line => line !== null)
}

const swapped = (reference: string) => {
  const at = [...reference].findIndex((sign, place) => place > 6 && sign !== reference.charAt(place + 1) && place < reference.length - 1)
  return at < 0 ? reference : reference.slice(0, at) + reference.charAt(at + 1) + reference.charAt(at) + reference.slice(at + 2)
}
