import { readFileSync } from 'node:fs'
import { parse } from 'csv-parse'
import { readableNotice, readNotice } from '../core/notice/check'
import { isError, type NoticeFinding } from '../core/notice/finding'
import { noticeFindingWords } from '../core/words/en/notices'
import type { Answer, Answers, Row } from '../core/application/answers'
import type { Notice, Question } from '../core/notice/schema'
import { InputError, textStream } from './text'

export { InputError }

/** One application of a file, or what is wrong with it. `line` counts from 1. */
export type Entry = { line: number, number: string, answers: Answers } | { line: number, fault: string }

/** A file of JSON that means to be a notice. */
export function readJsonFile(path: string): unknown {
  try {
    return JSON.parse(readFileSync(path, 'utf8'))
  } catch (error) {
    throw new InputError(`${path} is not a notice: ${error instanceof Error ? error.message : 'unreadable'}`)
  }
}

/** Reads and checks a notice's file; every fault is named. */
export function readNoticeFile(path: string): Notice {
  const json = readJsonFile(path)
  const { notice, findings } = readNotice(json)
  if (notice) return notice
  const errors = findings.filter(isError)
  throw new InputError(`${path} has ${errors.length} errors:\n${findingLines(json, errors).join('\n')}`)
}

const shownAtMost = 50

/** Findings of a notice, one a line, each with its place. */
export function findingLines(json: unknown, findings: readonly NoticeFinding[]): string[] {
  const readable = readableNotice(json)
  const more = findings.length - shownAtMost
  return [
    ...findings.slice(0, shownAtMost).map(finding =>
      `  ${finding.severity} ${finding.at || '/'}: ${noticeFindingWords(readable, finding)}`
    ),
    ...(more > 0 ? [`  and ${more} more`] : []),
  ]
}

/** The applications of a CSV or JSON Lines file, one by one: memory does not grow with the file. */
export function readApplications(path: string, notice: Notice): AsyncGenerator<Entry> {
  if (/\.csv$/i.test(path)) return fromCsv(path, notice)
  if (/\.(jsonl|ndjson)$/i.test(path)) return fromJsonLines(path)
  throw new InputError(`${path}: the name must end in .csv or .jsonl`)
}

/** The lines of a text file, in pieces of many at a time: one turn of the event loop for each piece, not for each line. */
export async function* linesOf(path: string): AsyncGenerator<string[]> {
  let rest = ''
  try {
    for await (const piece of textStream(path)) {
      const lines = (rest + piece).split('\n')
      rest = lines.pop() ?? ''
      yield lines
    }
  } catch (error) {
    if (error instanceof InputError) throw error
    throw new InputError(`${path} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}`)
  }
  if (rest !== '') yield [rest]
}

async function* fromJsonLines(path: string): AsyncGenerator<Entry> {
  let line = 0
  for await (const lines of linesOf(path)) {
    for (const text of lines) {
      line += 1
      const clean = line === 1 ? text.replace(/^\uFEFF/, '') : text
      if (clean.trim() !== '') yield entryOfJson(clean, line)
    }
  }
}

/** One line of JSON Lines as an application: `{"number": "…", "answers": {"question": "answer", …}}`. */
export function entryOfJson(text: string, line: number): Entry {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    return { line, fault: 'not a line of JSON' }
  }
  if (typeof json !== 'object' || json === null || !('number' in json) || typeof json.number !== 'string' || json.number === '') {
    return { line, fault: 'has no "number"' }
  }
  if (!('answers' in json) || typeof json.answers !== 'object' || json.answers === null || Array.isArray(json.answers)) {
    return { line, fault: 'has no "answers"' }
  }
  const answers = json.answers as Record<string, unknown>
  for (const question in answers) {
    const value = answers[question]
    if (typeof value === 'string') continue
    if (typeof value === 'number') answers[question] = String(value)
    else if (value === null) Reflect.deleteProperty(answers, question)
    else if (!isList(value)) return { line, fault: `the answer to "${question}" is neither text, nor a list of texts, nor rows of texts` }
  }
  return { line, number: json.number, answers: answers as Answers }
}

const isText = (value: unknown) => typeof value === 'string'

// By hand and not by schema: this runs on every list of every line of files of a million lines.
function isList(value: unknown): boolean {
  if (!Array.isArray(value)) return false
  return value.every(isText)
    || value.every(row => typeof row === 'object' && row !== null && !Array.isArray(row) && Object.values(row).every(isText))
}

async function* fromCsv(path: string, notice: Notice): AsyncGenerator<Entry> {
  const questions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q]))
  const parser = textStream(path).on('error', error => parser.destroy(error))
    .pipe(parse({ bom: true, relax_column_count: true, skip_empty_lines: true, info: true }))
  let header: string[] | null = null
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: string[], info: { lines: number } }>) {
      if (header) yield entryOfRecord(header, record, info.lines, questions)
      else header = checkedHeader(path, record.map(cell => cell.trim()), questions)
    }
  } catch (error) {
    if (error instanceof InputError) throw error
    throw new InputError(`${path} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}`)
  }
  if (!header) throw new InputError(`${path} is empty; its first line must name "number" and the questions' ids.`)
}

function checkedHeader(path: string, header: string[], questions: Map<string, Question>): string[] {
  if (!header.includes('number')) throw new InputError(`${path}: no column "number"`)
  const unknown = header.filter(name => name !== 'number' && !questions.has(name))
  if (unknown.length > 0) {
    throw new InputError(`${path}: the notice asks no question ${unknown.map(name => `"${name}"`).join(', ')}. It asks: ${
      [...questions.keys()].join(', ')
    }`)
  }
  const twice = header.find((name, i) => header.indexOf(name) !== i)
  if (twice !== undefined) throw new InputError(`${path}: column "${twice}" stands there twice`)
  return header
}

function entryOfRecord(header: string[], record: string[], line: number, questions: Map<string, Question>): Entry {
  if (record.length !== header.length) return { line, fault: `has ${record.length} cells, the header ${header.length}` }
  const answers: Answers = {}
  let number = ''
  header.forEach((name, i) => {
    const cell = (record[i] ?? '').trim()
    const question = questions.get(name)
    if (!question) number = cell
    else if (cell !== '') answers[name] = answerOfCell(cell, question)
  })
  return number === '' ? { line, fault: 'has no number' } : { line, number, answers }
}

function answerOfCell(cell: string, question: Question): Answer {
  const parts = () => cell.split(';').map(part => part.trim()).filter(part => part !== '')
  if (question.kind === 'posts' || question.kind === 'cities') return parts()
  if (question.kind !== 'table') return cell
  return parts().map((row): Row => {
    const cells = row.split('|')
    return Object.fromEntries(question.columns.map((column, i) => [column.id, (cells[i] ?? '').trim()]))
  })
}

/** The bytes of a file. @throws InputError when it cannot be read. */
export function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file)
  } catch (error) {
    throw new InputError(`${file} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}`)
  }
}
