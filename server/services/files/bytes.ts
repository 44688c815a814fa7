import { createHash } from 'node:crypto'
import { and, asc, count, eq, gt, ne } from 'drizzle-orm'
import { refusal } from '../../../shared/problem'
import type { Database, Executor } from '../../database/client'
import { file } from '../../database/schema'
import { objectStore, type ObjectStore } from '../../files/objects'

/** Bytes by the hash of their content, in one of two homes: the database, or an S3-compatible store that the operator has set. */
export type FileHome = 'database' | 'objects'

const hashOf = (content: Uint8Array): string => createHash('sha256').update(content).digest('hex')

/** Bytes that are where they will stay, before anything names them. */
export interface BroughtFile { sha256: string, bytes: number, home: FileHome, content: Buffer | null }

/**
 * Brings bytes to their home. It may lie across a network, so it is done before a transaction begins, and no row is locked meanwhile. What no transaction names
 * afterwards stays in a store of objects as bytes that nobody asks for; a name without bytes there never is.
 */
export async function bringFile(db: Executor, content: Uint8Array): Promise<BroughtFile> {
  const sha256 = hashOf(content)
  const store = objectStore()
  if (!store) return { sha256, bytes: content.length, home: 'database', content: Buffer.from(content) }
  const [known] = await db.select({ home: file.home }).from(file).where(eq(file.sha256, sha256))
  if (!known) await reached(store.put(sha256, content))
  return { sha256, bytes: content.length, home: 'objects', content: null }
}

/** Names bytes that were brought; the same bytes are kept once. */
export async function keepFile(tx: Executor, brought: BroughtFile): Promise<string> {
  await tx.insert(file).values(brought).onConflictDoNothing()
  return brought.sha256
}

/** Bytes by hash, wherever they are. @throws ProblemError when they are not there, or not those that were kept. */
export async function readFile(tx: Executor, sha256: string): Promise<Buffer> {
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
    console.error(JSON.stringify({ level: 'error', what: 'store of objects', message: error instanceof Error ? `${error.name}: ${error.message}` : 'unknown' }))
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
  const rows = await db.select({ home: file.home, n: count() }).from(file).groupBy(file.home)
  const of = (home: FileHome) => rows.find(row => row.home === home)?.n ?? 0
  return { database: of('database'), objects: of('objects') }
}

/**
 * Moves every file to a home while servers run. Each is written, read back and compared by its hash before the database says that it is there; it may be
 * broken off and begun again at any time. Bytes in the store of objects are left when they move to the database: a server may be reading them.
 *
 * @param tell is told how many were moved so far.
 */
export async function moveFiles(db: Database, to: FileHome, tell: (moved: number) => void = () => undefined): Promise<number> {
  let moved = 0
  for (let after = ''; ;) {
    const page = await db.select({ sha256: file.sha256 }).from(file).where(and(ne(file.home, to), gt(file.sha256, after))).orderBy(asc(file.sha256)).limit(100)
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
  await db.update(file).set({ home: to, content: to === 'database' ? content : null }).where(and(eq(file.sha256, sha256), ne(file.home, to)))
}
