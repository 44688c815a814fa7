import { desc, eq, sql, type SQL } from 'drizzle-orm'
import { dateInZone, type Zone } from '../../../core/calendar/zone'
import { incomeAccounts, type IncomeAccount } from '../../../core/fees/assess'
import { unmatchedFaults } from '../../../core/fees/gateway-event'
import { ledgerAccounts, type LedgerAccount } from '../../../core/fees/ledger'
import type { ClosedDay, ClosingPage, ClosingView, Explained, ExplainedBy } from '../../../shared/bank'
import { grouped } from '../../../shared/grouped'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { dayClosing } from '../../database/schema'
import { clockOf } from '../../database/zone'
import { log, type Caller, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { nameOf, namesOf } from '../people/names'
import { spelledIn } from './accounts'

const partsShown = 20
const daysShown = 60

/** The day that an instant of the database falls on in the office's zone. */
const dayOf = (column: SQL, zone: Zone) => sql`to_char(${clockOf(column, zone)}, 'YYYY-MM-DD')`

/** The books as they stand, with the receipts of one day: in the zone of the cycle that is looked at. */
export async function readClosing(caller: Caller, cycle: string, asked: { on?: string, currency?: string }): Promise<ClosingPage> {
  const context = await caller.authorise('bank.read')
  const { notice } = await currentNotice(context.db, cycle)
  const { zone, currency: own } = notice.body
  const currency = asked.currency ?? own.code
  const on = asked.on ?? dateInZone(context.now(), zone)
  const { rows } = await context.db.execute<{ currency: string }>(sql`select distinct currency from ledger_transaction`)
  const days = await context.db.select({ on: dayClosing.on, currency: dayClosing.currency, by: dayClosing.by, at: dayClosing.at })
    .from(dayClosing).orderBy(desc(dayClosing.on)).limit(daysShown)
  const name = await namesOf(context.db, days.map(one => one.by))
  return {
    view: await viewOf(context.db, { on, currency, zone }),
    currencies: [...new Set([own.code, ...rows.map(row => row.currency)])].sort(),
    closed: await closedDay(context.db, on, currency),
    days: days.map(one => ({ ...one, by: name(one.by), at: one.at.toISOString() })),
    byDay: await receiptsByDay(context.db, context, currency, zone),
  }
}

const isIncome = (account: LedgerAccount): account is IncomeAccount => (incomeAccounts as readonly LedgerAccount[]).includes(account)
const nothingEarned: Explained = { by: 'assessed', count: 0, amount: 0, parts: [] }

interface Asked {
  on: string
  currency: string
  zone: Zone
}

async function viewOf(db: Executor, { on, currency, zone }: Asked): Promise<ClosingView> {
  const { rows } = await db.execute<{ account: LedgerAccount, balance: string }>(sql`
    select l.account, sum(l.amount) as balance from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.currency = ${currency} group by l.account`)
  const balances = new Map(rows.map(row => [row.account, Number(row.balance)]))
  const accounts: ClosingView['accounts'] = []
  const earned = await earnedBy(db, currency)
  for (const account of ledgerAccounts) {
    const explained = (isIncome(account) ? [earned.get(account) ?? nothingEarned] : await explain[account](db, currency)).filter(one =>
      one.count > 0 || one.amount !== 0
    )
    const balance = balances.get(account) ?? 0
    if (balance === 0 && explained.length === 0) continue
    accounts.push({ account, balance, explained, difference: balance - explained.reduce((sum, one) => sum + one.amount, 0) })
  }
  return {
    on,
    currency,
    receipts: await receiptsOf(db, { on, currency, zone }),
    papers: await receiptsByPosts(db, { on, currency, zone }),
    accounts,
  }
}

// Where money came from stands in the source of its transaction.
const channel = sql`case when t.source like 'gateway-event:%' then 'gateway' else 'bank' end`
const credited =
  sql`from ledger_transaction t join ledger_line l on l.transaction_id = t.id and l.account in ('receivable', 'refunds payable')`

async function receiptsOf(db: Executor, { on, currency, zone }: Asked): Promise<ClosingView['receipts']> {
  const { rows } = await db.execute<{ channel: 'gateway' | 'bank', cycle: string, category: string, count: string, amount: string }>(sql`
    select ${channel} as channel, a.cycle, coalesce(a.answers ->> 'category', '') as category, count(distinct t.id) as count, -sum(l.amount) as amount ${credited} join application a on a.id = t.application_id
    where t.kind = 'receipt' and t.currency = ${currency} and ${dayOf(sql`t.at`, zone)} = ${on} group by 1, 2, 3 order by 1, 2, 3`)
  return rows.map(row => ({ ...row, count: Number(row.count), amount: Number(row.amount) }))
}

/** Money is for all that somebody chose: those who chose the same posts stand in one row, so that rows add up to what came in. */
async function receiptsByPosts(db: Executor, { on, currency, zone }: Asked): Promise<ClosingView['papers']> {
  const { rows } = await db.execute<{ cycle: string, posts: string[], count: string, amount: string }>(sql`
    select a.cycle, coalesce((select jsonb_agg(p order by p) from jsonb_array_elements_text(a.answers -> 'posts') p), '[]') as posts, count(distinct t.id) as count, -sum(l.amount) as amount ${credited} join application a on a.id = t.application_id
    where t.kind = 'receipt' and t.currency = ${currency} and ${
    dayOf(sql`t.at`, zone)
  } = ${on} group by 1, 2 order by 4 desc, 1, 2 limit 200`)
  const titles = new Map<string, string>()
  for (const cycle of new Set(rows.map(row => row.cycle))) {
    for (const post of (await currentNotice(db, cycle)).notice.posts) titles.set(`${cycle} ${post.id}`, post.title)
  }
  return rows.map(({ cycle, posts, count, amount }) => ({
    cycle,
    posts: posts.map(post => titles.get(`${cycle} ${post}`) ?? post).join(', '),
    count: Number(count),
    amount: Number(amount),
  }))
}

async function receiptsByDay(db: Executor, { now }: Pick<Context, 'now'>, currency: string, zone: Zone): Promise<ClosingPage['byDay']> {
  const { rows } = await db.execute<{ on: string, channel: 'gateway' | 'bank', amount: string }>(sql`
    select ${dayOf(sql`t.at`, zone)} as on, ${channel} as channel, -sum(l.amount) as amount ${credited}
    where t.kind = 'receipt' and t.currency = ${currency} and t.at > ${now().toISOString()}::timestamptz - interval '60 days' group by 1, 2 order by 1, 2`)
  return rows.map(row => ({ ...row, amount: Number(row.amount) }))
}

interface Part extends Record<string, unknown> {
  title: string
  amount: string
  to: string | null
  count: string
  total: string
}

/**
 * What explains an account, from the facts that stand outside the ledger: counted and added up whole, with the largest parts to be shown.
 */
async function explainedBy(db: Executor, by: ExplainedBy, parts: SQL): Promise<Explained> {
  const { rows } = await db.execute<
    Part
  >(sql`select *, count(*) over () as count, sum(amount) over () as total from (${parts}) as part order by abs(amount) desc, title limit ${partsShown}`)
  return {
    by,
    count: Number(rows[0]?.count ?? 0),
    amount: Number(rows[0]?.total ?? 0),
    parts: rows.map(({ title, amount, to }) => ({ title, amount: Number(amount), to })),
  }
}

const ofApplications = (account: LedgerAccount, currency: string) =>
  sql`
  select a.number || ' ' || a.display_name as title, sum(l.amount) as amount, '/intake/' || a.id as to
  from ledger_line l join ledger_transaction t on t.id = l.transaction_id join application a on a.id = t.application_id where l.account = ${account} and t.currency = ${currency} group by a.id having sum(l.amount) <> 0`

const lines = (currency: string, side: SQL) =>
  sql`
  select b.booked_on || ' ' || coalesce(b.name, left(b.text, 60)) as title, -b.amount as amount, '/fees/matching?line=' || b.id as to from bank_line b where b.state = 'open' and b.currency = ${currency} and ${side}`

/** What the lines of an assessment `f` that stand on an account add up to, by why each is there. */
const itemsOn = (account: string) =>
  sql`(select coalesce(sum((i ->> 'amount')::bigint), 0) from jsonb_array_elements(f.assessment -> 'items') i where ${accountOfItem} = ${account})`
// As `earnedAs` says it; of older lines the reason is a sentence, and they are fees.
const accountOfItem =
  sql`case i -> 'because' ->> 'code' when 'late' then 'late fee income' when 'correction' then 'correction charges' when 'channel' then 'surcharges' when 'way' then 'surcharges' when 'way-tax' then 'tax payable'
  when 'relief' then case i -> 'because' ->> 'kind' when 'waived' then 'waivers' when 'written off' then 'write-offs' else coalesce(i -> 'because' ->> 'of', 'fee income') end else 'fee income' end`
const inForce =
  sql`join lateral (select assessment from fee_assessment where application_id = a.id order by version desc limit 1) f on true`
const reliefsOf = (account: LedgerAccount, currency: string) =>
  sql`
  select a.number || ' ' || a.display_name as title, -${itemsOn(account)} as amount, '/intake/' || a.id as to from application a ${inForce}
  where a.fee_reliefs <> '[]'::jsonb and f.assessment -> 'currency' ->> 'code' = ${currency} and ${itemsOn(account)} <> 0`

/**
 * What assessments in force say was earned, by account and examination: read in one go, since there are as many as there are applications.
 */
async function earnedBy(db: Executor, currency: string): Promise<Map<string, Explained>> {
  const { rows } = await db.execute<{ account: string, title: string, amount: string }>(sql`
    select item.account, a.cycle as title, -sum(item.amount) as amount from application a ${inForce}
    cross join lateral (select ${accountOfItem} as account, sum((i ->> 'amount')::bigint) as amount from jsonb_array_elements(f.assessment -> 'items') i group by 1) item
    where f.assessment -> 'currency' ->> 'code' = ${currency} group by 1, 2 having sum(item.amount) <> 0 order by abs(sum(item.amount)) desc, 2`)
  return new Map([...grouped(rows, row => row.account)].map(([account, of]) => [account, {
    by: 'assessed' as const,
    count: of.length,
    amount: of.reduce((sum, row) => sum + Number(row.amount), 0),
    parts: of.slice(0, partsShown).map(({ title, amount }) => ({ title, amount: Number(amount), to: null })),
  }]))
}

/** Of an order that several are paid for by, the first stands for all. */
const payerOf =
  sql`select application_id, currency, sum(amount) over () as amount from payment where gateway_order = e.gateway_order order by application_id limit 1`

const explain: Record<Exclude<LedgerAccount, IncomeAccount>, (db: Executor, currency: string) => Promise<Explained[]>> = {
  'receivable': async (db, currency) => [await explainedBy(db, 'dues', ofApplications('receivable', currency))],
  'gateway clearing': async (db, currency) => [await explainedBy(
    db,
    'orders not settled',
    sql`
    select o.order as title, sum(o.amount) as amount, min(o.to) as to from (
      select e.gateway_order as "order", coalesce(e.amount, p.amount) as amount, '/intake/' || p.application_id as to from gateway_event e left join lateral (${payerOf}) p on true
        where e.outcome = 'charged' and coalesce(e.currency, p.currency) = ${currency} and coalesce(e.fault, '') <> 'told otherwise before'
      union all select e.gateway_order, -e.amount, '/intake/' || p.application_id from gateway_event e join lateral (${payerOf}) p on true
        where e.outcome = 'charged back' and e.currency = ${currency} and coalesce(e.fault, '') not in ('told otherwise before', 'back without charge')
      union all select r.gateway_order, -r.amount, '/intake/' || r.application_id from refund r where r.gateway_order is not null and r.state in ('sent', 'left') and r.currency = ${currency}
      union all select s.gateway_order, -s.gross, null from settlement_line s join settlement t on t.id = s.settlement_id where t.currency = ${currency}
    ) as o group by o.order having sum(o.amount) <> 0`,
  )],
  'bank expected': async (db, currency) => [await explainedBy(
    db,
    'payouts not brought',
    sql`
    select s.reference as title, s.net as amount, null as to from settlement s where s.currency = ${currency} and not exists (select 1 from bank_match m where m.settlement_id = s.id and m.undone_at is null)`,
  )],
  // Where the last statement tells a balance, lines are held against it; where it does not, they stand for themselves.
  'bank': async (db, currency) => [
    await explainedBy(
      db,
      'lines of statements',
      sql`
      select c.title || ' ' || coalesce(last.last_on, '') as title, coalesce(last.closing, (select coalesce(sum(amount), 0) from bank_line where account_id = c.id) + coalesce(first.opening, 0)) as amount, null as to from bank_account c
      left join lateral (select closing, last_on from bank_statement where account_id = c.id order by last_on desc, at desc limit 1) last on true
      left join lateral (select opening from bank_statement where account_id = c.id order by first_on, at limit 1) first on true where c.currency = ${currency}`,
    ),
    await explainedBy(
      db,
      'before the books',
      sql`
      select c.title, -first.opening as amount, null as to from bank_account c
      join lateral (select opening from bank_statement where account_id = c.id order by first_on, at limit 1) first on true where c.currency = ${currency} and coalesce(first.opening, 0) <> 0`,
    ),
  ],
  'unmatched receipts': async (db, currency) => [
    await explainedBy(db, 'lines not explained', lines(currency, sql`b.amount > 0`)),
    await explainedBy(
      db,
      'gateway events not explained',
      sql`
      select e.gateway_order as title, -e.amount as amount, '/fees' as to from gateway_event e where e.currency = ${currency} and e.outcome = 'charged' and e.fault = any(${
        sql.param([...unmatchedFaults])
      }::text[])
        and not exists (select 1 from refund r where r.event_id = e.event_id and r.state not in ('withdrawn', 'returned'))`,
    ),
  ],
  'unmatched payments': async (db, currency) => [await explainedBy(db, 'lines not explained', lines(currency, sql`b.amount < 0`))],
  'refunds payable': async (db, currency) => [
    await explainedBy(db, 'owed back', ofApplications('refunds payable', currency)),
    await explainedBy(
      db,
      'to be sent back',
      sql`select r.reference as title, -r.amount as amount, '/fees/refunds' as to from refund r where r.application_id is null and r.state in ('proposed', 'approved') and r.currency = ${currency}`,
    ),
  ],
  'slips in transit': async (db, currency) => [await explainedBy(
    db,
    'slips not arrived',
    sql`
    select a.number || ' ' || s.branch || ' ' || s.paid_on as title, s.amount - s.arrived as amount, '/intake/' || a.id as to from deposit_slip s join application a on a.id = s.application_id
    where s.state = 'confirmed' and s.arrived < s.amount and s.currency = ${currency}`,
  )],
  'refunds in transit': async (db, currency) => [await explainedBy(
    db,
    'refunds not left',
    sql`
    select r.reference || ' ' || r.payee as title, -r.amount as amount, '/fees/refunds' as to from refund r where r.state = 'sent' and r.gateway_order is null and r.currency = ${currency}`,
  )],
  'waivers': async (db, currency) => [await explainedBy(db, 'waived', reliefsOf('waivers', currency))],
  'write-offs': async (db, currency) => [await explainedBy(db, 'written off', reliefsOf('write-offs', currency))],
  'gateway charges': async (
    db,
    currency,
  ) => [
    await explainedBy(
      db,
      'kept by the gateway',
      sql`select reference as title, charges as amount, null as to from settlement where currency = ${currency} and charges <> 0`,
    ),
  ],
  'bank charges': async (db, currency) => [await explainedBy(
    db,
    'taken by the bank',
    sql`
    select b.booked_on || ' ' || left(b.text, 60) as title, -b.amount as amount, null as to from bank_line b join bank_match m on m.line_id = b.id and m.undone_at is null and m.explanation = 'bank charge' where b.currency = ${currency}`,
  )],
}

async function closedDay(db: Executor, on: string, currency: string): Promise<ClosedDay | null> {
  const [row] = await db.select().from(dayClosing).where(sql`${dayClosing.on} = ${on} and ${eq(dayClosing.currency, currency)}`)
  return row ? { on, currency, by: await nameOf(db, row.by), at: row.at.toISOString(), note: row.note, view: row.view } : null
}

/**
 * Closes a day: what the books said then is kept for ever. Every account must be explained to the last unit; what waits for an explanation
 * is one itself, and is listed.
 *
 * @throws ProblemError `closing.difference` naming the first account that differs, `closing.done`, `closing.ahead`.
 */
export async function closeDay(
  caller: Caller,
  cycle: string,
  { on, currency, note }: { on: string, currency: string, note: string },
): Promise<void> {
  const context = await caller.authorise('bank.work')
  const { notice: { body: { zone } } } = await currentNotice(context.db, cycle)
  if (on > dateInZone(context.now(), zone)) throw refusal('closing.ahead', { on })
  // One moment for all that is read, whatever others book meanwhile.
  await context.db.transaction(async (tx) => {
    const before = await closedDay(tx, on, currency)
    if (before) throw refusal('closing.done', { on, by: before.by })
    const view = await viewOf(tx, { on, currency, zone })
    const wrong = view.accounts.find(account => account.difference !== 0)
    if (wrong) {
      throw refusal('closing.difference', {
        account: context.language.bank.accountWords[wrong.account].title,
        amount: spelledIn(currency, wrong.difference),
      })
    }
    await tx.insert(dayClosing).values({ id: context.newId(), on, currency, view, note, by: context.principal.id, at: context.now() })
      .onConflictDoNothing()
    await log(tx, context, 'close-day', {
      subject: { kind: 'office', id: 'bank' },
      after: { on, currency, note, accounts: Object.fromEntries(view.accounts.map(one => [one.account, one.balance])) },
    })
  }, { isolationLevel: 'repeatable read' })
}
