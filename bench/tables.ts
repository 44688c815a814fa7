import { createHash } from 'node:crypto'
import { tableFormats, tableStream, type Cell } from '../tables/stream'

/**
 * Tables on their way out, without a database: `npx tsx bench/tables.ts [rows]`. Seconds and the most memory for each format beside plain
 * lines of the same rows, counted by nobody but a hash: what is measured is the writing.
 */
const wanted = Number(process.argv[2] ?? 1_000_000)
const columns = ['number', 'name', 'telephone', 'category', 'posts', 'stands_at', 'since', 'submitted_at', 'fee', 'tags']
const row = (n: number): Cell[] => [`HL27-${String(n).padStart(7, '0')}-1`, `Person ${n} of Ottrevik`, `55501${n % 100_000}`, 'General', [
  'pilot-cadet',
  'port-clerk',
], 'in scrutiny', '2026-11-29T10:00:00.000Z', '2026-11-28T10:00:00.000Z', 'settled', ['at:in scrutiny', 'fee:settled',
  'q:category=general']]
async function* pages(): AsyncGenerator<Cell[][]> {
  for (let n = 0; n < wanted; n += 500) yield await Promise.resolve(Array.from({ length: Math.min(500, wanted - n) }, (_, i) => row(n + i)))
}

async function measured(parts: AsyncIterable<unknown>): Promise<{ seconds: number, megabytes: number, most: number }> {
  const [hash, started] = [createHash('sha256'), performance.now()]
  let [bytes, most] = [0, 0]
  for await (const part of parts) {
    const piece = Buffer.from(part as string)
    hash.update(piece)
    bytes += piece.length
    most = Math.max(most, process.memoryUsage.rss())
  }
  return { seconds: (performance.now() - started) / 1000, megabytes: bytes / 2 ** 20, most: most / 2 ** 20 }
}

async function* bare(): AsyncGenerator<string> {
  for await (const page of pages()) yield page.map(cells => cells.map(String).join('\t')).join('\n')
}
const plain = await measured(bare())
console
  .log(`${wanted} rows; bare lines ${plain.seconds.toFixed(1)} s, ${plain.megabytes.toFixed(0)} MB, most memory ${
    plain.most.toFixed(0)
  } MB`)
for (const format of tableFormats) {
  const one = await measured(tableStream(format, { title: 'Roster', columns, pages: pages() }))
  console
    .log(`${format}: ${one.seconds.toFixed(1)} s, ${(one.seconds / plain.seconds).toFixed(1)} times bare lines, ${
      one.megabytes.toFixed(0)
    } MB, most memory ${one.most.toFixed(0)} MB`)
}
