import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import type { Finding } from '../core/finding/finding'
import { seeFaces, type FaceDetector } from '../core/imaging/face'
import { makeItFit } from '../core/imaging/make-it-fit'
import { measureImage } from '../core/imaging/measure'
import type { Picture } from '../core/imaging/picture'
import { imageKindsOf, imageRuleOf, type DocumentRule, type ImageKind, type Notice } from '../core/notice/schema'
import { findingWords } from '../core/words/en/findings'
import { editWords } from '../core/words/en/pictures'
import { verdictShapes } from '../core/words/en/work'
import { decodePicture, decodeWhole, encodeJpeg } from '../pictures/decode'
import { openFaceDetector } from '../pictures/faces'
import { ProblemError } from '../shared/problem'
import { documentRule, examine, type DocumentLook } from './document'
import { InputError, readBytes, readNoticeFile } from './input'

const names: Record<string, ImageKind> = { photo: 'photograph', signature: 'signature', thumb: 'thumb' }
const help = `lucid image FILE --as ${Object.keys(names).join('|')} --notice notice.json [--fix out.jpg] [--json]
lucid image FILE... --as document [--document ID] --notice notice.json [--fix out.pdf] [--json]

Measures a picture by the rules of a notice, as the office does, and says what to do. --fix writes the picture brought within the rules
as far as that can be, and measures it again. Of documents several files, pictures and PDFs, can be given: --fix makes one PDF of their
pages in this order, blank ones left out. Formats: docs/formats.md. Exit code 0: every rule is kept (by the mended picture, with --fix);
3: some rule is not; 2: bad input.`

interface Options { file: string, kind: ImageKind, notice: Notice, fix?: string, json: boolean }
interface DocumentOptions { files: string[], document: DocumentRule, fix?: string, json: boolean }

/** Measures, and mends, one picture; the exit code. */
export async function image(args: string[]): Promise<number> {
  const options = readOptions(args)
  if (!options) return 0
  if ('document' in options) return report(options)
  const { kind, notice } = options
  const rule = imageRuleOf(notice, kind)
  const bytes = readBytes(options.file)
  const detect = kind === 'photograph' && rule.face ? await openFaceDetector(resolve(import.meta.dirname, '..')) : undefined
  const look = async (content: Uint8Array) => {
    const picture = await pictureOf(content, detect)
    return { picture, ...measureImage(kind, picture, rule) }
  }
  try {
    const found = await look(bytes)
    const made = options.fix ? await makeItFit(kind, found.picture, rule, { whole: () => decodeWhole(bytes), encode: encodeJpeg }) : null
    if (options.fix && !made) throw new InputError(`${options.file}: even strongly compressed the picture is over ${(rule.bytes.max ?? 0) / 1024} KB. Nothing was written.`)
    if (options.fix && made) writeFileSync(options.fix, made.bytes)
    const fixed = options.fix && made ? { file: options.fix, edits: made.edits, ...await look(made.bytes) } : null
    if (options.json) console.log(JSON.stringify({ file: options.file, as: kind, ...reportOf(found), fixed: fixed && { file: fixed.file, edits: fixed.edits, ...reportOf(fixed) } }, null, 2))
    else say(options, found.findings, fixed)
    return (fixed ?? found).findings.some(f => f.verdict === 'fail') ? 3 : 0
  } catch (error) {
    if (error instanceof ProblemError) throw new InputError(`${options.file}: ${error.problem.message}`)
    throw error
  }
}

/** The same for documents. */
async function report({ files, document, fix, json }: DocumentOptions): Promise<number> {
  try {
    const { looks, fixed } = await examine({ files, rule: document, fix })
    const told = ({ facts, findings }: DocumentLook) => ({ facts, findings: findings.map(f => ({ ...f, words: findingWords(f) })) })
    if (json) console.log(JSON.stringify({ as: document.id, files: looks.map(({ file, look }) => ({ file, ...told(look) })), fixed: fixed && { file: fixed.file, edits: fixed.edits, ...told(fixed.look) } }, null, 2))
    else {
      for (const { file, look } of looks) console.log(`${file}\n${look.findings.map(lineOf).join('\n')}`)
      if (fixed) console.log(`\n${fixed.file}\n${fixed.edits.map(edit => `  ${editWords(edit)}`).join('\n')}\n${fixed.look.findings.map(lineOf).join('\n')}`)
    }
    return (fixed ? [fixed.look] : looks.map(({ look }) => look)).some(look => look.findings.some(f => f.verdict === 'fail')) ? 3 : 0
  } catch (error) {
    if (error instanceof ProblemError) throw new InputError(`${files.join(', ')}: ${error.problem.message}`)
    throw error
  }
}

async function pictureOf(content: Uint8Array, detect: FaceDetector | undefined): Promise<Picture> {
  const { picture } = await decodePicture(content)
  return { ...picture, seen: detect && await seeFaces(picture.pixels, detect) }
}

function reportOf({ picture: { facts }, findings, marks }: { picture: Picture, findings: Finding[], marks: unknown }) {
  return { facts, findings: findings.map(f => ({ ...f, words: findingWords(f) })), marks }
}

function say({ file, fix }: Options, findings: Finding[], fixed: { findings: Finding[], edits: Parameters<typeof editWords>[0][] } | null): void {
  console.log(`${file}\n${findings.map(lineOf).join('\n')}`)
  if (fixed) console.log(`\n${fix}\n${fixed.edits.map(edit => `  ${editWords(edit)}`).join('\n')}\n${fixed.findings.map(lineOf).join('\n')}`)
}

function lineOf(finding: Finding): string {
  const { title, value, bound, advice } = findingWords(finding)
  return `${verdictShapes[finding.verdict]} ${title}${value ? `: ${value}` : ''}${bound ? ` (${bound})` : ''}${advice ? ` – ${advice}` : ''}`
}

function readOptions(args: string[]): Options | DocumentOptions | null {
  const text = { type: 'string' } as const
  let given: { values: { as?: string, document?: string, notice?: string, fix?: string, json?: boolean, help?: boolean }, positionals: string[] }
  try {
    given = parseArgs({ args, allowPositionals: true, options: { as: text, document: text, notice: text, fix: text, json: { type: 'boolean' }, help: { type: 'boolean' } } })
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  const { values, positionals } = given
  if (values.help) {
    console.log(help)
    return null
  }
  if (values.as === 'document') return documentOptions(values, positionals)
  const [file, ...more] = positionals
  if (!file || more.length > 0 || !values.notice) throw new InputError(`one file, --as and --notice must be given.\n${help}`)
  const kind = names[values.as ?? '']
  if (!kind) throw new InputError(`--as "${values.as ?? ''}" is not known; there are ${Object.keys(names).join(', ')}, document`)
  if (values.fix && !/\.jpe?g$/i.test(values.fix)) throw new InputError(`--fix ${values.fix}: what is written is a JPEG; the name must end in .jpg`)
  const notice = readNoticeFile(values.notice)
  if (!imageKindsOf(notice).includes(kind)) throw new InputError(`the notice ${notice.code} asks for no ${kind}; it asks for ${imageKindsOf(notice).join(', ')}`)
  return { file, kind, notice, fix: values.fix, json: values.json ?? false }
}

function documentOptions({ notice: file, document, fix, json }: { notice?: string, document?: string, fix?: string, json?: boolean }, files: string[]): DocumentOptions {
  if (files.length === 0 || !file) throw new InputError(`at least one file and --notice must be given.\n${help}`)
  if (fix && !/\.pdf$/i.test(fix)) throw new InputError(`--fix ${fix}: what is written is a PDF; the name must end in .pdf`)
  return { files, document: documentRule(readNoticeFile(file), document), fix, json: json ?? false }
}
