import { readFile } from 'node:fs/promises'
import sharp from 'sharp'
import { cut, turned } from '../core/imaging/cut'
import type { FaceDetector } from '../core/imaging/face'
import { seeFaces } from '../core/imaging/seeing'
import type { RgbPixels } from '../core/imaging/pixels'
import { decodePicture, decodeWhole } from '../pictures/decode'

/**
 * A portrait cut out of a photograph as a notice asks for it, and how high its head is on the photograph, in pixels: what is less was
 * enlarged.
 */
export interface Portrait {
  pixels: RgbPixels
  head: number
  from: string
}

/** Width and height of the portraits, in pixels. */
export const portraitSize = { width: 398, height: 512 }

/**
 * Portraits of the people on photographs, one for each face that is seen surely. Where a photograph does not reach as far as a portrait
 * does, it is the portrait itself.
 */
export async function portraitsFrom(files: readonly string[], detect: FaceDetector): Promise<Portrait[]> {
  const found: Portrait[] = []
  for (const from of files) {
    const bytes = await sharp(await readFile(from)).flatten({ background: '#ffffff' }).jpeg({ quality: 95 }).toBuffer()
    const [whole, { picture }] = [await decodeWhole(bytes), await decodePicture(bytes)]
    const zoom = whole.width / picture.pixels.width
    for (const face of (await seeFaces(picture.pixels, detect)).faces) {
      const head = Math.hypot(face.chin.x - face.crown.x, face.chin.y - face.crown.y) * zoom
      if (face.score < 0.75 || head < 60) continue
      const height = head / 0.5
      const frame = {
        turn: 0 as const,
        centre: { x: (face.chin.x + face.crown.x) / 2 * zoom, y: (face.chin.y + face.crown.y) / 2 * zoom + height * 0.03 },
        width: height * 0.78,
        height,
        angle: 0,
      }
      const lacks = Math.max(
        -(frame.centre.x - frame.width / 2),
        frame.centre.x + frame.width / 2 - whole.width,
        -(frame.centre.y - frame.height / 2),
        frame.centre.y + frame.height / 2 - whole.height,
      )
      found.push({ pixels: lacks < height * 0.15 ? cut(whole, frame, portraitSize) : picture.pixels, head, from })
    }
  }
  return found
}

/** The picture turned clockwise by an angle about its middle, its edges continued. */
export const leant = (pixels: RgbPixels, degrees: number): RgbPixels =>
  cut(pixels, {
    turn: 0,
    centre: { x: pixels.width / 2, y: pixels.height / 2 },
    width: pixels.width,
    height: pixels.height,
    angle: -degrees,
  }, pixels)

/** Two portraits side by side. */
export function sideBySide(left: RgbPixels, right: RgbPixels): RgbPixels {
  const size = { width: 256, height: 330 }
  const whole = (pixels: RgbPixels) =>
    turned(
      cut(
        pixels,
        { turn: 0, centre: { x: pixels.width / 2, y: pixels.height / 2 }, width: pixels.width, height: pixels.height, angle: 0 },
        size,
      ),
      90,
    )
  // Lying on their sides they are one below the other, and one array after the other.
  const [a, b] = [whole(left), whole(right)]
  return turned({ width: a.width, height: a.height * 2, data: Uint8Array.from(Buffer.concat([b.data, a.data])) }, 270)
}
