import { createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs'
import { once } from 'node:events'
import { cpus, tmpdir } from 'node:os'
import { join } from 'node:path'
import { entryOfJson, linesOf } from '../cli/input'
import { evaluatePosts } from '../core/eligibility/evaluate'
import { readNotice } from '../core/notice/check'
import { demoNotice } from '../demo/notice'
import { makePerson } from '../demo/people'
import { Random } from '../demo/random'

/**
 * Eligibility of many made-up applications from a JSON Lines file, streamed, on one core, against merely reading and
 * parsing that file in the same run. `npx tsx bench/eligibility.ts [applications] [rounds]`; see bench/README.md.
 */
const [count = 1_000_000, rounds = 3] = process.argv.slice(2).map(Number)
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
if (!notice) throw new Error("the demo's notice has faults")
const folder = mkdtempSync(join(tmpdir(), 'lucid-bench-'))
const file = join(folder, 'applications.jsonl')

async function generate(): Promise<void> {
  const out = createWriteStream(file)
  for (let i = 0; i < count; i += 1) {
    const { answers } = makePerson(new Random(i + 1), notice as NonNullable<typeof notice>, i)
    // One in five is changed so that every verdict is met: too old, too few marks, an answer missing.
    if (i % 15 === 0) answers.bornOn = `${1975 + i % 20}-05-17`
    if (i % 15 === 5 && answers.marksObtained) answers.marksObtained = String(150 + i % 120)
    if (i % 15 === 10) Reflect.deleteProperty(answers, ['category', 'bornOn', 'qualification'][i % 3] ?? '')
    if (!out.write(`${JSON.stringify({ number: `HL27-${String(i).padStart(7, '0')}`, answers })}\n`)) await once(out, 'drain')
  }
  out.end()
  await once(out, 'finish')
}

/** CPU seconds of reading the file with `work` on every line, and the highest resident memory met, in MB. */
async function measure(work: (line: string, index: number) => void): Promise<{ seconds: number, peak: number }> {
  globalThis.gc?.()
  const before = process.cpuUsage()
  let [index, peak] = [0, 0]
  for await (const lines of linesOf(file)) {
    for (const line of lines) work(line, index += 1)
    peak = Math.max(peak, process.memoryUsage.rss())
  }
  const { user, system } = process.cpuUsage(before)
  return { seconds: (user + system) / 1e6, peak: peak / 2 ** 20 }
}

const best = (list: { seconds: number, peak: number }[]) => ({
  seconds: Math.min(...list.map(l => l.seconds)),
  peak: Math.max(...list.map(l => l.peak)),
})

try {
  await generate()
  const verdicts = { pass: 0, unsure: 0, fail: 0 }
  let findings = 0
  const parse = (line: string) => {
    JSON.parse(line)
  }
  const judge = (line: string, index: number) => {
    const entry = entryOfJson(line, index)
    if ('fault' in entry) throw new Error(entry.fault)
    for (const verdict of evaluatePosts(notice, entry.answers)) {
      verdicts[verdict.verdict] += 1
      findings += verdict.findings.length
    }
  }
  const [parsed, judged]: { seconds: number, peak: number }[][] = [[], []]
  for (let round = 0; round < rounds; round += 1) {
    parsed?.push(await measure(parse))
    judged?.push(await measure(judge))
  }
  const [base, whole] = [best(parsed ?? []), best(judged ?? [])]
  console.log(JSON.stringify(
    {
      cpu: cpus()[0]?.model,
      node: process.version,
      applications: count,
      megabytes: Math.round(statSync(file).size / 2 ** 20),
      posts: notice.posts.length,
      clauses: notice.posts.reduce((n, p) => n + p.clauses.length, 0),
      findings: findings / rounds,
      verdicts: Object.fromEntries(Object.entries(verdicts).map(([k, v]) => [k, v / rounds])),
      readAndParse: base,
      readParseAndJudge: whole,
      ratio: Number((whole.seconds / base.seconds).toFixed(2)),
      microsecondsEach: Number((whole.seconds * 1e6 / count).toFixed(2)),
    },
    null,
    2,
  ))
} finally {
  rmSync(folder, { recursive: true, force: true })
}
