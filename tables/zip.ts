import { fromBufferPromise, openPromise, type Entry, type ZipFile } from 'yauzl'
import { refusal } from '../shared/refusal'

/** Packed files (PKWARE APPNOTE): what is in them, unpacked with a bound, since a small file may unpack to any size. */

/** Bytes that all files of one packing may have together, and how many files. */
export const unpackedAtMost = 1024 * 1024 * 1024
const entriesAtMost = 100_000

export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4B && (bytes[2] === 3 || bytes[2] === 5)

/** Names of the files in it with their sizes. Each is unpacked once to see that its size is true. @throws ProblemError `table.packed` */
export async function measureZip(bytes: Buffer): Promise<Map<string, number>> {
  const sizes = new Map<string, number>()
  let total = 0
  for await (const { entry, unpack } of zipEntries(bytes)) {
    let size = 0
    for await (const piece of unpack()) {
      size += piece.length
      total += piece.length
      if (total > unpackedAtMost) throw refusal('table.packed')
    }
    sizes.set(entry.fileName, size)
  }
  return sizes
}

export interface PackedFile {
  entry: Entry
  unpack: () => AsyncGenerator<Buffer>
}

/** The files of a packing one after another, from its bytes or from where it lies on the disk; folders are left out. */
export async function* zipEntries(from: Buffer | string): AsyncGenerator<PackedFile> {
  let zip: ZipFile | null = null
  try {
    zip = await (typeof from === 'string'
      ? openPromise(from, { validateEntrySizes: true })
      : fromBufferPromise(from, { validateEntrySizes: true }))
    let count = 0
    for await (const entry of zip.eachEntry()) {
      count += 1
      if (count > entriesAtMost) {
        throw refusal('table.packed')
      }
      const whole = zip
      if (!entry.fileName.endsWith('/')) yield { entry, unpack: () => unpacked(whole, entry) }
    }
  } catch (error) {
    throw worded(error)
  }
}

async function* unpacked(zip: ZipFile, entry: Entry): AsyncGenerator<Buffer> {
  try {
    for await (const piece of await zip.openReadStreamPromise(entry)) yield piece as Buffer
  } catch (error) {
    throw worded(error)
  }
}

// What the reader says of a broken packing is no sentence for people.
const worded = (error: unknown) => error instanceof Error && error.name === 'ProblemError' ? error : refusal('table.packed')
