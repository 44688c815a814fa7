import { and, asc, desc, eq, gt, gte, isNull, lt, lte, or, sql } from 'drizzle-orm'
import { z } from 'zod'
import { GrowingTree } from '../../../core/records/merkle'
import {
  commitmentOf,
  LogCheck,
  leafOf,
  signHead,
  type LogFault,
  type RowValues,
  type SealedHead,
  type SealedRow,
} from '../../../core/records/sealed-log'
import type { SealCheck, SealState } from '../../../shared/records'
import { defineWork } from '../../jobs/define'
import { alone, type Database, type Executor } from '../../database/client'
import { auditEvent, auditHead, auditLeaf, cardKey } from '../../database/schema'
import { signingKey } from '../cards/keys'
import type { Caller, Context } from '../context'

/**
 * Seals the log of acts: rows that are committed become leaves of one Merkle tree, whose head is signed. Nobody who writes the log waits
 * for it, and a row that was committed late is sealed when it comes.
 */

const rowsAtOnce = 2000
/** A head is signed when so many rows wait, or the last one is so old. */
const due = { rows: 1000, milliseconds: 60_000 }
/** No transaction runs this long: heads older than that are behind all of them, also after the database was restored elsewhere. */
const longAgo = 6 * 3600_000

const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex')

function valuesOf(row: typeof auditEvent.$inferSelect): RowValues {
  const { id, at, actor, act, subjectKind, subject, cycle, outsideDates, noticeVersion, requestId, salt, reason, before, after } = row
  return {
    id,
    at: at.toISOString(),
    actor,
    act,
    subjectKind,
    subject,
    cycle,
    outsideDates,
    noticeVersion,
    requestId,
    personal: salt === null ? null : { salt, reason, before: before ?? null, after: after ?? null },
  }
}

/** Seals what waits, where it is due; how many rows. `now` seals however few they are. */
export async function sealLog(caller: Caller, when: 'due' | 'now' = 'due'): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'sealing', async () => {
    if (when === 'due' && !await isDue(context)) return 0
    const head = await newestHead(context.db)
    const tree = await treeFrom(context.db, head)
    const settled = await settledBelow(context)
    let sealed = tree.size - (head?.size ?? 0)
    for (
      let page = await sealPage(context, tree, head?.floor ?? 0);
      page > 0;
      page = page < rowsAtOnce ? 0 : await sealPage(context, tree, head?.floor ?? 0)
    ) sealed += page
    if (sealed > 0) await signTree(context, tree, Math.max(head?.floor ?? 0, settled.floor), settled.horizon)
    return sealed
  })
  return done?.result ?? 0
}

/** The tree as it stands: that of the newest head, and leaves that a process made which died before it signed them. */
async function treeFrom(db: Executor, head: typeof auditHead.$inferSelect | undefined): Promise<GrowingTree> {
  const tree = new GrowingTree((head?.peaks ?? []).map(one => new Uint8Array(Buffer.from(one, 'hex'))), head?.size ?? 0)
  for (;;) {
    const page = await db.select().from(auditLeaf).where(gte(auditLeaf.place, tree.size)).orderBy(asc(auditLeaf.place)).limit(rowsAtOnce)
    for (const { leaf } of page) tree.add(new Uint8Array(leaf))
    if (page.length < rowsAtOnce) return tree
  }
}

async function newestHead(tx: Executor): Promise<typeof auditHead.$inferSelect | undefined> {
  const [head] = await tx.select().from(auditHead).orderBy(desc(auditHead.size)).limit(1)
  return head
}

async function isDue({ db, now }: Context): Promise<boolean> {
  const head = await newestHead(db)
  const [newest] = await db.select({ id: auditEvent.id }).from(auditEvent).orderBy(desc(auditEvent.id)).limit(1)
  const waiting = (newest?.id ?? 0) - (head?.lastEvent ?? 0)
  // Of a row that came late the number does not tell; the next head takes it along.
  return waiting >= due.rows || (waiting > 0 && now().getTime() - (head?.at.getTime() ?? 0) >= due.milliseconds)
}

interface Snapshot extends Record<string, unknown> {
  oldest: string
  next: string
}

/**
 * The row below which all will be sealed when a look that begins now has gone to its end: of older heads the highest row, where all that
 * had begun before the head is over. A row may get its number before its transaction gets one, but not a minute before. And the transaction
 * before which all have begun by now.
 */
async function settledBelow({ db, now }: Context): Promise<{ floor: number, horizon: number }> {
  const { rows: [snapshot] } = await db.execute<
    Snapshot
  >(sql`select pg_snapshot_xmin(pg_current_snapshot())::text as oldest, pg_snapshot_xmax(pg_current_snapshot())::text as next`)
  const ago = (milliseconds: number) => lt(auditHead.at, new Date(now().getTime() - milliseconds))
  // Both grow from head to head: the newest that is behind all has the highest row.
  const [settled] = await db.select({ id: auditHead.lastEvent }).from(auditHead)
    .where(or(and(lte(auditHead.horizon, Number(snapshot?.oldest ?? 0)), ago(due.milliseconds)), ago(longAgo)))
    .orderBy(desc(auditHead.size)).limit(1)
  return { floor: settled?.id ?? 0, horizon: Number(snapshot?.next ?? 0) }
}

async function sealPage({ db }: Context, tree: GrowingTree, floor: number): Promise<number> {
  const rows = await db.select({ event: auditEvent }).from(auditEvent).leftJoin(auditLeaf, eq(auditLeaf.eventId, auditEvent.id))
    .where(and(gt(auditEvent.id, floor), isNull(auditLeaf.eventId))).orderBy(asc(auditEvent.id)).limit(rowsAtOnce)
  if (rows.length === 0) return 0
  await db.insert(auditLeaf).values(rows.map(({ event }) => {
    const { personal, ...values } = valuesOf(event)
    const commitment = personal ? commitmentOf(personal) : ''
    const leaf = leafOf({ ...values, commitment })
    tree.add(leaf)
    return { place: tree.size - 1, eventId: event.id, commitment: Buffer.from(commitment, 'hex'), leaf: Buffer.from(leaf) }
  }))
  return rows.length
}

async function signTree(context: Context, tree: GrowingTree, floor: number, horizon: number): Promise<void> {
  const at = context.now()
  const signed = signHead({ size: tree.size, root: hex(tree.root()), at: at.toISOString() }, await signingKey(context.db, context))
  const [highest] = await context.db.select({ id: sql<string>`max(${auditLeaf.eventId})` }).from(auditLeaf)
  await context.db.insert(auditHead).values({
    size: tree.size,
    root: Buffer.from(tree.root()),
    peaks: tree.roots.map(hex),
    at,
    key: signed.key,
    signature: Buffer.from(signed.signature, 'hex'),
    floor,
    lastEvent: Number(highest?.id ?? 0),
    horizon,
  })
}

/** How far the log is sealed. */
export async function sealState(caller: Caller): Promise<SealState> {
  const { db } = await caller.authorise('records.read')
  const head = await newestHead(db)
  const [newest] = await db.select({ id: auditEvent.id }).from(auditEvent).orderBy(desc(auditEvent.id)).limit(1)
  return { head: head ? headView(head) : null, waiting: Math.max(0, (newest?.id ?? 0) - (head?.lastEvent ?? 0)) }
}

const headView = ({ size, root, at, key, signature }: typeof auditHead.$inferSelect): SealedHead => ({
  size,
  root: hex(root),
  at: at.toISOString(),
  key,
  signature: hex(signature),
})

/** Signed heads, the oldest first, page by page. */
async function* headsOf(db: Database): AsyncGenerator<SealedHead[]> {
  for (let after = -1;;) {
    const page = await db.select().from(auditHead).where(gt(auditHead.size, after)).orderBy(asc(auditHead.size)).limit(rowsAtOnce)
    if (page.length > 0) yield page.map(headView)
    after = page.at(-1)?.size ?? after
    if (page.length < rowsAtOnce) return
  }
}

/** Sealed rows in their order, page by page. */
async function* rowsOf(db: Database): AsyncGenerator<SealedRow[]> {
  for (let after = -1;;) {
    const page = await db.select({ leaf: auditLeaf, event: auditEvent }).from(auditLeaf).innerJoin(
      auditEvent,
      eq(auditEvent.id, auditLeaf.eventId),
    ).where(gt(auditLeaf.place, after)).orderBy(asc(auditLeaf.place)).limit(rowsAtOnce)
    if (page.length > 0) {
      yield page.map(({ leaf, event }) => ({
        place: leaf.place,
        ...valuesOf(event),
        commitment: hex(leaf.commitment),
        leaf: hex(leaf.leaf),
      }))
    }
    after = page.at(-1)?.leaf.place ?? after
    if (page.length < rowsAtOnce) return
  }
}

async function* asLines(pages: AsyncGenerator<object[]>): AsyncGenerator<string> {
  for await (const page of pages) yield page.map(one => `${JSON.stringify(one)}\n`).join('')
}

/** The sealed log, or its heads, as JSON Lines. */
export async function exportSealed(caller: Caller, what: 'rows' | 'heads'): Promise<AsyncGenerator<string>> {
  const { db } = await caller.authorise('records.read')
  return asLines(what === 'rows' ? rowsOf(db) : headsOf(db))
}

/**
 * Checks the whole sealed log as `lucid audit verify` does: the same core over the rows as they are now. `tell` answers whether to go on;
 * of a check that was stopped nothing is said.
 */
export async function checkSealed(
  caller: Caller,
  tell: (done: number, total: number) => Promise<boolean> = () => Promise.resolve(true),
): Promise<SealCheck | null> {
  const { db } = await caller.authorise('records.read')
  const heads: SealedHead[] = []
  for await (const page of headsOf(db)) heads.push(...page)
  const keys = (await db.select().from(cardKey)).map(({ id, publicKey }) => ({ id, key: new Uint8Array(publicKey) }))
  const check = new LogCheck(heads, keys)
  for await (const page of rowsOf(db)) {
    if (!page.every(row => check.row(row))) break
    if (!await tell(check.rows, Math.max(check.rows, heads.at(-1)?.size ?? 0))) return null
  }
  const fault = check.end() ?? await unsealedOf(db)
  return { rows: check.rows, heads: heads.length, fault }
}

/** The check as long work: at millions of rows it takes minutes. */
export const checkLogWork = defineWork({
  kind: 'check-log',
  permission: 'records.read',
  input: z.object({}),
  run: async (caller, { tell }): Promise<Record<string, string | number>> => {
    const found = await checkSealed(caller, tell)
    return found ? { rows: found.rows, heads: found.heads, fault: JSON.stringify(found.fault) } : {}
  },
})

/** A row below which all are sealed, and that nobody sealed: put in by another way than the product's. */
async function unsealedOf(db: Executor): Promise<LogFault | null> {
  const head = await newestHead(db)
  const [found] = head
    ? await db.select({ id: auditEvent.id }).from(auditEvent).leftJoin(auditLeaf, eq(auditLeaf.eventId, auditEvent.id))
      .where(and(lte(auditEvent.id, head.floor), isNull(auditLeaf.eventId))).limit(1)
    : []
  return found ? { code: 'not-sealed', place: found.id } : null
}
