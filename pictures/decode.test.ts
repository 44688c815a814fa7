import sharp from 'sharp'
import { beforeAll, describe, expect, it } from 'vitest'
import { drawPortrait } from '../demo/portraits'
import { Random } from '../demo/random'
import { hugePng, movingPng } from '../tests/support/odd-files'
import { decodePicture, decodeWhole, encodeJpeg } from './decode'
import { uploadLimitBytes } from './door'

let portrait: Buffer
beforeAll(async () => {
  portrait = await drawPortrait(new Random(1), 'none')
})

describe('decoding an upload', () => {
  it.each([
    ['an empty file', () => Buffer.alloc(0), '0 bytes'],
    ['a text named .jpg', () => Buffer.from('hello, I am a picture'), 'a text, not a picture, whatever its name says'],
    ['an SVG with a script', () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>'), 'an SVG'],
    ['a GIF', () => Buffer.from('GIF89a..............'), 'a GIF'],
    ['a PDF', () => Buffer.from('%PDF-1.7 ...'), 'a PDF'],
    ['a WebP', () => Buffer.from('RIFF....WEBPVP8 '), 'WebP'],
    ['a TIFF', () => Buffer.from([0x49, 0x49, 0x2a, 0, 8, 0, 0, 0]), 'a TIFF'],
    ['bytes without sense', () => Buffer.from([0, 1, 2, 3, 250, 0, 9]), 'not a picture, whatever its name says'],
    ['a HEIC', () => Buffer.from('\0\0\0\x18ftypheic\0\0\0\0'), 'HEIC'],
    ['an AVIF', () => Buffer.from('\0\0\0\x18ftypavif\0\0\0\0'), 'AVIF'],
    ['a picture cut in half', () => portrait.subarray(0, portrait.length / 2), 'breaks off before its end'],
    ['one that lacks its last byte', () => portrait.subarray(0, -1), 'breaks off before its end'],
    ['the head of a JPEG alone', () => portrait.subarray(0, 20), 'head cannot be read'],
    ['30,000 x 30,000 pixels in a few KB', () => hugePng(30_000), '30000 × 30000 pixels, 900 million; at most 40 million'],
    ['60 MB', () => Buffer.alloc(60 * 1024 * 1024), '60.0 MB (62,914,560 bytes; 1 MB = 1024 × 1024); at most 20 MB'],
    ['one byte over the limit', () => Buffer.alloc(uploadLimitBytes + 1), 'at most 20 MB'],
    ['a picture damaged inside', () => damaged(portrait), 'damaged inside'],
  ])('refuses %s in its own words', async (_, bytes, wanted) => {
    await expect(decodePicture(bytes())).rejects.toThrow(wanted)
    await expect(decodeWhole(bytes())).rejects.toThrow(wanted)
  })

  it('refuses a PNG that moves, and takes the same one still', async () => {
    const still = await sharp(portrait).png().toBuffer()
    await expect(decodePicture(movingPng(still))).rejects.toThrow('The picture moves')
    expect((await decodePicture(still)).picture.facts).toMatchObject({ format: 'png', frames: 1 })
  })

  it('takes a PNG under any name, 16-bit and CMYK pictures, and says what they are by content', async () => {
    const deep = await decodePicture(await sharp(portrait).toColourspace('rgb16').png().toBuffer())
    expect(deep.picture.facts).toMatchObject({ format: 'png', depth: 16, colour: 'rgb' })
    expect(deep.picture.pixels.data.length).toBe(398 * 512 * 3)
    const print = await decodePicture(await sharp(portrait).toColourspace('cmyk').jpeg().toBuffer())
    expect(print.picture.facts).toMatchObject({ format: 'jpeg', colour: 'cmyk' })
    expect((await decodePicture(await sharp(portrait).toColourspace('b-w').jpeg().toBuffer())).picture.facts.colour).toBe('grey')
  })

  it('shows the same colours whatever the file held them in', async () => {
    const plain = (await decodePicture(portrait)).picture.pixels
    const deep = (await decodePicture(await sharp(portrait).toColourspace('rgb16').png().toBuffer())).picture.pixels
    const apart = plain.data.reduce((sum, v, i) => sum + Math.abs(v - (deep.data[i] ?? 0)), 0) / plain.data.length
    expect(apart).toBeLessThan(1)
  })

  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    'turns EXIF orientation %i upright before it measures, and strips what a camera wrote',
    async (orientation) => {
      const marked = await sharp(portrait).withExif({ IFD0: { Make: 'Lamp Camera' } }).withMetadata({ orientation }).jpeg().toBuffer()
      const { picture: { facts, pixels }, display } = await decodePicture(marked)
      expect(facts.orientation).toBe(orientation)
      expect([facts.width, facts.height]).toEqual(orientation >= 5 ? [540, 420] : [420, 540])
      expect(pixels.width < pixels.height).toBe(orientation < 5)
      expect(Buffer.from(display).includes('Lamp Camera')).toBe(false)
      expect((await sharp(display).metadata()).orientation).toBeUndefined()
    },
  )

  it('gives pixels back through a JPEG as they were, but for what compression takes', async () => {
    const whole = await decodeWhole(portrait)
    const again = await decodeWhole(await encodeJpeg(whole, 95))
    expect([again.width, again.height]).toEqual([420, 540])
    expect(again.data.reduce((sum, v, i) => sum + Math.abs(v - (whole.data[i] ?? 0)), 0) / whole.data.length).toBeLessThan(2)
  })
})

/** The same picture with a piece of its coded pixels overwritten by a marker that does not belong there. */
function damaged(bytes: Buffer): Buffer {
  const copy = Buffer.from(bytes)
  copy.fill(0x5a, Math.floor(copy.length * 0.5), Math.floor(copy.length * 0.5) + 400)
  copy.set([0xff, 0xc0, 0x00, 0x04, 0, 0], Math.floor(copy.length * 0.6))
  return copy
}
