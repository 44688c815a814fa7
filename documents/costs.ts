import type { PDFDocument, PDFContext, PDFObject } from 'pdf-lib'
import { decodePDFRawStream, PDFArray, PDFDict, PDFName, PDFNumber, PDFRawStream, PDFRef, PDFStream } from 'pdf-lib'

/**
 * What drawing a PDF would cost, found before any page is drawn. A few hundred bytes can hold a page that draws itself, or forms that call
 * each other ten times each; the terms are those of ISO 32000-2, 8.10 (form XObjects), 7.8.2 (content streams) and 9.6.4 (Type 3 fonts).
 */

/**
 * `nested`: a form, a glyph or a pattern leads to itself. `costly`: more objects, operators, content or picture points than any paper has.
 */
export type PdfCost = 'nested' | 'costly'

/** Above what any scan, form or drawing of an office holds: 120,000 curves across a page take PDFium six seconds. */
export const costAtMost = { objects: 200_000, operators: 120_000, contentBytes: 24 * 1024 * 1024, picturePoints: 160_000_000, depth: 40 }

class TooCostly extends Error {
  constructor(readonly cost: PdfCost) {
    super(cost)
  }
}

/** @returns null for a PDF that can be drawn at leisure. */
export async function costOf(file: PDFDocument): Promise<PdfCost | null> {
  try {
    const objects = file.context.enumerateIndirectObjects()
    if (objects.length > costAtMost.objects) return 'costly'
    for (const [, object] of objects) refuseHugePicture(file.context, object)
    const calls = new Calls(file.context)
    for (const page of file.getPages()) {
      const resources = file.context.lookup(page.node.Resources())
      let operators = 0
      for (const part of partsOf(file.context, page.node.get(PDFName.of('Contents')))) operators += await calls.cost(part, resources, 0)
      for (const drawn of annotationsOf(file.context, page.node.get(PDFName.of('Annots')))) {
        operators += await calls.cost(drawn, undefined, 1)
      }
      if (operators > costAtMost.operators) return 'costly'
    }
    return null
  } catch (error) {
    if (error instanceof TooCostly) return error.cost
    throw error
  }
}

function refuseHugePicture(context: PDFContext, object: PDFObject): void {
  if (!(object instanceof PDFRawStream) || nameOf(object.dict.lookup(PDFName.of('Subtype'))) !== '/Image') return
  const side = (name: string) => {
    const value = context.lookup(object.dict.get(PDFName.of(name)))
    return value instanceof PDFNumber ? value.asNumber() : 0
  }
  if (side('Width') * side('Height') > costAtMost.picturePoints) throw new TooCostly('costly')
}

/** What content streams call, and what each costs with all that it calls. */
class Calls {
  private readonly known = new Map<PDFObject, number>()
  private readonly under = new Set<PDFObject>()
  private bytesLeft = costAtMost.contentBytes

  constructor(private readonly context: PDFContext) {}

  /** Operators that are carried out when a stream is drawn. @throws TooCostly */
  async cost(stream: PDFRawStream, outer: PDFObject | undefined, depth: number): Promise<number> {
    const known = this.known.get(stream)
    if (known !== undefined) return known
    if (this.under.has(stream) || depth > costAtMost.depth) throw new TooCostly('nested')
    this.under.add(stream)
    const resources = this.context.lookup(stream.dict.get(PDFName.of('Resources'))) ?? outer
    const { operators, drawn } = count(await this.content(stream))
    let all = operators
    const forms = this.members(resources, 'XObject')
    for (const [name, times] of drawn) {
      const form = forms.get(name)
      if (form && nameOf(form.dict.lookup(PDFName.of('Subtype'))) !== '/Image') all += times * await this.cost(form, resources, depth + 1)
      if (all > costAtMost.operators) throw new TooCostly('costly')
    }
    // A glyph or a pattern may be drawn from anywhere in the stream: each counts once, and none may lead back.
    for (const inner of [...this.members(resources, 'Pattern').values(), ...this.glyphs(resources)]) {
      all += await this.cost(inner, resources, depth + 1)
    }
    this.under.delete(stream)
    this.known.set(stream, all)
    return all
  }

  private members(resources: PDFObject | undefined, kind: string): Map<string, PDFRawStream> {
    const found = new Map<string, PDFRawStream>()
    const dict = resources instanceof PDFDict ? this.context.lookup(resources.get(PDFName.of(kind))) : undefined
    if (dict instanceof PDFDict) {
      for (const [name, ref] of dict.entries()) {
        const stream = this.context.lookup(ref)
        if (stream instanceof PDFRawStream) found.set(name.asString(), stream)
      }
    }
    return found
  }

  private glyphs(resources: PDFObject | undefined): PDFRawStream[] {
    const fonts = resources instanceof PDFDict ? this.context.lookup(resources.get(PDFName.of('Font'))) : undefined
    if (!(fonts instanceof PDFDict)) return []
    return fonts.entries().flatMap(([, ref]) => {
      const font = this.context.lookup(ref)
      return font instanceof PDFDict && nameOf(font.lookup(PDFName.of('Subtype'))) === '/Type3'
        ? streamsIn(this.context, font.get(PDFName.of('CharProcs')))
        : []
    })
  }

  /** The bytes of a stream as they are read, as far as the whole file may hold. */
  private async content(stream: PDFRawStream): Promise<Uint8Array> {
    const filter = this.context.lookup(stream.dict.get(PDFName.of('Filter')))
    const only = filter instanceof PDFArray && filter.size() === 1 ? this.context.lookup(filter.get(0)) : filter
    const isPlain = nameOf(only) === '/FlateDecode' && !stream.dict.has(PDFName.of('DecodeParms'))
    const bytes = isPlain
      ? await inflated(stream.contents, this.bytesLeft)
      : Uint8Array.from(decodePDFRawStream(stream).getBytes(this.bytesLeft + 1))
    this.bytesLeft -= bytes.length
    if (this.bytesLeft < 0) throw new TooCostly('costly')
    return bytes
  }
}

/** What is packed, unpacked piece by piece; what comes after `most` bytes is not asked for. Of a damaged one, what can be read. */
async function inflated(packed: Uint8Array, most: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = []
  let length = 0
  try {
    const reader = new Blob([Uint8Array.from(packed)]).stream().pipeThrough(new DecompressionStream('deflate')).getReader()
    for (let next = await reader.read(); !next.done; next = await reader.read()) {
      parts.push(next.value)
      length += next.value.length
      if (length > most) throw new TooCostly('costly')
    }
  } catch (error) {
    if (error instanceof TooCostly) throw error
  }
  const whole = new Uint8Array(length)
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

const isSpace = (byte: number) => byte === 32 || (byte >= 9 && byte <= 13) || byte === 0
const isLetter = (byte: number) => (byte >= 65 && byte <= 90) || (byte >= 97 && byte <= 122) || byte === 39 || byte === 34 || byte === 42

/**
 * Operators of a content stream, and how often each named object is drawn. Texts, comments and pictures within the stream are passed over.
 */
function count(content: Uint8Array): { operators: number, drawn: Map<string, number> } {
  const drawn = new Map<string, number>()
  let [operators, name] = [0, '']
  for (let at = 0; at < content.length;) {
    const byte = content[at] ?? 0
    if (byte === 40) at = endOfText(content, at)
    else if (byte === 37) { while (at < content.length && content[at] !== 10 && content[at] !== 13) at += 1 }
    else if (byte === 47) {
      const end = endOfName(content, at + 1)
      name = plainName(content, at, end)
      at = end
    } else if (isLetter(byte)) {
      let end = at + 1
      while (end < content.length && (isLetter(content[end] ?? 0) || ((content[end] ?? 0) >= 48 && (content[end] ?? 0) <= 57))) end += 1
      operators += 1
      if (end - at === 2 && byte === 68 && content[at + 1] === 111) drawn.set(name, (drawn.get(name) ?? 0) + 1)
      at = end - at === 2 && byte === 73 && content[at + 1] === 68 ? endOfPicture(content, end) : end
    } else at += 1
  }
  return { operators, drawn }
}

function endOfText(content: Uint8Array, from: number): number {
  let depth = 0
  for (let at = from; at < content.length; at += 1) {
    if (content[at] === 92) at += 1
    else if (content[at] === 40) depth += 1
    else if (content[at] === 41 && (depth -= 1) === 0) return at + 1
  }
  return content.length
}

const delimiters = new Set([...'()<>[]{}/%'].map(one => one.charCodeAt(0)))

function endOfName(content: Uint8Array, from: number): number {
  let at = from
  while (at < content.length && !isSpace(content[at] ?? 0) && !delimiters.has(content[at] ?? 0)) at += 1
  return at
}

// As the library spells names: escapes are read, ISO 32000-2, 7.3.5.
function plainName(content: Uint8Array, from: number, end: number): string {
  return PDFName.of(String.fromCharCode(...content.subarray(from + 1, Math.min(end, from + 200)))).asString()
}

// After ID come bytes of any kind, until EI stands between spaces.
function endOfPicture(content: Uint8Array, from: number): number {
  for (let at = from; at < content.length - 1; at += 1) {
    if (content[at] === 69 && content[at + 1] === 73 && isSpace(content[at - 1] ?? 32) && isSpace(content[at + 2] ?? 32)) return at + 2
  }
  return content.length
}

function partsOf(context: PDFContext, contents: PDFObject | undefined): PDFRawStream[] {
  const found = context.lookup(contents)
  if (found instanceof PDFRawStream) return [found]
  return found instanceof PDFArray ? found.asArray().flatMap(ref => partsOf(context, ref instanceof PDFRef ? ref : undefined)) : []
}

function annotationsOf(context: PDFContext, annotations: PDFObject | undefined): PDFRawStream[] {
  const list = context.lookup(annotations)
  if (!(list instanceof PDFArray)) return []
  return list.asArray().flatMap((ref) => {
    const one = context.lookup(ref)
    return one instanceof PDFDict ? streamsIn(context, one.get(PDFName.of('AP'))) : []
  })
}

/** Streams in a dictionary, and in dictionaries within it. */
function streamsIn(context: PDFContext, object: PDFObject | undefined, depth = 0): PDFRawStream[] {
  const found = context.lookup(object)
  if (found instanceof PDFRawStream) return [found]
  if (found instanceof PDFStream || !(found instanceof PDFDict) || depth > 2) return []
  return found.values().flatMap(value => streamsIn(context, value, depth + 1))
}

const nameOf = (object: PDFObject | undefined) => object instanceof PDFName ? object.asString() : ''
