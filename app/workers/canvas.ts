import { readContainer, uprightSize, type ContainerFacts } from '../../core/imaging/container'
import { takenAtMost } from '../../core/imaging/picture'
import type { Box, RgbPixels } from '../../core/imaging/pixels'
import { tooManyPixels } from '../../core/imaging/too-large'
import type { RefusalReason } from '../../core/refusal/codes'

/** Pictures and pixels in a worker of the browser, by its own canvas. */

/** This browser has no canvas for workers; what needs one is left to the office. */
export class NoCanvas extends Error {}

/** A file that the office would not take either, and why. */
export class Refused extends Error {
  constructor(readonly reason: RefusalReason) {
    super(reason.code)
  }
}

/**
 * What the bytes of a picture say of it upright, and the picture itself. @throws Refused by its bytes; whatever decoding throws is passed
 * on.
 */
export async function openPicture(bytes: Uint8Array): Promise<{ facts: ContainerFacts, bitmap: ImageBitmap }> {
  const { facts, refusal } = readContainer(bytes)
  if (refusal) throw new Refused({ code: `picture.${refusal}`, parameters: {} })
  if (facts.width * facts.height > takenAtMost.pixels) {
    throw new Refused(tooManyPixels(facts.width, facts.height))
  }
  const bitmap = await createImageBitmap(new Blob([Uint8Array.from(bytes)]), { imageOrientation: 'from-image' })
  return { facts: { ...facts, ...uprightSize(facts) }, bitmap }
}

/** The picture with its longer side at most `side`, each new pixel the mean of those it covers. */
export async function shrunk(bitmap: ImageBitmap, side: number): Promise<RgbPixels> {
  const times = Math.min(1, side / Math.max(bitmap.width, bitmap.height))
  const [width, height] = [Math.round(bitmap.width * times), Math.round(bitmap.height * times)]
  if (width === bitmap.width) return drawn(bitmap, { left: 0, top: 0, width, height })
  const small = await createImageBitmap(bitmap, { resizeWidth: width, resizeHeight: height, resizeQuality: 'high' })
  const pixels = drawn(small, { left: 0, top: 0, width, height })
  small.close()
  return pixels
}

/** A part of a picture at its own size, on white where it is clear. */
export function drawn(bitmap: ImageBitmap, { left, top, width, height }: Box): RgbPixels {
  const canvas = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!canvas) throw new NoCanvas()
  canvas.fillStyle = '#ffffff'
  canvas.fillRect(0, 0, width, height)
  canvas.drawImage(bitmap, -left, -top)
  const { data } = canvas.getImageData(0, 0, width, height)
  const rgb = new Uint8Array(width * height * 3)
  for (let i = 0, p = 0; i < data.length; i += 4, p += 3) {
    rgb[p] = data[i] ?? 0
    rgb[p + 1] = data[i + 1] ?? 0
    rgb[p + 2] = data[i + 2] ?? 0
  }
  return { width, height, data: rgb }
}

/** A JPEG of a quality from 1 to 100. */
export async function encode(pixels: RgbPixels, quality: number): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(pixels.width, pixels.height)
  canvas.getContext('2d')?.putImageData(imageOf(pixels), 0, 0)
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: quality / 100 })
  return new Uint8Array(await blob.arrayBuffer())
}

/** Pixels as the canvas holds them, nowhere clear. */
export function imageOf({ width, height, data }: RgbPixels): ImageData {
  const image = new ImageData(width, height)
  for (let i = 0, p = 0; i < image.data.length; i += 4, p += 3) {
    image.data[i] = data[p] ?? 0
    image.data[i + 1] = data[p + 1] ?? 0
    image.data[i + 2] = data[p + 2] ?? 0
    image.data[i + 3] = 255
  }
  return image
}
