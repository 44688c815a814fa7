import sharp from 'sharp'
import { measuredSide, type ImageFacts } from '../../../core/imaging/measure'
import type { RgbPixels } from '../../../core/imaging/pixels'
import { ProblemError } from '../../../shared/problem'

// One thread a picture and no cache: several pictures in flight share the cores, and memory stays flat.
sharp.concurrency(1)
sharp.cache(false)

/** Largest file taken at the door, in bytes; a notice's own limits are findings, this one protects the server. */
export const uploadLimitBytes = 20 * 1024 * 1024
const pixelLimit = 40_000_000
const displaySide = 900

export interface DecodedImage {
  facts: ImageFacts
  /** Upright, no alpha, longest side `measuredSide`. */
  pixels: RgbPixels
  /** Upright JPEG without metadata, for screens and cards. */
  display: Buffer
}

/**
 * Decodes the bytes of an upload; its name and declared type are never looked at.
 *
 * @throws ProblemError `not-an-image` or `too-large`, worded for the person who chose the file.
 */
export async function decodeImage(bytes: Buffer): Promise<DecodedImage> {
  if (bytes.length === 0) throw notAnImage('The file is empty (0 bytes). Choose the picture again.')
  if (bytes.length > uploadLimitBytes) throw tooLarge(bytes.length)
  const format = sniffFormat(bytes)
  const { width, height } = await readSize(bytes)
  if (width * height > pixelLimit) {
    throw new ProblemError('too-large', `The picture has ${width} x ${height} pixels, ${(width * height / 1e6).toFixed(0)} million; at most ${pixelLimit / 1e6} million are taken. Shrink it and add it again.`)
  }
  try {
    const source = sharp(bytes, { limitInputPixels: pixelLimit, failOn: 'warning', pages: 1 })
    const { orientation = 1 } = await source.metadata()
    const upright = source.autoOrient().flatten({ background: '#ffffff' }).toColourspace('srgb')
    const fit = (side: number) => ({ width: side, height: side, fit: 'inside', withoutEnlargement: true } as const)
    const raw = await upright.clone().resize(fit(measuredSide)).removeAlpha().raw().toBuffer({ resolveWithObject: true })
    const display = await upright.clone().resize(fit(displaySide)).jpeg({ quality: 88 }).toBuffer()
    const turned = orientation >= 5
    return {
      facts: { format, bytes: bytes.length, width: turned ? height : width, height: turned ? width : height, orientation },
      pixels: { width: raw.info.width, height: raw.info.height, data: new Uint8Array(raw.data) },
      display,
    }
  } catch (error) {
    if (error instanceof ProblemError) throw error
    throw notAnImage('The picture is damaged or breaks off before its end. Save it anew or send it again; the one before, if any, is kept.')
  }
}

export function tooLarge(bytes: number): ProblemError {
  return new ProblemError('too-large', `The file has ${(bytes / 1024 / 1024).toFixed(1)} MB; at most ${uploadLimitBytes / 1024 / 1024} MB are taken. Shrink the picture and add it again; the one before, if any, is kept.`)
}

function notAnImage(message: string): ProblemError {
  return new ProblemError('not-an-image', message)
}

const signatures: { name: string, format?: 'jpeg' | 'png', starts: number[], at?: number }[] = [
  { name: 'JPEG', format: 'jpeg', starts: [0xff, 0xd8, 0xff] },
  { name: 'PNG', format: 'png', starts: [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a] },
  { name: 'a GIF', starts: [0x47, 0x49, 0x46, 0x38] },
  { name: 'a PDF', starts: [0x25, 0x50, 0x44, 0x46] },
  { name: 'a WebP or other RIFF file', starts: [0x52, 0x49, 0x46, 0x46] },
  { name: 'a HEIC or other telephone format', starts: [0x66, 0x74, 0x79, 0x70], at: 4 },
  { name: 'an SVG or other text with marks', starts: [0x3c] },
]

function sniffFormat(bytes: Buffer): 'jpeg' | 'png' {
  const found = signatures.find(s => s.starts.every((byte, i) => bytes[(s.at ?? 0) + i] === byte))
  if (found?.format) return found.format
  throw notAnImage(`The file is ${found ? found.name : 'not a picture, whatever its name says'}. Only JPEG and PNG pictures are taken: save it as JPEG and add it again.`)
}

async function readSize(bytes: Buffer): Promise<{ width: number, height: number }> {
  try {
    const { width, height } = await sharp(bytes, { limitInputPixels: false }).metadata()
    return { width, height }
  } catch {
    throw notAnImage('The file begins like a picture but its head cannot be read. Save it anew and add it again.')
  }
}
