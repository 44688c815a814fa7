import { eq, sql } from 'drizzle-orm'
import type { Finding } from '../../../core/finding/finding'
import { uploadLimitBytes } from '../../../pictures/door'
import { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import { unpackedAtMost, zipEntries, type PackedFile } from '../../../tables/zip'
import { roll, rollFile, rollRow } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile, type BroughtFile } from '../files/bytes'
import { factsAtTheDoor } from '../images/store'
import { rollFinding } from './files'
import { idleRoll, readRoll } from './rolls'
import type { RollDetail } from '../../../shared/rolls'

const firstPage = { outcome: 'refused' as const, after: 0, limit: 100 }
/** So many files, or so many bytes, are written at once. */
const [batchSize, batchBytes] = [40, 16 * 1024 * 1024]
/** What programs put into packings by themselves. */
const isLitter = (path: string) => /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/i.test(path)

interface Read {
  name: string
  bytes: number
  brought: BroughtFile | null
  finding: Finding | null
}

/**
 * Takes the pictures and papers of a roll out of a packing that lies on the disk, one after another, so that its size does not matter; each
 * is kept by its path, and one of the same path that came before makes room. What was tried before holds no longer.
 *
 * @param name of the packing: it may say what is in it, as a folder does.
 * @throws ProblemError `roll.under-way` while somebody works on the roll, `table.packed` where the packing cannot be read; what came before
 * that stays.
 */
export async function takeFiles(caller: Caller, id: string, name: string, path: string): Promise<RollDetail> {
  const context = await caller.authorise('rolls.enter')
  const { db } = context
  await db.transaction(tx => idleRoll(tx, id))
  let count = 0
  let batch: Read[] = []
  let [held, unpacked] = [0, 0]
  const write = async () => {
    await keepBatch(context, id, batch)
    count += batch.length
    batch = []
    held = 0
  }
  for await (const packed of zipEntries(path)) {
    if (isLitter(packed.entry.fileName)) continue
    const read = await readOne(context, name, packed)
    // What is packed to a thousandth of its size is no picture; a packing of many such would fill the disk.
    unpacked += read.bytes
    if (unpacked > unpackedAtMost) throw refusal('table.packed')
    batch.push(read)
    held += read.bytes
    if (batch.length === batchSize || held > batchBytes) await write()
  }
  await write()
  if (count === 0) throw refusal('roll.no-files')
  await db.transaction(async (tx) => {
    const row = await idleRoll(tx, id)
    await log(tx, context, 'read-roll', {
      subject: { kind: 'cycle', id: row.cycle },
      cycle: row.cycle,
      after: { sender: row.sender, name, files: count },
    })
  })
  return readRoll(caller, id, firstPage)
}

async function readOne({ db }: Context, packing: string, { entry, unpack }: PackedFile): Promise<Read> {
  const name = `${packing.replace(/\.zip$/i, '')}/${entry.fileName}`.slice(-400)
  if (entry.isEncrypted()) return { name, bytes: 0, brought: null, finding: rollFinding('roll.file-locked') }
  const parts: Buffer[] = []
  let bytes = 0
  for await (const part of unpack()) {
    bytes += part.length
    if (bytes > uploadLimitBytes) {
      return { name, bytes, brought: null, finding: rollFinding('roll.file-large', { most: uploadLimitBytes / 1024 / 1024 }) }
    }
    parts.push(part)
  }
  const content = Buffer.concat(parts)
  try {
    factsAtTheDoor(content)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    return { name, bytes, brought: null, finding: rollFinding('roll.file-kind') }
  }
  return { name, bytes, brought: await bringFile(db, content), finding: null }
}

async function keepBatch(context: Context, id: string, batch: readonly Read[]): Promise<void> {
  if (batch.length === 0) return
  await context.db.transaction(async (tx) => {
    await idleRoll(tx, id)
    await tx.update(roll).set({ state: 'read', totals: null }).where(eq(roll.id, id))
    await tx.delete(rollRow).where(eq(rollRow.rollId, id))
    for (const { brought } of batch) if (brought) await keepFile(tx, brought)
    // One path may stand in a packing twice: the last counts.
    const rows = [
      ...new Map(batch.map(({ name, bytes, brought, finding }) => [name, {
        rollId: id,
        name,
        bytes,
        sha256: brought?.sha256 ?? null,
        row: null,
        slot: null,
        finding,
      }])).values(),
    ]
    await tx.insert(rollFile).values(rows).onConflictDoUpdate({
      target: [rollFile.rollId, rollFile.name],
      set: { bytes: sql`excluded.bytes`, sha256: sql`excluded.sha256`, row: null, slot: null, finding: sql`excluded.finding` },
    })
  })
}

/** Leaves all pictures and papers of a roll out again. What was entered of them stays where it is. */
export async function dropFiles(caller: Caller, id: string): Promise<RollDetail> {
  const context = await caller.authorise('rolls.enter')
  await context.db.transaction(async (tx) => {
    await idleRoll(tx, id)
    await tx.delete(rollFile).where(eq(rollFile.rollId, id))
    await tx.update(roll).set({ state: 'read', totals: null }).where(eq(roll.id, id))
    await tx.delete(rollRow).where(eq(rollRow.rollId, id))
  })
  return readRoll(caller, id, firstPage)
}
