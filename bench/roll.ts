import { stringify } from 'csv-stringify/sync'
import { execFileSync } from 'node:child_process'
import { createWriteStream, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { ZipFile } from 'yazl'
import { product } from '../core/access/principal'
import { rollFields } from '../core/roll/columns'
import { makePerson } from '../demo/people'
import { drawPortrait } from '../demo/portraits'
import { Random } from '../demo/random'
import { drawSignature } from '../demo/signatures'
import { openDatabase } from '../server/database/client'
import { Caller } from '../server/services/context'
import { currentNotice } from '../server/services/notice/notices'
import { enterRoll, tryRoll } from '../server/services/rolls/pass'
import { takeRoll } from '../server/services/rolls/rolls'
import { takeFiles } from '../server/services/rolls/take-files'

/**
 * A nominal roll of many rows, tried and entered, against a plain COPY of the same file into a table of texts in the same run.
 * `DATABASE_URL=… npx tsx bench/roll.ts 100000`: a database that holds the demo; it is filled. With `pictures` behind it a photograph and a
 * signature come for each row in a ZIP.
 */
const [count, hasPictures] = [Number(process.argv[2] ?? 100_000), process.argv[3] === 'pictures']
const { DATABASE_URL } = process.env
if (!DATABASE_URL) throw new Error('DATABASE_URL must name a database that holds the demo; it will be filled')
const handle = openDatabase(DATABASE_URL)
const { db } = handle
const office = new Caller(db, product, { requestId: 'bench' })
const cycle = 'HL27'
const goOn = async () => true

async function timed<T>(what: string, work: () => Promise<T> | T): Promise<{ result: T, ms: number }> {
  const before = performance.now()
  let most = 0
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage.rss())
  }, 100)
  const result = await work()
  clearInterval(watch)
  const ms = performance.now() - before
  console
    .log(`${what}: ${(ms / 1000).toFixed(1)} s, ${(ms / count).toFixed(3)} ms a row, at most ${Math.round(most / 2 ** 20)} MB resident`)
  return { result, ms }
}

const folder = mkdtempSync(join(tmpdir(), 'lucid-roll-'))

/** A ZIP with two pictures for each row; each differs from all others behind its end. */
async function packed(path: string): Promise<string> {
  const zip = new ZipFile()
  const [portrait, signature] = [await drawPortrait(new Random(3), 'none'), await drawSignature(new Random(4), 'none')]
  for (let n = 0; n < count; n += 1) {
    const own = Buffer.from(`number ${n}`)
    zip.addBuffer(Buffer.concat([portrait, own]), `photographs/B-${n}.jpg`, { compress: false })
    zip.addBuffer(Buffer.concat([signature, own]), `signatures/B-${n}.jpg`, { compress: false })
  }
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(path))
  console.log(`ZIP of ${2 * count} pictures, ${(statSync(path).size / 1e6).toFixed(0)} MB`)
  return path
}

try {
  const { notice } = await currentNotice(db, cycle)
  const asked = notice.sections.flatMap(section => section.questions).filter(question => question.kind !== 'table').map(question =>
    question.id
  )
  const titles = new Map(rollFields(notice, { reference: 'Number', file: slot => `File: ${slot}` }).map(field => [field.id, field.title]))
  const random = new Random(11)
  const rows = Array.from({ length: count }, (_, n) => {
    const { answers } = makePerson(random, notice, n)
    // One row in fifty has a day that nobody can read.
    return [`B-${n}`, ...asked.map(id =>
      n % 50 === 7 && id === 'bornOn' ? 'not known' : answers[id] ?? ''
    ).map(answer => typeof answer === 'string' ? answer : answer.filter(one => typeof one === 'string').join('; '))]
  })
  const bytes = Buffer.from(stringify([['Number', ...asked.map(id => titles.get(id) ?? id)], ...rows]))
  rows.length = 0
  console.log(`${count} rows, ${asked.length + 1} columns, ${(bytes.length / 1e6).toFixed(1)} MB`)
  writeFileSync(join(folder, 'roll.csv'), bytes)
  const columns = ['n', ...asked].map(id => `"${id}" text`).join(', ')
  const copied = await timed(
    'plain COPY into a table of texts',
    () =>
      execFileSync('psql', [DATABASE_URL, '-qc', `create temporary table copied (${columns})`, '-c',
        `\\copy copied from '${join(folder, 'roll.csv')}' csv header`]),
  )
  const { result: { id } } = await timed(
    'taken in',
    () => takeRoll(office, cycle, { sender: `Bench ${Date.now()}`, name: 'bench.csv' }, bytes),
  )
  if (hasPictures) {
    const path = await packed(join(folder, 'roll.zip'))
    await timed('pictures unpacked and kept', () => takeFiles(office, id, 'roll.zip', path))
  }
  const tried = await timed('tried', () => tryRoll(office, id, goOn))
  const entered = await timed('entered', () => enterRoll(office, id, goOn, null))
  const again = await timed('entered again, nothing to do', () => enterRoll(office, id, goOn, null))
  console.log(JSON.stringify({
    tried: tried.result,
    entered: entered.result,
    again: again.result,
    triedPerCopy: Math.round(tried.ms / copied.ms),
    enteredPerCopy: Math.round(entered.ms / copied.ms),
  }))
} finally {
  rmSync(folder, { recursive: true })
  await handle.close()
}
