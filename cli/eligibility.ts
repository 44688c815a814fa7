import { createWriteStream } from 'node:fs'
import { once } from 'node:events'
import { parseArgs } from 'node:util'
import { stringify } from 'csv-stringify/sync'
import type { Answers } from '../core/application/answers'
import { sheetFaults } from '../core/application/sheet'
import { dateInZone } from '../core/calendar/zone'
import { evaluatePosts, type PostVerdict } from '../core/eligibility/evaluate'
import type { Finding, Verdict } from '../core/finding/finding'
import type { Notice } from '../core/notice/schema'
import { explanation } from '../core/words/en/explanation'
import { findingWords } from '../core/words/en/findings'
import { InputError, readApplications, readNoticeFile } from './input'

const help =
  `lucid eligibility --notice notice.json --applications file.csv|.jsonl --out findings.csv [--explain application-number] [--today YYYY-MM-DD]

Judges every application of the file against every post of the notice and writes one line for each finding.
Formats: docs/formats.md. Exit code 0 when all lines could be read, 2 when some could not.`

const columns = ['number', 'post', 'post_verdict', 'clause', 'finding', 'verdict', 'value', 'unit', 'min', 'max', 'distance', 'relaxation',
  'words'] as const
const mostFaultsShown = 50

interface Options {
  notice: string
  applications: string
  out: string
  explain?: string
  today: string
}

/** Judges a file of applications; the exit code. */
export async function eligibility(args: string[]): Promise<number> {
  const options = readOptions(args)
  if (!options) return 0
  const notice = readNoticeFile(options.notice)
  const counts = new Map<string, Record<Verdict, number>>(notice.posts.map(p => [p.title, { pass: 0, unsure: 0, fail: 0 }]))
  const faults: string[] = []
  const seen = new Map<string, number>()
  let explained = options.explain === undefined
  const out = createWriteStream(options.out)
  await once(out, 'open').catch((error: unknown) => {
    throw new InputError(`${options.out} cannot be written: ${error instanceof Error ? error.message : ''}`)
  })
  out.write(`${columns.join(',')}\n`)
  for await (const entry of readApplications(options.applications, notice)) {
    const before = 'fault' in entry ? undefined : seen.get(entry.number)
    if ('fault' in entry) faults.push(`line ${entry.line} ${entry.fault}`)
    else if (before !== undefined) faults.push(`line ${entry.line}: number ${entry.number} stood there before, on line ${before}`)
    if ('fault' in entry || before !== undefined) continue
    seen.set(entry.number, entry.line)
    const verdicts = evaluatePosts(notice, entry.answers)
    for (const verdict of verdicts) (counts.get(verdict.title) ?? { pass: 0, unsure: 0, fail: 0 })[verdict.verdict] += 1
    if (!out.write(csvOf(notice, entry.number, entry.answers, verdicts, options.today))) await once(out, 'drain')
    if (entry.number === options.explain) {
      explained = true
      console.log(explanation(notice, entry.number, entry.answers))
    }
  }
  out.end()
  await once(out, 'finish')
  report(seen.size, counts, faults, options)
  if (!explained) throw new InputError(`no application ${options.explain} in ${options.applications}`)
  return faults.length > 0 ? 2 : 0
}

function readOptions(args: string[]): Options | null {
  const text = { type: 'string' } as const
  let values: Partial<Record<'notice' | 'applications' | 'out' | 'explain' | 'today', string>> & { help?: boolean }
  try {
    values =
      parseArgs({ args, options: { notice: text, applications: text, out: text, explain: text, today: text, help: { type: 'boolean' } } })
        .values
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  if (values.help) {
    console.log(help)
    return null
  }
  const { notice, applications, out, explain, today } = values
  if (!notice || !applications || !out) throw new InputError(`--notice, --applications and --out must be given.\n${help}`)
  return { notice, applications, out, explain, today: today ?? dateInZone(new Date(), { name: 'UTC', utcOffsetMinutes: 0 }) }
}

function csvOf(notice: Notice, number: string, answers: Answers, verdicts: PostVerdict[], today: string): string {
  const rows = [
    ...sheetFaults(notice, answers, today).map(finding => rowOf(number, '', '', finding)),
    ...verdicts.flatMap(verdict =>
      verdict.findings.flatMap(finding => withParts(finding).map(f => rowOf(number, verdict.post, verdict.verdict, f)))
    ),
  ]
  return stringify(rows)
}

/** A finding and those it is made of, itself first. */
function withParts(finding: Finding): Finding[] {
  return [finding, ...(finding.parts ?? []).flatMap(withParts)]
}

function rowOf(number: string, post: string, postVerdict: string, finding: Finding): (string | number)[] {
  const { parameters: p, bound } = finding
  const words = findingWords(finding)
  const unit = finding.unit === 'none' ? '' : finding.unit === 'count' ? String(p.unit ?? '') : finding.unit
  return [
    number,
    post,
    postVerdict,
    finding.origin?.clause ?? '',
    finding.code,
    finding.verdict,
    finding.value ?? '',
    unit,
    bound?.min ?? '',
    bound?.max ?? '',
    String(p.distance ?? ''),
    String(p.relaxation ?? ''),
    [words.title, words.value, words.bound && `(${words.bound})`, words.advice].filter(Boolean).join(' · '),
  ]
}

function report(read: number, counts: Map<string, Record<Verdict, number>>, faults: string[], options: Options): void {
  console.log(`${read} applications judged; findings in ${options.out}`)
  for (const [title, count] of counts) console.log(`  ${title}: ${count.pass} open, ${count.unsure} not settled, ${count.fail} not open`)
  if (faults.length === 0) return
  console.error(`lucid: ${faults.length} lines of ${options.applications} could not be judged:`)
  for (const fault of faults.slice(0, mostFaultsShown)) console.error(`  ${fault}`)
  if (faults.length > mostFaultsShown) console.error(`  and ${faults.length - mostFaultsShown} more`)
}
