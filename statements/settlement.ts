import { exponentOf, readAmount } from '../core/bank/statement'
import { parseCalendarDate } from '../core/calendar/calendar-date'
import { grouped } from '../shared/grouped'
import { refusal } from '../shared/refusal'
import { recogniseTable, tableRows } from '../tables/read'
import { csvOf } from '../tables/write'

/** One order within a payout, amounts in minor units. */
export interface PaidOutOrder {
  order: string
  gross: number
  charge: number
}
/** What a gateway pays out in one sum. */
export interface Payout {
  reference: string
  on: string
  currency: string
  orders: PaidOutOrder[]
}

const headings = ['payout', 'settled_on', 'order', 'charged', 'charge', 'paid_out', 'currency'] as const

/**
 * A gateway's settlement file: CSV with the headings payout, settled_on, order, charged, charge, paid_out, currency; a decimal point; one
 * line an order. What is paid out for each is what was charged less the charge.
 *
 * @throws ProblemError naming the line that does not fit; nothing of the file is taken then.
 */
export async function readSettlements(bytes: Buffer): Promise<Payout[]> {
  const kind = await recogniseTable(bytes)
  if (kind.format !== 'csv') throw refusal('statement.unknown')
  let place: number[] | null = null
  let line = 0
  const rows: (PaidOutOrder & Omit<Payout, 'orders'>)[] = []
  for await (const cells of tableRows(bytes, kind)) {
    line += 1
    const trimmed = cells.map(cell => cell.trim())
    if (!place) {
      place = headings.map(heading => trimmed.findIndex(cell => cell.toLowerCase() === heading))
      if (place.includes(-1)) throw refusal('statement.headings', { headings: headings.join(', ') })
    } else if (trimmed.some(cell => cell !== '')) rows.push(rowOf(place.map(at => trimmed[at] ?? ''), line))
  }
  if (rows.length === 0) throw refusal('statement.empty')
  return [...grouped(rows, row => row.reference)].map(([reference, orders]) => {
    const [first] = orders
    const other = orders.find(order => order.currency !== first?.currency || order.on !== first.on)
    if (!first || other) throw refusal('settlement.mixed', { payout: reference })
    return {
      reference,
      on: first.on,
      currency: first.currency,
      orders: orders.map(({ order, gross, charge }) => ({ order, gross, charge })),
    }
  })
}

function rowOf(
  [reference = '', on = '', order = '', charged = '', charge = '', paidOut = '', currency = '']: readonly string[],
  line: number,
): PaidOutOrder & Omit<Payout, 'orders'> {
  const money = (text: string) => {
    const amount = readAmount(text, '.', exponentOf(currency))
    if (amount === null) throw refusal('statement.amount', { line, text: text.slice(0, 40) })
    return amount
  }
  if (reference === '' || order === '' || !/^[A-Z]{3}$/.test(currency)) throw refusal('settlement.line', { line })
  if (parseCalendarDate(on) === null) throw refusal('statement.date', { line, text: on.slice(0, 20) })
  const [gross, kept, net] = [money(charged), money(charge), money(paidOut)]
  if (gross - kept !== net) throw refusal('settlement.sum', { line })
  return { reference: reference.slice(0, 60), on, currency, order: order.slice(0, 100), gross, charge: kept }
}

/** A settlement file as the simulated gateway gives it out. */
export function settlementFile(payouts: readonly Payout[]): string {
  const spelled = (amount: number, currency: string) => (amount / 10 ** exponentOf(currency)).toFixed(exponentOf(currency))
  return csvOf([[...headings], ...payouts.flatMap(({ reference, on, currency, orders }) =>
    orders.map(({ order, gross, charge }) => [
      reference,
      on,
      order,
      spelled(gross, currency),
      spelled(charge, currency),
      spelled(gross - charge, currency),
      currency,
    ])
  )])
}
