import { createHash } from 'node:crypto'
import { and, asc, count, eq, gt, ne, sql } from 'drizzle-orm'
import { refusal } from '../../../shared/refusal'
import type { Database, Executor } from '../../database/client'
import { file } from '../../database/schema'
import { objectStore, type ObjectStore } from '../../files/objects'

/** Bytes by the hash of their content, in one of two homes: the database, or an S3-compatible store that the operator has set. */
export type FileHome = 'database' | 'objects'

const hashOf = (content: Uint8Array): string => createHash('sha256').update(content).digest('hex')

/** What pictures and papers name once their bytes were erased. */
export const erasedFile = 'erased'

/** Bytes that are where they will stay, before anything names them. `isThere`: the store held them already. */
export interface BroughtFile {
  sha256: string
  bytes: number
  home: FileHome
  content: Buffer | null
  isThere: boolean
}

/**
 * Brings bytes to their home. It may lie across a network, so it is done before a transaction begins, and no row is locked meanwhile. What
 * no transaction names afterwards stays in a store of objects as bytes that nobody asks for; a name without bytes there never is.
 */
export async function bringFile(db: Executor, content: Uint8Array): Promise<BroughtFile> {
  const sha256 = hashOf(content)
  const store = objectStore()
  if (!store) return { sha256, bytes: content.length, home: 'database', content: Buffer.from(content), isThere: false }
  const [known] = await db.select({ home: file.home }).from(file).where(eq(file.sha256, sha256))
  if (!known) await reached(store.put(sha256, content))
  return { sha256, bytes: content.length, home: 'objects', content: null, isThere: known !== undefined }
}

/**
 * Names bytes that were brought; the same bytes are kept once. @throws ProblemError where the store held them then, and they were erased
 * since: they are to be sent again.
 */
export async function keepFile(tx: Executor, { isThere, ...brought }: BroughtFile): Promise<string> {
  const made = await tx.insert(file).values(brought).onConflictDoNothing().returning({ sha256: file.sha256 })
  if (made.length > 0 && isThere) throw refusal('file.not-kept')
  return brought.sha256
}

/** Bytes by hash, wherever they are. @throws ProblemError when they are not there, or not those that were kept. */
export async function readFile(tx: Executor, sha256: string): Promise<Buffer> {
  if (sha256 === erasedFile) throw refusal('file.erased')
  const [row] = await tx.select({ home: file.home, content: file.content }).from(file).where(eq(file.sha256, sha256))
  const content = row?.home === 'objects' ? await reached(storeWanted().get(sha256)) : row?.content
  if (!content) throw refusal('file.bytes-missing', { hash: sha256.slice(0, 12) })
  if (hashOf(content) !== sha256) throw refusal('file.bytes-damaged', { hash: sha256.slice(0, 12) })
  return content
}

// Whatever a store answers instead, the person who sent a file is told that it is not kept; the log says why.
async function reached<T>(asked: Promise<T>): Promise<T> {
  try {
    return await asked
  } catch (error) {
    console.error(JSON.stringify({
      level: 'error',
      what: 'store of objects',
      message: error instanceof Error ? `${error.name}: ${error.message}` : 'unknown',
    }))
    throw refusal('file.store-unreachable')
  }
}

function storeWanted(): ObjectStore {
  const store = objectStore()
  if (!store) throw refusal('file.store-unset')
  return store
}

/** How many files each home holds. */
export async function filesByHome(db: Executor): Promise<Record<FileHome, number>> {
  const rows = await db.select({ home: file.home, n: count() }).from(file).where(ne(file.sha256, erasedFile)).groupBy(file.home)
  const of = (home: FileHome) => rows.find(row => row.home === home)?.n ?? 0
  return { database: of('database'), objects: of('objects') }
}

/**
 * Moves every file to a home while servers run. Each is written, read back and compared by its hash before the database says that it is
 * there; it may be broken off and begun again at any time. Bytes in the store of objects are left when they move to the database: a server
 * may be reading them.
 *
 * @param tell is told how many were moved so far.
 */
export async function moveFiles(db: Database, to: FileHome, tell: (moved: number) => void = () => undefined): Promise<number> {
  let moved = 0
  for (let after = '';;) {
    const page = await db.select({ sha256: file.sha256 }).from(file)
      .where(and(ne(file.home, to), ne(file.sha256, erasedFile), gt(file.sha256, after))).orderBy(asc(file.sha256)).limit(100)
    for (const { sha256 } of page) {
      await moveFile(db, sha256, to)
      moved += 1
    }
    tell(moved)
    after = page.at(-1)?.sha256 ?? after
    if (page.length < 100) return moved
  }
}

async function moveFile(db: Database, sha256: string, to: FileHome): Promise<void> {
  const content = await readFile(db, sha256)
  if (to === 'objects') {
    const store = storeWanted()
    await reached(store.put(sha256, content))
    const back = await reached(store.get(sha256))
    if (!back || hashOf(back) !== sha256) throw refusal('file.bytes-damaged', { hash: sha256.slice(0, 12) })
  }
  await db.update(file).set({ home: to, content: to === 'database' ? content : null })
    .where(and(eq(file.sha256, sha256), ne(file.home, to)))
}

/** Every place that names files by their hashes. What none of them names is nobody's any more. */
export const fileNames = `
  select sha256 from image union all select display_sha256 from image where display_sha256 is not null
  union all select page->>'sha256' from image, jsonb_array_elements(pages) as page union all select jsonb_array_elements_text(originals) from image
  union all select sha256 from deposit_slip union all select page->>'sha256' from deposit_slip, jsonb_array_elements(pages) as page
  union all select photograph_sha256 from admit_card union all select signature_sha256 from admit_card
  union all select sha256 from roll union all select sha256 from roll_file where sha256 is not null
  union all select sha256 from bank_statement union all select sha256 from settlement union all select sha256 from payment_file union all select sha256 from handout`

/**
 * Takes away the bytes of files that nothing names any more, as the role that may, over two connections; how many. Somebody who sends the
 * very same bytes meanwhile waits for the row, and then brings them anew.
 */
export async function removeUnnamed(db: Database): Promise<number> {
  return db.transaction(async (reading) => {
    // Found in one pass over all names, and taken away in parts beside it: millions of hashes are never held at once.
    await reading
      .execute(sql`declare unnamed no scroll cursor for select f.sha256 from file f where f.sha256 <> 'erased' and not exists (select 1 from (${
        sql.raw(fileNames)
      }) as named where named.sha256 = f.sha256)`)
    for (let removed = 0;;) {
      const { rows } = await reading.execute<{ sha256: string }>(sql`fetch 200 from unnamed`)
      if (rows.length === 0) return removed
      await removeFiles(db, rows.map(row => row.sha256))
      removed += rows.length
    }
  })
}

async function removeFiles(db: Database, hashes: readonly string[]): Promise<void> {
  await db.transaction(async (tx) => {
    const { rows: gone } = await tx.execute<
      { sha256: string, home: FileHome }
    >(sql`delete from file where sha256 = any(${sql.param([...hashes])}::text[]) returning sha256, home`)
    for (const { sha256 } of gone.filter(row => row.home === 'objects')) await reached(storeWanted().remove(sha256))
  })
}
