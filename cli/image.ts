import { readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import type { Finding } from '../core/finding/finding'
import { seeFaces, type FaceDetector } from '../core/imaging/face'
import { makeItFit } from '../core/imaging/make-it-fit'
import { measureImage } from '../core/imaging/measure'
import type { Picture } from '../core/imaging/picture'
import { imageKindsOf, imageRuleOf, type ImageKind, type Notice } from '../core/notice/schema'
import { findingWords } from '../core/words/en/findings'
import { editWords } from '../core/words/en/pictures'
import { verdictShapes } from '../core/words/en/work'
import { decodePicture, decodeWhole, encodeJpeg } from '../pictures/decode'
import { openFaceDetector } from '../pictures/faces'
import { ProblemError } from '../shared/problem'
import { InputError, readNoticeFile } from './input'

const names: Record<string, ImageKind> = { photo: 'photograph', signature: 'signature', thumb: 'thumb' }
const help = `lucid image FILE --as ${Object.keys(names).join('|')} --notice notice.json [--fix out.jpg] [--json]

Measures a picture by the rules of a notice, as the office does, and says what to do. --fix writes the picture brought within the rules
as far as that can be, and measures it again. Formats: docs/formats.md. Exit code 0: every rule is kept (by the mended picture, with --fix);
3: some rule is not; 2: bad input.`

interface Options { file: string, kind: ImageKind, notice: Notice, fix?: string, json: boolean }

/** Measures, and mends, one picture; the exit code. */
export async function image(args: string[]): Promise<number> {
  const options = readOptions(args)
  if (!options) return 0
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

function readOptions(args: string[]): Options | null {
  const text = { type: 'string' } as const
  let given: { values: { as?: string, notice?: string, fix?: string, json?: boolean, help?: boolean }, positionals: string[] }
  try {
    given = parseArgs({ args, allowPositionals: true, options: { as: text, notice: text, fix: text, json: { type: 'boolean' }, help: { type: 'boolean' } } })
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  const { values, positionals } = given
  if (values.help) {
    console.log(help)
    return null
  }
  const [file, ...more] = positionals
  if (!file || more.length > 0 || !values.notice) throw new InputError(`one file, --as and --notice must be given.\n${help}`)
  const kind = names[values.as ?? '']
  if (!kind) throw new InputError(`--as "${values.as ?? ''}" is not known; there are ${Object.keys(names).join(', ')}`)
  if (values.fix && !/\.jpe?g$/i.test(values.fix)) throw new InputError(`--fix ${values.fix}: what is written is a JPEG; the name must end in .jpg`)
  const notice = readNoticeFile(values.notice)
  if (!imageKindsOf(notice).includes(kind)) throw new InputError(`the notice ${notice.code} asks for no ${kind}; it asks for ${imageKindsOf(notice).join(', ')}`)
  return { file, kind, notice, fix: values.fix, json: values.json ?? false }
}

function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file)
  } catch (error) {
    throw new InputError(`${file} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}`)
  }
}
