import sharp, { type Sharp } from 'sharp'
import type { ContainerFacts } from '../core/imaging/container'
import { detailBox } from '../core/imaging/detail'
import { detailLimit, measuredSide, takenAtMost, type Picture } from '../core/imaging/picture'
import type { RgbPixels } from '../core/imaging/pixels'
import { ProblemError } from '../shared/problem'
import { refusal } from '../shared/refusal'
import { checkContainer } from './door'

// One thread a picture and no cache: several pictures in flight share the cores, and memory stays flat.
sharp.concurrency(1)
sharp.cache(false)

const displaySide = 900
const pageCopySide = 1400

/** A picture ready to be measured, and its upright JPEG for screens and cards, without metadata. */
export interface DecodedPicture {
  picture: Picture
  display: Uint8Array
}

/**
 * Decodes the bytes of an upload; its name and declared type are never looked at.
 *
 * @throws ProblemError `not-an-image` or `too-large`.
 */
export async function decodePicture(bytes: Uint8Array): Promise<DecodedPicture> {
  const facts = checkContainer(bytes)
  try {
    return Math.max(facts.width, facts.height) <= detailLimit ? await decodeOnce(bytes, facts) : await decodeShrunk(bytes, facts)
  } catch (error) {
    if (error instanceof ProblemError) throw error
    throw refusal('picture.damaged')
  }
}

const fit = (side: number) => ({ width: side, height: side, fit: 'inside', withoutEnlargement: true } as const)
const displayOf = (upright: Sharp) => upright.resize(fit(displaySide)).jpeg({ quality: 88 }).toBuffer()

/** A picture of a size that is handled: decoded once, and all that is wanted made of its pixels. */
async function decodeOnce(bytes: Uint8Array, facts: ContainerFacts): Promise<DecodedPicture> {
  const whole = await rgbOf(uprightOf(bytes))
  const again = () => sharp(whole.data, { raw: { width: whole.width, height: whole.height, channels: 3 } })
  const pixels = Math.max(whole.width, whole.height) <= measuredSide ? whole : await rgbOf(again().resize(fit(measuredSide)))
  return { picture: { facts, pixels, detail: middleOf(whole) }, display: await displayOf(again()) }
}

/** A large picture: decoded straight into smaller sizes, which a JPEG can be at a fraction of the work. */
async function decodeShrunk(bytes: Uint8Array, facts: ContainerFacts): Promise<DecodedPicture> {
  const pixels = await rgbOf(uprightOf(bytes).resize(fit(measuredSide)))
  return { picture: { facts, pixels }, display: await displayOf(uprightOf(bytes)) }
}

/** The middle of a picture at native size, from the grid of blocks. */
function middleOf({ width, height, data }: RgbPixels): RgbPixels {
  const { left, top, width: w, height: h } = detailBox({ width, height })
  const made = new Uint8Array(w * h * 3)
  for (let y = 0; y < h; y += 1) made.set(data.subarray(((top + y) * width + left) * 3, ((top + y) * width + left + w) * 3), y * w * 3)
  return { width: w, height: h, data: made }
}

async function rgbOf(image: Sharp): Promise<RgbPixels> {
  const { data, info } = await image.removeAlpha().raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) }
}

/** All pixels, upright, no alpha: for whoever makes another picture of them. */
export async function decodeWhole(bytes: Uint8Array): Promise<RgbPixels> {
  checkContainer(bytes)
  return rgbOf(uprightOf(bytes)).catch(() => {
    throw refusal('picture.damaged')
  })
}

const uprightOf = (bytes: Uint8Array) =>
  sharp(bytes, { limitInputPixels: takenAtMost.pixels, failOn: 'warning', pages: 1 }).autoOrient().flatten({ background: '#ffffff' })
    .toColourspace('srgb')

/** A picture of a paper, upright, its longer side at most `side`. @throws ProblemError `not-an-image` or `too-large`. */
export async function decodePage(bytes: Uint8Array, side: number): Promise<{ facts: ContainerFacts, pixels: RgbPixels }> {
  const facts = checkContainer(bytes)
  return {
    facts,
    pixels: await rgbOf(uprightOf(bytes).resize(fit(side))).catch(() => {
      throw refusal('picture.damaged')
    }),
  }
}

/** The copy of a page for screens: fine enough to read it. */
export async function encodePage({ width, height, data }: RgbPixels): Promise<{ jpeg: Uint8Array, width: number, height: number }> {
  const { data: jpeg, info } = await sharp(data, { raw: { width, height, channels: 3 } }).resize(fit(pageCopySide)).jpeg({ quality: 80 })
    .toBuffer({ resolveWithObject: true })
  return { jpeg, width: info.width, height: info.height }
}

/** Pixels as a JPEG of a quality from 1 to 100, colours in full resolution. */
export async function encodeJpeg(pixels: RgbPixels, quality: number): Promise<Uint8Array> {
  return sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 3 } }).jpeg({
    quality,
    chromaSubsampling: '4:4:4',
  }).toBuffer()
}
