import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { product } from '../core/access/principal'
import { referenceOf } from '../core/bank/references'
import { applicationNumber } from '../core/identity/check-digit'
import { Random } from '../demo/random'
import { makePerson } from '../demo/people'
import { openDatabase } from '../server/database/client'
import { putBankAccount } from '../server/services/bank/accounts'
import { matchOpenLines } from '../server/services/bank/matching'
import { takeStatements } from '../server/services/bank/statements'
import { Caller } from '../server/services/context'
import { currentNotice } from '../server/services/notice/notices'
import { camtFile, type MadeLine } from '../statements/made'

/**
 * A statement of 100,000 lines against 120,000 dues: `DATABASE_URL=… npx tsx bench/statement.ts [lines] [dues]` on a database of its own
 * that holds the demo. Who paid is known of each line; the share that matching books by itself is counted against it, step by step, and
 * what it books wrong. The ratio is to the same rows of the ledger written bare.
 */
const { DATABASE_URL } = process.env
if (!DATABASE_URL) throw new Error('DATABASE_URL must name a database that holds the demo')
const [lineCount, dueCount] = [Number(process.argv[2] ?? 100_000), Number(process.argv[3] ?? 120_000)]
const { db, close } = openDatabase(DATABASE_URL)
const { notice, version } = await currentNotice(db, 'HL27')
const random = new Random(41)
const caller = new Caller(db, product)
const first = 2_000_000
const amounts = [64_000, 65_250, 32_000, 80_250, 49_250]
const syllables = ['ta', 'vi', 'rel', 'os', 'kan', 'un', 'de', 'se', 'ra', 'hal', 'wen', 'or', 'la', 'ben', 'tav', 'ish', 'ke', 'til',
  'bra', 'mi', 'sorn', 'qui', 'lor', 'pes', 'sin', 'do', 'pal', 'ava', 'ner', 'gu']
const word = (parts: number) => {
  const text = Array.from({ length: parts }, () => syllables[random.whole(0, syllables.length - 1)]).join('')
  return text.charAt(0).toUpperCase() + text.slice(1)
}
interface Person {
  id: string
  number: string
  name: string
  due: number
}
const people: Person[] = Array.from(
  { length: dueCount },
  (_, i) => ({
    id: randomUUID(),
    number: applicationNumber('HL27', first + i),
    name: `${word(2)} ${word(3)}`,
    due: amounts[random.whole(0, amounts.length - 1)] ?? 64_000,
  }),
)
const { answers } = makePerson(new Random(3), notice, 3)

for (let from = 0; from < people.length; from += 10_000) {
  const rows = JSON.stringify(people.slice(from, from + 10_000))
  const records = sql`jsonb_to_recordset(${rows}::jsonb) as p(id uuid, number text, name text, due bigint)`
  await db.execute(sql`
    insert into application (id, cycle, number, answers, revision, display_name, name_key, mobile_key, form, fee, scrutiny, placement, card, headline, headline_since, created_at, submitted_at, updated_at)
    select id, 'HL27', number, ${
    JSON.stringify(answers)
  }::jsonb, 1, name, lower(name), '', 'submitted', 'due', 'not started', 'unplaced', 'not issued', 'fee due', now(), now(), now(), now() from ${records}`)
  await db.execute(sql`
    insert into fee_assessment (id, application_id, version, assessment, at, notice_version)
    select gen_random_uuid(), id, 1, jsonb_build_object('currency', jsonb_build_object('code', 'IMK', 'exponent', 2), 'items', '[]'::jsonb, 'total', due), now(), ${version} from ${records}`)
  await db.execute(sql`
    with made as (insert into ledger_transaction (id, application_id, source, kind, currency, at) select gen_random_uuid(), id, 'assessment:' || id || ':1', 'assessment', 'IMK', now() from ${records} returning id, application_id)
    insert into ledger_line (id, transaction_id, account, amount) select gen_random_uuid(), made.id, side.account, side.sign * p.due from made join ${records} on p.id = made.application_id
    cross join (values ('receivable', 1), ('fee income', -1)) as side(account, sign)`)
}
await db.execute(sql`analyze`)

/** How a payer wrote, and whether the line's own facts say whose it is. */
type Kind =
  | 'whole reference'
  | 'application number'
  | 'one fault, own name'
  | 'one fault, other name'
  | 'name only'
  | 'two in one'
  | 'less or more'
  | 'stranger'
const shares: [Kind, number][] = [['whole reference', 66], ['application number', 8], ['one fault, own name', 8], ['one fault, other name',
  4], ['name only', 6], ['two in one', 3], ['less or more', 3], ['stranger', 2]]
const canBeKnown = (kind: Kind) => kind !== 'one fault, other name' && kind !== 'stranger'
const nameCounts = new Map<string, number>()
for (const { name, due } of people) nameCounts.set(`${name} ${due}`, (nameCounts.get(`${name} ${due}`) ?? 0) + 1)
const spoil = (reference: string): string => {
  const at = random.whole(2, reference.length - 1)
  const sign = reference.charAt(at)
  const kind = random.whole(0, 2)
  if (kind === 0 && at < reference.length - 1 && sign !== reference.charAt(at + 1)) {
    return reference.slice(0, at) + reference.charAt(at + 1) + sign + reference.slice(at + 2)
  }
  if (kind === 1) return reference.replace('0', 'O')
  return /\d/.test(sign)
    ? reference.slice(0, at) + String((Number(sign) + random.whole(1, 9)) % 10) + reference.slice(at + 1)
    : reference.slice(0, at) + 'X' + reference.slice(at + 1)
}

const truth: { kind: Kind, whose: string[], isKnowable: boolean }[] = []
const lines: MadeLine[] = []
let next = 0
const kinds = shares.flatMap(([kind, share]) => Array.from({ length: share }, () => kind))
while (lines.length < lineCount) {
  const kind = kinds[random.whole(0, kinds.length - 1)] ?? 'stranger'
  const [one, two] = [people[next % people.length], people[(next + 1) % people.length]]
  if (!one || !two) break
  next += kind === 'stranger' ? 0 : kind === 'two in one' ? 2 : 1
  const line = { on: '2027-01-04', text: '', name: one.name, amount: one.due }
  const isKnowable = canBeKnown(kind) && (kind !== 'name only' || nameCounts.get(`${one.name} ${one.due}`) === 1)
  truth.push({ kind, whose: kind === 'stranger' ? [] : kind === 'two in one' ? [one.id, two.id] : [one.id], isKnowable })
  lines.push({
    'whole reference': { ...line, reference: referenceOf(one.number), name: random.whole(0, 2) === 0 ? 'Somebody Else' : one.name },
    'application number': { ...line, text: `fee ${one.number.toLowerCase()} thanks`, name: 'Somebody Else' },
    'one fault, own name': { ...line, text: spoil(referenceOf(one.number)) },
    'one fault, other name': { ...line, text: spoil(referenceOf(one.number)), name: 'An Uncle of Theirs' },
    'name only': { ...line, text: 'examination fee' },
    'two in one': { ...line, amount: one.due + two.due, text: `${one.number} ${two.number}` },
    'less or more': { ...line, amount: one.due + random.whole(-200, 200) * 100 || 100, reference: referenceOf(one.number) },
    'stranger': { ...line, text: 'books and pencils', name: word(4), amount: random.whole(100, 9000) * 5 },
  }[kind])
}
const account = {
  title: 'Bench',
  holder: 'The office',
  bank: 'A bank',
  number: `BENCH${Date.now()}`,
  bic: '',
  currency: 'IMK',
  takesDeposits: false,
}
const id = randomUUID()
await putBankAccount(caller, id, account)
const file = Buffer.from(camtFile({ account: account.number, currency: 'IMK', identification: 'B', sequence: 1, opening: 0, lines }))
console.log(`${lines.length} lines (${(file.length / 1024 / 1024).toFixed(0)} MB) against ${people.length} dues`)

let most = 0
const watch = setInterval(() => {
  most = Math.max(most, process.memoryUsage().rss)
}, 100)
const before = process.memoryUsage().rss
let since = performance.now()
const seconds = () => ((performance.now() - since) / 1000).toFixed(1)
const { taken } = await takeStatements(caller, id, 'bench.xml', file)
console.log(`read and booked in ${seconds()} s`)
since = performance.now()
const { booked } = await matchOpenLines(caller, () => Promise.resolve(true))
const matching = (performance.now() - since) / 1000
clearInterval(watch)
console.log(`matched in ${seconds()} s, ${booked} booked; memory ${Math.round((most - before) / 1024 / 1024)} MB above the beginning`)

const { rows } = await db.execute<{ position: number, step: string | null, parts: { application: string }[] | null }>(sql`
  select b.position, m.step, m.parts from bank_line b left join bank_match m on m.line_id = b.id and m.undone_at is null where b.statement_id = ${
  taken[0]?.id ?? ''
} order by b.position`)
const count = new Map<string, { lines: number, right: number, wrong: number, knowable: number }>()
for (const row of rows) {
  const is = truth[row.position]
  if (!is) continue
  const at = count.get(is.kind) ?? { lines: 0, right: 0, wrong: 0, knowable: 0 }
  const found = (row.parts ?? []).map(part => part.application).sort().join()
  count.set(is.kind, {
    lines: at.lines + 1,
    knowable: at.knowable + (is.isKnowable ? 1 : 0),
    right: at.right + (row.parts && found === [...is.whose].sort().join() ? 1 : 0),
    wrong: at.wrong + (row.parts && found !== [...is.whose].sort().join() ? 1 : 0),
  })
}
console.log('\n| written as | lines | can be known | booked right | booked wrong |\n|---|---|---|---|---|')
for (const [kind, n] of count) console.log(`| ${kind} | ${n.lines} | ${n.knowable} | ${n.right} | ${n.wrong} |`)
const all = [...count.values()].reduce(
  (sum, n) => ({ right: sum.right + n.right, wrong: sum.wrong + n.wrong, knowable: sum.knowable + n.knowable }),
  { right: 0, wrong: 0, knowable: 0 },
)
console.log(`\n${(all.right * 100 / all.knowable).toFixed(2)} % of what can be known was booked by itself; ${all.wrong} wrong`)

/** The ledger's rows of the same matches, written bare. */
since = performance.now()
await db.transaction(async (tx) => {
  await tx.execute(sql`create temporary table bare_transaction (like ledger_transaction including indexes) on commit drop`)
  await tx.execute(sql`create temporary table bare_line (like ledger_line including indexes) on commit drop`)
  await tx.execute(sql`insert into bare_transaction select * from ledger_transaction where source like 'match:%'`)
  await tx
    .execute(sql`insert into bare_line select l.* from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.source like 'match:%'`)
}).catch(() => console.log("the role may make no temporary tables: give an owner's address for the ratio"))
const bare = (performance.now() - since) / 1000
console.log(`${(matching / bare).toFixed(0)} times the bare rows of the ledger (${bare.toFixed(2)} s)`)
await close()
