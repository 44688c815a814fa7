import { and, desc, eq, isNull } from 'drizzle-orm'
import { readDates } from '../../../core/calendar/read-date'
import { identityKeys, keyHash } from '../../../core/identity/likely-pair'
import { storedText } from '../../../core/identity/names'
import { barredSchema, type BarredInput, type BarredPage, type BarredTaken } from '../../../shared/barred'
import { refusal } from '../../../shared/refusal'
import { recogniseTable, tableRows } from '../../../tables/read'
import type { Executor } from '../../database/client'
import { barredKey, barredPerson } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { namesOf } from '../people/names'
import { barredView } from './list'
import { findApplicationsOf, identityOfBarred, matchesOf, settleMatchesOf } from './match'

/** People who may not take part: who is on the list, and applications that are likely theirs. */
export async function readBarred(caller: Caller, cycle: string, of?: string): Promise<BarredPage> {
  const context = await caller.authorise('barred.read', { cycle })
  const rows = await context.db.select().from(barredPerson).orderBy(desc(barredPerson.at), barredPerson.id).limit(300)
  const name = await namesOf(context.db, rows.flatMap(row => [row.by, row.liftedBy]))
  return { people: rows.map(row => barredView(row, name)), matches: await matchesOf(context, cycle, of) }
}

/**
 * Bars somebody; applications that are likely theirs are asked about at once. Somebody who is on the list already is not put on it again.
 */
export async function barPerson(caller: Caller, person: BarredInput): Promise<BarredTaken> {
  const context = await caller.authorise('barred.write')
  return context.db.transaction(tx => putOnList(tx, context, [person]))
}

const headings: Readonly<Record<string, keyof BarredInput>> = {
  'name': 'name',
  'born': 'bornOn',
  'born on': 'bornOn',
  'date of birth': 'bornOn',
  'number': 'identityNumber',
  'identity number': 'identityNumber',
  'mobile': 'mobile',
  'telephone': 'mobile',
  'email': 'email',
  'e-mail': 'email',
  'reason': 'reason',
  'why': 'reason',
  'until': 'until',
}
const rowsAtMost = 20_000

/**
 * Takes a list in: CSV, XLSX or ODS with a heading that names the columns `name`, `born`, `number`, `mobile`, `email`, `reason` and
 * `until`. With a fault in any row nothing is added, and the rows are named.
 */
export async function takeBarredList(caller: Caller, bytes: Buffer): Promise<BarredTaken> {
  const context = await caller.authorise('barred.write')
  const kind = await recogniseTable(bytes)
  let columns: (keyof BarredInput | null)[] | null = null
  const people: BarredInput[] = []
  const faults: BarredTaken['faults'] = []
  let row = 0
  for await (const cells of tableRows(bytes, kind)) {
    row += 1
    if (cells.every(cell => cell.trim() === '')) continue
    if (!columns) {
      columns = cells.map(cell => headings[cell.trim().toLowerCase()] ?? null)
      continue
    }
    if (people.length >= rowsAtMost) throw refusal('barred.too-many', { most: rowsAtMost })
    const read = readRow(columns, cells)
    if ('why' in read) faults.push({ row, ...read })
    else people.push(read)
  }
  if (!columns?.includes('reason') || !(columns.includes('identityNumber') || columns.includes('name'))) {
    throw refusal('barred.headings', { found: columns ? 'none of them' : 'nothing' })
  }
  if (faults.length > 0) return { added: 0, repeated: 0, faults: faults.slice(0, 50) }
  return context.db.transaction(tx => putOnList(tx, context, people))
}

function readRow(
  columns: readonly (keyof BarredInput | null)[],
  cells: readonly string[],
): BarredInput | Pick<BarredTaken['faults'][number], 'cell' | 'why'> {
  const read: Record<string, string> = {}
  for (const [i, column] of columns.entries()) if (column) read[column] = storedText(cells[i] ?? '')
  for (const field of ['bornOn', 'until'] as const) {
    const typed = read[field]
    if (!typed) continue
    const days = readDates(typed)
    if (days.length !== 1) return { cell: typed.slice(0, 60), why: 'date' }
    read[field] = days[0] ?? ''
  }
  const parsed = barredSchema.safeParse(read)
  if (parsed.success) return parsed.data
  return (read.reason ?? '').length < 3
    ? { cell: (read.reason ?? '').slice(0, 60), why: 'reason' }
    : { cell: (read.name ?? '').slice(0, 60), why: 'who' }
}

async function putOnList(tx: Executor, context: Context, people: readonly BarredInput[]): Promise<BarredTaken> {
  const added: string[] = []
  for (const person of people) {
    const [row] = await tx.insert(barredPerson).values({
      id: context.newId(),
      ...person,
      until: person.until || null,
      by: context.principal.id,
      at: context.now(),
    }).onConflictDoNothing({
      target: [barredPerson.name, barredPerson.bornOn, barredPerson.identityNumber],
      where: isNull(barredPerson.liftedAt),
    }).returning()
    if (!row) continue
    const keys = identityKeys(identityOfBarred(row)).map(key => ({ key: keyHash(key), barredId: row.id }))
    if (keys.length > 0) await tx.insert(barredKey).values(keys).onConflictDoNothing()
    await log(tx, context, 'bar-person', {
      subject: { kind: 'office', id: row.id },
      reason: person.reason,
      after: { until: person.until || null },
    })
    added.push(row.id)
  }
  if (added.length > 0) await findApplicationsOf(tx, context, added)
  return { added: added.length, repeated: people.length - added.length, faults: [] }
}

/** Lifts a bar; what it held goes on. */
export async function liftBar(caller: Caller, id: string, reason: string): Promise<void> {
  const context = await caller.authorise('barred.write')
  await context.db.transaction(async (tx) => {
    const [row] = await tx.update(barredPerson).set({ liftedBy: context.principal.id, liftedAt: context.now(), liftReason: reason })
      .where(and(eq(barredPerson.id, id), isNull(barredPerson.liftedAt))).returning()
    if (!row) throw refusal('barred.unknown')
    await log(tx, context, 'lift-bar', { subject: { kind: 'office', id }, reason, after: { lifted: true } })
    await settleMatchesOf(tx, context, id)
  })
}
