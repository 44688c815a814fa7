import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import type { Finding } from '../core/finding/finding'
import { seeFaces } from '../core/imaging/seeing'
import { makeItFit } from '../core/imaging/make-it-fit'
import { measureImage } from '../core/imaging/measure'
import type { DocumentRule, ImageRule } from '../core/notice/file-rules'
import type { ImageKind } from '../core/notice/schema'
import { imageKindsOf, imageRuleOf } from '../core/notice/image-rules'
import { findingWords } from '../core/words/en/findings'
import { editWords } from '../core/words/en/pictures'
import { verdictShapes } from '../core/words/en/work'
import { decodePicture, decodeWhole, encodeJpeg } from '../pictures/decode'
import { openFaceDetector } from '../pictures/faces'
import { ProblemError } from '../shared/problem'
import { documentRule, examineDocuments, type Examination, type Look } from './document'
import { InputError, readBytes, readNoticeFile } from './input'

const names: Record<string, ImageKind> = { photo: 'photograph', signature: 'signature', thumb: 'thumb' }
const help = `lucid image FILE --as ${Object.keys(names).join('|')} --notice notice.json [--fix out.jpg] [--json]
lucid image FILE... --as document [--document ID] --notice notice.json [--fix out.pdf] [--json]

Measures a picture by the rules of a notice, as the office does, and says what to do. --fix writes the picture brought within the rules
as far as that can be, and measures it again. Of documents several files, pictures and PDFs, can be given: --fix makes one PDF of their
pages in this order, blank ones left out. Formats: docs/formats.md. Exit code 0: every rule is kept (by the mended picture, with --fix);
3: some rule is not; 2: bad input.`

type Task = { files: string[], fix?: string, json: boolean } & ({ kind: ImageKind, rule: ImageRule } | { kind: null, rule: DocumentRule })

const root = resolve(import.meta.dirname, '..')

/** Measures, and mends, a picture or a document; the exit code. */
export async function image(args: string[]): Promise<number> {
  const task = readTask(args)
  if (!task) return 0
  const { fix } = task
  if (fix && task.files.some(file => resolve(file) === resolve(fix))) {
    throw new InputError(`--fix ${fix} names a file that is read: it would be lost. Name another.`)
  }
  try {
    const found = task.kind === null
      ? await examineDocuments(task.files, task.rule, fix !== undefined, root)
      : await examinePicture(task.files[0] ?? '', task.kind, task.rule, fix !== undefined)
    if (fix && found.made) writeFileSync(fix, found.made.bytes)
    if (task.json) console.log(JSON.stringify(reportOf(task, found), null, 2))
    else say(task, found)
    return (found.made ? [found.made.look] : found.looks).some(look => look.findings.some(f => f.verdict === 'fail')) ? 3 : 0
  } catch (error) {
    if (error instanceof ProblemError) throw new InputError(`${task.files.join(', ')}: ${error.problem.message}`)
    throw error
  }
}

async function examinePicture(file: string, kind: ImageKind, rule: ImageRule, fix: boolean): Promise<Examination> {
  const bytes = readBytes(file)
  const detect = kind === 'photograph' && rule.face ? await openFaceDetector(root) : undefined
  const look = async (content: Uint8Array) => {
    const { picture: bare } = await decodePicture(content)
    const picture = { ...bare, seen: detect && await seeFaces(bare.pixels, detect) }
    return { picture, look: { facts: picture.facts, ...measureImage(kind, picture, rule) } }
  }
  const found = await look(bytes)
  const looks = [{ file, ...found.look }]
  if (!fix) return { looks, made: null }
  const made = await makeItFit(kind, found.picture, rule, {
    whole: () => decodeWhole(bytes),
    encode: encodeJpeg,
    look: async content => (await look(content)).picture,
  })
  if (made === 'too heavy') {
    throw new InputError(`${file}: even strongly compressed the picture is over ${(rule.bytes.max ?? 0) / 1024} KB. Nothing was written.`)
  }
  if (made === 'no better') {
    throw new InputError(`${file}: whatever is done to it breaks more rules than it mends. Take the picture again as its findings say. Nothing was written.`)
  }
  return { looks, made: { bytes: made.bytes, edits: made.edits, look: (await look(made.bytes)).look } }
}

function reportOf({ kind, rule, fix }: Task, { looks, made }: Examination): object {
  const told = <T extends Look>(look: T) => ({ ...look, findings: look.findings.map(f => ({ ...f, words: findingWords(f) })) })
  const fixed = made && { file: fix, edits: made.edits, ...told(made.look) }
  return kind === null ? { as: rule.id, files: looks.map(told), fixed } : { as: kind, ...looks.map(told)[0], fixed }
}

function say({ fix }: Task, { looks, made }: Examination): void {
  for (const { file, findings } of looks) console.log(`${file}\n${findings.map(lineOf).join('\n')}`)
  if (made) {
    console.log(`\n${fix}\n${made.edits.map(edit => `  ${editWords(edit)}`).join('\n')}\n${made.look.findings.map(lineOf).join('\n')}`)
  }
}

function lineOf(finding: Finding): string {
  const { title, value, bound, advice } = findingWords(finding)
  return `${verdictShapes[finding.verdict]} ${title}${value ? `: ${value}` : ''}${bound ? ` (${bound})` : ''}${
    advice ? ` – ${advice}` : ''
  }`
}

function readTask(args: string[]): Task | null {
  const text = { type: 'string' } as const
  let given: {
    values: { as?: string, document?: string, notice?: string, fix?: string, json?: boolean, help?: boolean },
    positionals: string[],
  }
  try {
    given = parseArgs({
      args,
      allowPositionals: true,
      options: { as: text, document: text, notice: text, fix: text, json: { type: 'boolean' }, help: { type: 'boolean' } },
    })
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  const { values, positionals } = given
  if (values.help) {
    console.log(help)
    return null
  }
  if (values.as === 'document') return documentTask(values, positionals)
  const [file, ...more] = positionals
  if (!file || more.length > 0 || !values.notice) throw new InputError(`one file, --as and --notice must be given.\n${help}`)
  const kind = names[values.as ?? '']
  if (!kind) throw new InputError(`--as "${values.as ?? ''}" is not known; there are ${Object.keys(names).join(', ')}, document`)
  if (values.fix && !/\.jpe?g$/i.test(values.fix)) {
    throw new InputError(`--fix ${values.fix}: what is written is a JPEG; the name must end in .jpg`)
  }
  const notice = readNoticeFile(values.notice)
  if (!imageKindsOf(notice).includes(kind)) {
    throw new InputError(`the notice ${notice.code} asks for no ${kind}; it asks for ${imageKindsOf(notice).join(', ')}`)
  }
  return { files: [file], kind, rule: imageRuleOf(notice, kind), fix: values.fix, json: values.json ?? false }
}

function documentTask(
  { notice: file, document, fix, json }: { notice?: string, document?: string, fix?: string, json?: boolean },
  files: string[],
): Task {
  if (files.length === 0 || !file) throw new InputError(`at least one file and --notice must be given.\n${help}`)
  if (fix && !/\.pdf$/i.test(fix)) throw new InputError(`--fix ${fix}: what is written is a PDF; the name must end in .pdf`)
  return { files, kind: null, rule: documentRule(readNoticeFile(file), document), fix, json: json ?? false }
}
