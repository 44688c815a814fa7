import { isUtf8 } from 'node:buffer'
import { createReadStream } from 'node:fs'
import { Transform, type Readable } from 'node:stream'

/** What the caller gave is wrong, in one sentence that says what to do. */
export class InputError extends Error {}

/** Character sets that text files may be in, by the names of the Encoding Standard of the WHATWG. */
export const encodings = ['utf-8', 'latin1', 'windows-1252', 'iso-8859-15', 'utf-16le', 'utf-16be'] as const
export type Encoding = typeof encodings[number]
let chosen: Encoding = 'utf-8'

/** Reads every text file of this call in a character set. @throws InputError for one that is not known. */
export function readTextAs(name: string): void {
  const found = encodings.find(one => one === name.toLowerCase())
  if (!found) throw new InputError(`--encoding ${name}: not known; there are ${encodings.join(', ')}`)
  chosen = found
}

/**
 * A text file as a stream of texts. Bytes that are no UTF-8 are never taken silently: the stream ends with an error that names the line and
 * the byte.
 *
 * @throws InputError as an error of the stream.
 */
export function textStream(path: string): Readable {
  const source = createReadStream(path, { highWaterMark: 1 << 20 })
  const text = source.pipe(chosen === 'utf-8' ? strictUtf8(path) : decodedAs(chosen))
  source.on('error', error => text.destroy(error))
  return text
}

function decodedAs(encoding: Encoding): Transform {
  const decoder = new TextDecoder(encoding)
  return new Transform({
    readableObjectMode: false,
    decodeStrings: false,
    encoding: 'utf8',
    transform(chunk: Buffer, _, done) {
      done(null, Buffer.from(decoder.decode(chunk, { stream: true })))
    },
    flush(done) {
      done(null, Buffer.from(decoder.decode()))
    },
  })
}

function strictUtf8(path: string): Transform {
  let rest: Buffer = Buffer.alloc(0)
  let [bytes, lines] = [0, 1]
  const take = (part: Buffer): Error | null => {
    if (!isUtf8(part)) return new InputError(notUtf8(path, part, bytes, lines))
    bytes += part.length
    for (let at = part.indexOf(10); at >= 0; at = part.indexOf(10, at + 1)) lines += 1
    return null
  }
  return new Transform({
    encoding: 'utf8',
    transform(chunk: Buffer, _, done) {
      const all = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk
      const end = all.length - unfinished(all)
      rest = all.subarray(end)
      const part = all.subarray(0, end)
      const error = take(part)
      if (error) done(error)
      else done(null, part)
    },
    flush(done) {
      const error = take(rest)
      if (error) done(error)
      else done(null, rest)
    },
  })
}

/** How many bytes at the end begin a letter that is not whole: of a letter of n bytes at most n - 1 (RFC 3629, section 3). */
function unfinished(bytes: Buffer): number {
  for (let back = 1; back <= Math.min(3, bytes.length); back += 1) {
    const byte = bytes[bytes.length - back] ?? 0
    if (byte < 0x80) return 0
    if (byte >= 0xc0) return back < (byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2) ? back : 0
  }
  return 0
}

function notUtf8(path: string, part: Buffer, before: number, linesBefore: number): string {
  if (before === 0 && (part[0] === 0xff && part[1] === 0xfe)) {
    return `${path} is UTF-16, not UTF-8. Save it as UTF-8, or say --encoding utf-16le`
  }
  if (before === 0 && (part[0] === 0xfe && part[1] === 0xff)) {
    return `${path} is UTF-16, not UTF-8. Save it as UTF-8, or say --encoding utf-16be`
  }
  let [good, bad] = [0, part.length]
  while (bad - good > 1) {
    const middle = (good + bad) >> 1
    const piece = part.subarray(0, middle)
    if (isUtf8(piece.subarray(0, middle - unfinished(piece)))) good = middle
    else bad = middle
  }
  const at = good - unfinished(part.subarray(0, good))
  const line = linesBefore + part.subarray(0, at).toString('latin1').split('\n').length - 1
  const byte = (part[at] ?? 0).toString(16).toUpperCase().padStart(2, '0')
  return `${path}, line ${line}: the byte ${byte} (byte ${
    before + at + 1
  } of the file) is no UTF-8. Save the file as UTF-8, or say in which character set it is: --encoding windows-1252, or one of ${
    encodings.join(', ')
  }`
}
