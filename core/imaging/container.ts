import { parseCalendarDate, type CalendarDate } from '../calendar/calendar-date'

/**
 * What the bytes of a picture say about themselves before anything is decoded. A file's name and declared type are never
 * asked. JPEG: ITU-T T.81 annex B (markers), Exif 2.3 (orientation), CIPA DC-007 (several pictures in one file). PNG: W3C
 * PNG third edition (chunks).
 */
export interface ContainerFacts {
  format: 'jpeg' | 'png'
  bytes: number
  /** Size in pixels as stored, before the orientation flag is applied. */
  width: number
  height: number
  /** EXIF orientation 1 to 8; 1 when there is none. */
  orientation: number
  colour: 'rgb' | 'grey' | 'cmyk'
  /** Bits of a channel: 8 in photographs for screens. */
  depth: number
  /** Pictures shown one after another; 1 when nothing moves. */
  frames: number
  /** Further pictures in the file: a thumbnail in its camera data, or pictures behind the first. */
  embedded: number
  /** The day on which its camera data say that it was taken, by the camera's clock; absent where they do not say. */
  taken?: CalendarDate
}

/** Why bytes are no picture that can be taken; the words stand in `core/words`. */
export type ContainerRefusal =
  | 'empty'
  | 'gif'
  | 'pdf'
  | 'riff'
  | 'heic'
  | 'avif'
  | 'markup'
  | 'text'
  | 'tiff'
  | 'unknown'
  | 'head'
  | 'broken-off'
  | 'moves'

export type Container = { facts: ContainerFacts, refusal?: undefined } | { facts?: undefined, refusal: ContainerRefusal }

export function readContainer(bytes: Uint8Array): Container {
  if (bytes.length === 0) return { refusal: 'empty' }
  if (begins(bytes, [0xff, 0xd8, 0xff])) return readJpeg(bytes)
  if (begins(bytes, [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) return readPng(bytes)
  return { refusal: otherKind(bytes) }
}

function otherKind(bytes: Uint8Array): ContainerRefusal {
  if (latin(bytes, 0, 4) === 'GIF8') return 'gif'
  if (latin(bytes, 0, 5) === '%PDF-') return 'pdf'
  if (latin(bytes, 0, 4) === 'RIFF') return 'riff'
  if (latin(bytes, 4, 4) === 'ftyp') return /^avi[fs]/.test(latin(bytes, 8, 4)) ? 'avif' : 'heic'
  if (begins(bytes, [0x49, 0x49, 0x2a, 0]) || begins(bytes, [0x4d, 0x4d, 0, 0x2a])) return 'tiff'
  const start = bytes.subarray(0, 512)
  if (/^\uFEFF?\s*</.test(new TextDecoder().decode(start))) return 'markup'
  return start.every(byte => byte === 9 || byte === 10 || byte === 13 || byte >= 32) ? 'text' : 'unknown'
}

const begins = (bytes: Uint8Array, start: number[], at = 0) => start.every((byte, i) => bytes[at + i] === byte)
const latin = (bytes: Uint8Array, at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length))
const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

/** The markers of T.81 table B.1 that this reading tells apart. */
const marker = { endOfImage: 0xd9, startOfScan: 0xda, app1: 0xe1, app2: 0xe2 }
const isFrame = (code: number) => code >= 0xc0 && code <= 0xcf && code !== 0xc4 && code !== 0xc8 && code !== 0xcc
const standsAlone = (code: number) => code === 0x01 || (code >= 0xd0 && code <= 0xd8)

function readJpeg(bytes: Uint8Array): Container {
  const data = view(bytes)
  const found = { width: 0, height: 0, depth: 0, components: 0, orientation: 1, embedded: 0, taken: undefined as CalendarDate | undefined }
  let at = 2
  for (;;) {
    at = bytes.indexOf(0xff, at)
    while (at >= 0 && bytes[at + 1] === 0xff) at += 1
    const code = at < 0 ? undefined : bytes[at + 1]
    if (code === undefined) return { refusal: found.width > 0 ? 'broken-off' : 'head' }
    at += 2
    if (code === marker.endOfImage) break
    if (code === 0 || standsAlone(code)) continue
    if (at + 2 > bytes.length) return { refusal: found.width > 0 ? 'broken-off' : 'head' }
    const length = data.getUint16(at)
    const body = bytes.subarray(at + 2, at + length)
    if (isFrame(code) && body.length >= 6) {
      Object.assign(found, { depth: body[0], height: view(body).getUint16(1), width: view(body).getUint16(3), components: body[5] })
    }
    if (code === marker.app1 && latin(body, 0, 6) === 'Exif\0\0') Object.assign(found, add(found, readTiff(body.subarray(6))))
    if (code === marker.app2 && latin(body, 0, 4) === 'MPF\0') found.embedded += Math.max(0, picturesOfMpf(body.subarray(4)) - 1)
    at += length
  }
  if (found.width === 0 || found.height === 0) return { refusal: 'head' }
  const { width, height, depth, orientation, embedded, components, taken } = found
  return {
    facts: {
      format: 'jpeg',
      bytes: bytes.length,
      width,
      height,
      orientation,
      depth,
      frames: 1,
      embedded,
      ...taken && { taken },
      colour: components === 1 ? 'grey' : components === 4 ? 'cmyk' : 'rgb',
    },
  }
}

function add(found: { embedded: number }, { orientation, thumbnail, taken }: TiffFacts) {
  return { orientation, taken, embedded: found.embedded + (thumbnail ? 1 : 0) }
}

interface TiffFacts {
  orientation: number
  thumbnail: boolean
  taken?: CalendarDate
}
const tag = { orientation: 0x0112, thumbnailOffset: 0x0201, exif: 0x8769, taken: 0x9003, pictureCount: 0xb001 }

/**
 * Orientation and thumbnail of camera data, and when the picture was taken: the first two directories of a TIFF head, and that of Exif.
 * Anything broken counts as absent.
 */
function readTiff(tiff: Uint8Array): TiffFacts {
  const first = directory(tiff)
  const orientation = first?.entries.get(tag.orientation) ?? 1
  const second = first && first.next > 0 ? directory(tiff, first.next) : null
  return {
    orientation: orientation >= 1 && orientation <= 8 ? orientation : 1,
    thumbnail: second?.entries.has(tag.thumbnailOffset) ?? false,
    taken: takenOn(tiff, first?.entries.get(tag.exif)),
  }
}

/**
 * The day of DateTimeOriginal, which is written as `2026:11:24 12:00:00` (Exif 2.3, 4.6.5). A clock that was never set says a day that
 * there is not, or the year 0.
 */
function takenOn(tiff: Uint8Array, exif: number | undefined): CalendarDate | undefined {
  const at = exif ? directory(tiff, exif)?.entries.get(tag.taken) : undefined
  const match = at ? /^(\d{4}):(\d\d):(\d\d) /.exec(latin(tiff, at, 19)) : null
  const day = match?.slice(1).join('-') ?? ''
  return day > '1900' && parseCalendarDate(day) ? day : undefined
}

const picturesOfMpf = (tiff: Uint8Array) => directory(tiff)?.entries.get(tag.pictureCount) ?? 1

function directory(tiff: Uint8Array, from?: number): { entries: Map<number, number>, next: number } | null {
  if (tiff.length < 8) return null
  const data = view(tiff)
  const little = tiff[0] === 0x49
  const at = from ?? data.getUint32(4, little)
  if (at + 2 > tiff.length) return null
  const count = data.getUint16(at, little)
  const end = at + 2 + count * 12
  if (end + 4 > tiff.length) return null
  const entries = new Map(Array.from({ length: count }, (_, i) => {
    const entry = at + 2 + i * 12
    const short = data.getUint16(entry + 2, little) === 3
    return [data.getUint16(entry, little), short ? data.getUint16(entry + 8, little) : data.getUint32(entry + 8, little)]
  }))
  return { entries, next: data.getUint32(end, little) }
}

const pngColour: Record<number, ContainerFacts['colour']> = { 0: 'grey', 2: 'rgb', 3: 'rgb', 4: 'grey', 6: 'rgb' }

function readPng(bytes: Uint8Array): Container {
  const data = view(bytes)
  let [frames, orientation, embedded] = [1, 1, 0]
  let taken: CalendarDate | undefined
  let head: { width: number, height: number, depth: number, colour: ContainerFacts['colour'] } | null = null
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = data.getUint32(at)
    const type = latin(bytes, at + 4, 4)
    const body = bytes.subarray(at + 8, at + 8 + length)
    if (type === 'IHDR' && body.length >= 13) {
      head = {
        width: data.getUint32(at + 8),
        height: data.getUint32(at + 12),
        depth: body[8] ?? 8,
        colour: pngColour[body[9] ?? 2] ?? 'rgb',
      }
    }
    if (!head) return { refusal: 'head' }
    if (type === 'acTL' && body.length >= 4) frames = data.getUint32(at + 8)
    if (type === 'eXIf') ({ orientation, embedded, taken } = add({ embedded }, readTiff(body)))
    if (type === 'IEND') {
      if (frames > 1) return { refusal: 'moves' }
      return head.width === 0 || head.height === 0
        ? { refusal: 'head' }
        : { facts: { format: 'png', bytes: bytes.length, ...head, orientation, frames, embedded, ...taken && { taken } } }
    }
    at += 12 + length
  }
  return { refusal: head ? 'broken-off' : 'head' }
}

/** Size after the orientation flag has been applied. */
export function uprightSize({ width, height, orientation }: ContainerFacts): { width: number, height: number } {
  return orientation >= 5 ? { width: height, height: width } : { width, height }
}
