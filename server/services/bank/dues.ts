import { sql, type SQL } from 'drizzle-orm'
import { billed, type Billed, type Due, type Incoming, type Payable } from '../../../core/bank/match'
import { referenceOf } from '../../../core/bank/references'
import { nameKey } from '../../../core/identity/names'
import type { DueView } from '../../../shared/bank'
import type { Executor } from '../../database/client'
import type { Caller } from '../context'
import { receivedOf } from '../fees/received'
import { accountOf } from './accounts'

interface Found extends Record<string, unknown> {
  id: string
  number: string
  name: string
  cycle: string
  currency: string
  assessed: string
  received: string
  transit: string
  over: boolean
}

/** Money of confirmed slips that no statement shows yet: it counts as paid, and is still to come. */
const inTransitOf = (id: SQL): SQL =>
  sql`coalesce((select sum(s.amount - s.arrived) from deposit_slip s where s.application_id = ${id} and s.state = 'confirmed'), 0)`
const isAwaited = (id: SQL): SQL =>
  sql`exists (select 1 from deposit_slip s where s.application_id = ${id} and s.state = 'confirmed' and s.arrived < s.amount)`

/** Applications to which money may belong: those whose fee was assessed. What is due is what is still to come. */
async function duesWhere(tx: Executor, which: SQL): Promise<(Due & { cycle: string })[]> {
  const { rows } = await tx.execute<Found>(sql`
    select a.id, a.number, a.display_name as name, a.cycle, f.assessment -> 'currency' ->> 'code' as currency, f.assessment ->> 'total' as assessed, ${
    receivedOf(sql`a.id`)
  } as received, ${inTransitOf(sql`a.id`)} as transit,
      a.form in ('withdrawn', 'lapsed') or a.scrutiny = 'refused' as over
    from application a join lateral (select assessment from fee_assessment where application_id = a.id order by version desc limit 1) f on true where ${which}`)
  return rows.map(({ id, number, name, cycle, currency, assessed, received, transit, over }) => ({
    application: id,
    number,
    name,
    cycle,
    currency,
    due: Number(assessed) - Number(received) + Number(transit),
    isOver: over,
  }))
}

/** Those of the numbers that are known, by number. */
export async function duesOf(tx: Executor, numbers: readonly string[]): Promise<Map<string, Due>> {
  if (numbers.length === 0) return new Map()
  return new Map((await duesWhere(tx, sql`a.number = any(${sql.param([...numbers])}::text[])`)).map(due => [due.number, due]))
}

export async function duesOfApplications(tx: Executor, ids: readonly string[]): Promise<Map<string, Due>> {
  if (ids.length === 0) return new Map()
  return new Map((await duesWhere(tx, sql`a.id = any(${sql.param([...ids])}::uuid[])`)).map(due => [due.application, due]))
}

interface FoundBill extends Record<string, unknown> {
  number: string
  payer: string
  currency: string
  over: boolean
  ids: string[]
}

/** Bills as they stand, by number. */
export async function billsWhere(tx: Executor, which: SQL): Promise<Map<string, Billed>> {
  const { rows } = await tx.execute<FoundBill>(sql`
    select b.number, b.payer, b.currency, b.withdrawn_at is not null as over, array_agg(p.application_id order by p.ordinal) as ids from bill b join bill_part p on p.bill_id = b.id where ${which} group by b.id`)
  const dues = await duesOfApplications(tx, [...new Set(rows.flatMap(row => row.ids))])
  return new Map(rows.map(
    ({ number, payer, currency, over, ids }) => [number,
      billed({ number, name: payer, currency, isOver: over }, ids.flatMap(id => dues.get(id) ?? []))]
  ))
}

/** What the numbers stand for: applications and bills. */
export async function payablesOf(tx: Executor, numbers: readonly string[]): Promise<Map<string, Payable>> {
  if (numbers.length === 0) return new Map()
  return new Map<string, Payable>([...await duesOf(tx, numbers),
    ...await billsWhere(tx, sql`b.number = any(${sql.param([...numbers])}::text[])`)])
}

/** Bills that hold and of which something is still to come. */
export async function openBills(tx: Executor): Promise<Billed[]> {
  const open = await billsWhere(
    tx,
    sql`b.withdrawn_at is null and exists (select 1 from bill_part o join application a on a.id = o.application_id where o.bill_id = b.id and a.fee in ('due', 'confirming'))`,
  )
  return [...open.values()].filter(one => one.due > 0)
}

/** All of whom something is to come now. */
export const openDues = (tx: Executor): Promise<Due[]> =>
  duesWhere(
    tx,
    sql`a.id in (select id from application where fee in ('due', 'confirming') union select application_id from deposit_slip where state = 'confirmed' and arrived < amount) and a.form not in ('withdrawn', 'lapsed')`,
  )

const shownAtMost = 12
const likeAtMost = 3000

/** Words of a text as names are searched by; signs of the search's own language are none. */
const wordsOf = (text: string): string[] =>
  nameKey(text).split(' ').map(word => word.replace(/[^\p{L}\p{M}\p{N}]/gu, '')).filter(word => word.length > 1)
/** Whether the words of a name are what is asked for (PostgreSQL, chapter 12), by its index. */
const named = (query: string): SQL => sql`to_tsvector('simple', name_key) @@ to_tsquery('simple', ${query})`

/** Who owes something and bears a name of which a word stands in a line: for looking at one line, without going through all dues. */
export async function duesLikeLine(tx: Executor, { name, text }: Pick<Incoming, 'name' | 'text'>): Promise<Due[]> {
  const words = [...new Set(wordsOf(`${name ?? ''} ${text}`))].slice(0, 40)
  if (words.length === 0) return []
  return duesWhere(
    tx,
    sql`a.id in (select id from application where (fee in ('due', 'confirming') or ${
      isAwaited(sql`application.id`)
    }) and form not in ('withdrawn', 'lapsed') and ${named(words.join(' | '))} limit ${likeAtMost})`,
  )
}

/** Looks for whom money may be: by number, or by the beginnings of words of the name in any order. */
export async function findDues(caller: Caller, search: string): Promise<DueView[]> {
  const { db } = await caller.authorise('bank.work')
  const plain = search.trim()
  if (plain.length < 2) return []
  const words = wordsOf(plain)
  const beginning = sql`number like ${`${plain.toUpperCase().replace(/[%_\\]/g, '\\$&')}%`}`
  const found = await duesWhere(
    db,
    sql`a.id in (
    (select id from application where ${beginning} and fee in ('due', 'confirming') order by number limit ${shownAtMost})
    union (select id from application where ${beginning} order by number limit ${shownAtMost})
    ${
      words.length > 0
        ? sql`union (select id from application where ${
          named(words.map(word => `${word}:*`).join(' & '))
        } order by fee in ('due', 'confirming') desc limit ${shownAtMost})`
        : sql``
    })`,
  )
  // Who owes something is looked for more often than who does not.
  return found.sort((a, b) => Number(b.due > 0) - Number(a.due > 0) || a.number.localeCompare(b.number)).slice(0, shownAtMost).map(
    ({ application, number, name, cycle, due, currency, isOver }) => ({
      applicationId: application,
      number,
      name,
      cycle,
      due,
      currency,
      isOver,
      reference: referenceOf(number),
    })
  )
}

/** An account with those who might pay into it, for the simulated bank. */
export async function whoMightPay(
  caller: Caller,
  accountId: string,
): Promise<{ account: { number: string, currency: string }, dues: Due[] }> {
  const { db } = await caller.authorise('bank.work')
  const { number, currency } = await accountOf(db, accountId)
  const dues = (await openDues(db)).filter(due => due.currency === currency && due.due > 0).sort((a, b) => a.number.localeCompare(b.number))
  return { account: { number, currency }, dues }
}
