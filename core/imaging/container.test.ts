import fc from 'fast-check'
import sharp from 'sharp'
import { beforeAll, describe, expect, it } from 'vitest'
import { readContainer, uprightSize } from './container'

let jpeg: Buffer
beforeAll(async () => {
  jpeg = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#369' } }).jpeg().toBuffer()
})

/** An APP1 segment with camera data of two directories: an orientation, and a thumbnail. ISO/IEC 10918-1 B.2.4.6; Exif 2.3, 4.6. */
function exif(orientation: number, little: boolean, thumbnail: boolean): Buffer {
  const tiff = Buffer.alloc(8 + 18 + (thumbnail ? 18 : 0))
  const u16 = (value: number, at: number) => little ? tiff.writeUInt16LE(value, at) : tiff.writeUInt16BE(value, at)
  const u32 = (value: number, at: number) => little ? tiff.writeUInt32LE(value, at) : tiff.writeUInt32BE(value, at)
  tiff.write(little ? 'II' : 'MM', 0, 'latin1')
  u16(42, 2)
  u32(8, 4)
  const directory = (at: number, tag: number, type: number, value: number, next: number) => {
    u16(1, at)
    u16(tag, at + 2)
    u16(type, at + 4)
    u32(1, at + 6)
    if (type === 3) u16(value, at + 10)
    else u32(value, at + 10)
    u32(next, at + 14)
  }
  directory(8, 0x0112, 3, orientation, thumbnail ? 26 : 0)
  if (thumbnail) directory(26, 0x0201, 4, 100, 0)
  const body = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff])
  const head = Buffer.from([0xff, 0xe1, 0, 0])
  head.writeUInt16BE(body.length + 2, 2)
  return Buffer.concat([head, body])
}
const withSegment = (segment: Buffer) => Buffer.concat([jpeg.subarray(0, 2), segment, jpeg.subarray(2)])

describe('the container of a picture', () => {
  // The camera data are written by libvips (sharp), which we did not write.
  it.each([['2026:11:24 12:00:00', '2026-11-24'], ['0000:00:00 00:00:00', undefined], ['2026:13:41 12:00:00', undefined], ['yesterday',
    undefined]])('tells when it was taken, %s: %s', async (written, taken) => {
      const picture = () =>
        sharp({ create: { width: 60, height: 40, channels: 3, background: '#369' } }).withExif({ IFD2: { DateTimeOriginal: written } })
      for (const bytes of [await picture().jpeg().toBuffer(), await picture().png().toBuffer()]) {
        expect(readContainer(bytes).facts?.taken).toBe(taken)
      }
    })

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('tells EXIF orientation %i in both byte orders, and the size it leads to', (orientation) => {
    for (const little of [true, false]) {
      const { facts } = readContainer(withSegment(exif(orientation, little, false)))
      expect(facts).toMatchObject({ format: 'jpeg', width: 60, height: 40, orientation, embedded: 0, depth: 8, colour: 'rgb' })
      if (facts) expect(uprightSize(facts)).toEqual(orientation >= 5 ? { width: 40, height: 60 } : { width: 60, height: 40 })
    }
  })

  it('tells a second picture in the camera data, and is not led astray by its end', () => {
    const inside = withSegment(exif(6, true, true))
    expect(readContainer(inside).facts).toMatchObject({ orientation: 6, embedded: 1 })
    // A whole JPEG as the body of a segment: its end is not the end of the file.
    const body = Buffer.concat([Buffer.from([0xff, 0xe3, 0, 0]), jpeg])
    body.writeUInt16BE(jpeg.length + 2, 2)
    expect(readContainer(withSegment(body)).facts).toMatchObject({ width: 60, height: 40 })
    expect(readContainer(withSegment(body).subarray(0, -2)).refusal).toBe('broken-off')
  })

  it('counts pictures behind the first, as telephones keep them (CIPA DC-007)', () => {
    const tiff = Buffer.alloc(26)
    tiff.write('MM', 0, 'latin1')
    tiff.writeUInt16BE(42, 2)
    tiff.writeUInt32BE(8, 4)
    tiff.writeUInt16BE(1, 8)
    tiff.writeUInt16BE(0xb001, 10)
    tiff.writeUInt16BE(4, 12)
    tiff.writeUInt32BE(1, 14)
    tiff.writeUInt32BE(3, 18)
    const body = Buffer.concat([Buffer.from([0xff, 0xe2, 0, tiff.length + 6]), Buffer.from('MPF\0', 'latin1'), tiff])
    expect(readContainer(withSegment(body)).facts?.embedded).toBe(2)
  })

  it('takes nonsense in the camera data for nothing', () => {
    const broken = exif(6, true, true)
    broken.fill(0xfe, 14, 30)
    expect(readContainer(withSegment(broken)).facts).toMatchObject({ orientation: 1, embedded: 0 })
    expect(readContainer(withSegment(exif(200, false, false))).facts?.orientation).toBe(1)
  })

  it('tells what is after the end of a picture from what is missing before it', () => {
    expect(readContainer(Buffer.concat([jpeg, Buffer.from('and a note of the camera')])).facts?.width).toBe(60)
    for (const cut of [1, 2, 40]) expect(readContainer(jpeg.subarray(0, jpeg.length - cut)).refusal).toBe('broken-off')
    expect(readContainer(jpeg.subarray(0, 8)).refusal).toBe('head')
  })

  it.each([['grey', 'b-w'], ['rgb', 'srgb'], ['cmyk', 'cmyk']] as const)('tells %s', async (colour, space) => {
    expect(readContainer(await sharp(jpeg).toColourspace(space).jpeg().toBuffer()).facts?.colour).toBe(colour)
  })

  it('reads the size of a PNG, its depth, and that it ends', async () => {
    const png = await sharp(jpeg).png().toBuffer()
    expect(readContainer(png).facts).toMatchObject({ format: 'png', width: 60, height: 40, depth: 8, frames: 1, orientation: 1 })
    expect(readContainer(await sharp(jpeg).png({ palette: true }).toBuffer()).facts?.colour).toBe('rgb')
    expect(readContainer(png.subarray(0, png.length - 12)).refusal).toBe('broken-off')
    expect(readContainer(png.subarray(0, 20)).refusal).toBe('head')
  })

  it('agrees with a decoder on size and orientation of whatever it makes', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 1, max: 90 }),
        fc.constantFrom(1, 3, 6, 8),
        fc.boolean(),
        async (width, height, orientation, progressive) => {
          const made = await sharp({ create: { width, height, channels: 3, background: '#a53' } }).withMetadata({ orientation }).jpeg({
            progressive,
          }).toBuffer()
          const told = await sharp(made).metadata()
          expect(readContainer(made).facts).toMatchObject({ width: told.width, height: told.height, orientation: told.orientation ?? 1 })
        },
      ),
      { numRuns: 40 },
    )
  })

  it('never throws, whatever the bytes', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ maxLength: 300 }),
        fc.constantFrom([], [0xff, 0xd8, 0xff], [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
        (rest, start) => {
          const read = readContainer(Uint8Array.from([...start, ...rest]))
          expect(read.facts !== undefined || read.refusal !== undefined).toBe(true)
        },
      ),
      { numRuns: 500 },
    )
    fc.assert(
      fc.property(fc.nat(jpeg.length - 1), fc.nat(255), (at, value) => {
        const changed = Buffer.from(jpeg)
        changed[at] = value
        expect(() => readContainer(changed)).not.toThrow()
      }),
      { numRuns: 500 },
    )
  })
})
