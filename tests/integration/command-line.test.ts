import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import { parse } from 'csv-parse/sync'
import { describe, expect, it } from 'vitest'
import { openOffice } from '../support/office'
import { sampleAnswers, sampleNotice } from '../support/sample'
import type { Answers } from '../../core/application/answers'
import { evaluatePosts } from '../../core/eligibility/evaluate'
import type { Finding } from '../../core/finding/finding'
import { findingWords } from '../../core/words/en/findings'

const notice = sampleNotice()
const folder = mkdtempSync(join(tmpdir(), 'lucid-cli-'))
const noticeFile = join(folder, 'notice.json')
writeFileSync(noticeFile, JSON.stringify(notice))
const out = join(folder, 'findings.csv')

async function lucid(...args: string[]): Promise<{ code: number, stdout: string, stderr: string }> {
  try {
    return { code: 0, ...await promisify(execFile)(resolve(import.meta.dirname, '../../bin/lucid'), args) }
  } catch (error) {
    const { code, stdout, stderr } = error as { code: number, stdout: string, stderr: string }
    return { code, stdout, stderr }
  }
}
function judge(name: string, content: string, ...more: string[]) {
  const file = join(folder, name)
  writeFileSync(file, content)
  return lucid('eligibility', '--notice', noticeFile, '--applications', file, '--out', out, '--today', '2026-11-24', ...more)
}
const findings = () => parse(readFileSync(out, 'utf8'), { columns: true }) as Record<string, string>[]
const people: [string, Answers][] = [
  ['A-1', sampleAnswers],
  ['A-2', { ...sampleAnswers, bornOn: '1990-01-01', category: 'outer-isles', islesCertificate: 'OI-1' }],
  ['A-3', {
    ...sampleAnswers,
    resultForm: 'subjects',
    board: 'lohn',
    subjects: ['language', 'second-language', 'mathematics', 'physics', 'geography'].map(subject => ({
      subject,
      obtained: '59',
      total: '100',
      grade: '',
    })),
  }],
]

describe('lucid eligibility', () => {
  it('gives the very findings that the engine gives, from JSON Lines', async () => {
    const { code, stdout } = await judge('people.jsonl', people.map(([number, answers]) => JSON.stringify({ number, answers })).join('\n'))
    expect(code).toBe(0)
    expect(stdout).toContain('3 applications judged')
    for (const [number, answers] of people) {
      const wanted = evaluatePosts(notice, answers).flatMap(v =>
        v.findings.map(f => [v.post, v.verdict, f.origin?.clause, f.code, f.verdict])
      )
      const clauses = new Set(wanted.map(w => w[2]))
      const rows = findings().filter(r => r.number === number && r.post !== '' && clauses.has(r.clause))
      for (const one of wanted) expect(rows.map(r => [r.post, r.post_verdict, r.clause, r.finding, r.verdict])).toContainEqual(one)
    }
  })

  it('reads CSV with lists, tables, quotes, BOM and CRLF alike, and explains one person', async () => {
    const header = ['number', ...Object.keys(people[2]?.[1] ?? {})]
    const cell = (value: unknown) =>
      typeof value === 'string'
        ? value
        : (value as (string | Record<string, string>)[]).map(v =>
          typeof v === 'string' ? v : [v.subject, v.obtained, v.total, v.grade].join('|')
        ).join(';')
    const csv = `\uFEFF${header.join(',')}\r\n${
      people.map(([number, answers]) => [number, ...header.slice(1).map(q => `"${cell(answers[q] ?? '')}"`)].join(',')).join('\r\n')
    }\r\n`
    const { code, stdout } = await judge('people.csv', csv, '--explain', 'A-3')
    expect(code).toBe(0)
    expect(stdout).toMatch(/A-3: eligibility under/)
    expect(stdout).toContain('5 subjects together: 295 of 500')
    expect(stdout).toMatch(/Pilot cadet: not open[\s\S]*1 % short/)
    expect(findings().filter(r => r.number === 'A-3' && r.post === 'pilot-cadet' && r.clause === '4.3')).toMatchObject([{
      verdict: 'fail',
      value: '59',
      unit: 'percent',
      min: '60',
      distance: '-1',
    }])
  })

  it('says of one person what the dossier says, word for word', async () => {
    const office = await openOffice()
    try {
      const id = await office.paid({
        category: 'outer-isles',
        islesCertificate: 'OI-1',
        bornOn: '2001-06-15',
        resultForm: 'subjects',
        board: 'federal',
        subjects: ['language', 'second-language', 'mathematics', 'physics', 'geography', 'physical-training'].map((subject, i) => ({
          subject,
          obtained: String(55 + i * 3),
          total: '100',
          grade: '',
        })),
      })
      const { number, verdicts, counted } = await office.dossier(id)
      const { stdout } = await judge('dossier.jsonl', JSON.stringify({ number, answers: counted }), '--explain', number)
      const rows = findings().filter(r => r.number === number && r.post !== '')
      const parts = (finding: Finding): Finding[] => [finding, ...(finding.parts ?? []).flatMap(parts)]
      expect(rows.map(r => [r.post, r.post_verdict, r.finding, r.verdict, r.value, r.distance])).toEqual(verdicts.flatMap(v =>
        v.findings.flatMap(parts).map(
          f => [v.post, v.verdict, f.code, f.verdict, String(f.value ?? ''), String(f.parameters.distance ?? '')]
        )
      ))
      for (
        const finding of verdicts.flatMap(v =>
          v.findings
        ).flatMap(parts)
      ) {
        const words = findingWords(finding)
        expect(stdout)
          .toContain([words.title, [words.value, words.bound && `(${words.bound})`].filter(Boolean).join(' '), words.advice].filter(Boolean)
            .join(': '))
      }
    } finally {
      await office.close()
    }
  })

  it("knows the office's word on an exception from the answers that count, and that it is open without one", async () => {
    const office = await openOffice()
    try {
      const id = await office.paid({
        bornOn: '1980-06-15',
        posts: ['lighthouse-keeper'],
        ageException: 'yes',
        exceptionWhy: 'three years at a light',
      })
      await office.act(
        id,
        'decide-request',
        { request: 'age-exception', word: 'granted', reason: 'shown by the record' },
        office.as('scrutineer'),
      )
      const { number, counted, answers } = await office.dossier(id)
      await judge('granted.jsonl', [{ number, answers: counted }, { number: 'D-2', answers }].map(one => JSON.stringify(one)).join('\n'))
      const verdictOf = (of: string) => findings().find(row => row.number === of && row.post === 'lighthouse-keeper')?.post_verdict
      expect([verdictOf(number), verdictOf('D-2')]).toEqual(['pass', 'unsure'])
    } finally {
      await office.close()
    }
  })

  it('names every line that it cannot read, and judges the others', async () => {
    const lines = ['not json', JSON.stringify({ answers: {} }), JSON.stringify({ number: 'B-1', answers: sampleAnswers }),
      JSON.stringify({ number: 'B-1', answers: {} }), JSON.stringify({ number: 'B-2', answers: { posts: [1] } }),
      JSON.stringify({ number: 'B-3', answers: { marksObtained: 501, marksTotal: 500 } })]
    const { code, stderr, stdout } = await judge('bad.jsonl', lines.join('\n'))
    expect(code).toBe(2)
    for (
      const wanted of ['line 1 not a line of JSON', 'line 2 has no "number"', 'line 4: number B-1 stood there before, on line 3',
        'line 5 the answer to "posts"']
    ) expect(stderr).toContain(wanted)
    expect(stdout).toContain('2 applications judged')
    expect(findings().filter(r => r.number === 'B-3' && r.post === '').map(r => r.finding)).toContain('sheet.missing')
  })

  it.each<[string, string[], RegExp]>([
    ['no options', [], /must be given/],
    ['a notice that is none', ['--notice', out, '--applications', 'x.csv', '--out', out], /is not a notice/],
    ['another ending', ['--notice', noticeFile, '--applications', 'people.txt', '--out', out], /must end in \.csv or \.jsonl/],
    ['a file that is not there', ['--notice', noticeFile, '--applications', join(folder, 'gone.jsonl'), '--out', out], /cannot be read/],
    ['a strange option', ['--wish', 'luck'], /wish/],
  ])('refuses %s in words with exit code 2', async (_, args, words) => {
    const { code, stderr } = await lucid('eligibility', ...args)
    expect(code).toBe(2)
    expect(stderr).toMatch(words)
  })

  it('refuses unknown columns and rows of another length', async () => {
    expect(await judge('columns.csv', 'number,wings\nC-1,two\n')).toMatchObject({
      code: 2,
      stderr: expect.stringContaining('no question "wings"'),
    })
    expect(await judge('short.csv', 'number,bornOn\nC-1,2004-01-01,x\n')).toMatchObject({
      code: 2,
      stderr: expect.stringContaining('line 2 has 3 cells, the header 2'),
    })
    expect(await judge('empty.csv', '')).toMatchObject({ code: 2, stderr: expect.stringContaining('is empty') })
  })
})
