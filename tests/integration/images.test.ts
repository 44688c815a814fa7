import sharp from 'sharp'
import { deflateSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawPortrait, portraitFaults } from '../../demo/pictures'
import { Random } from '../../demo/random'
import { decodeImage, uploadLimitBytes } from '../../server/services/images/decode'
import { addImage, displayImage } from '../../server/services/images/store'
import { openOffice, type Office } from '../support/office'

let portrait: Buffer
beforeAll(async () => { portrait = await drawPortrait(new Random(1), 'none') })

/** A PNG of one colour that claims any size: its head says so, its data are a few bytes. */
function hugePng(side: number): Buffer {
  const table = Array.from({ length: 256 }, (_, n) => {
    let c = n
    for (let k = 0; k < 8; k += 1) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
    return c >>> 0
  })
  const crc = (data: Buffer) => (data.reduce((c, byte) => (table[(c ^ byte) & 255] ?? 0) ^ (c >>> 8), 0xffffffff) ^ 0xffffffff) >>> 0
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
    const ends = Buffer.alloc(8)
    ends.writeUInt32BE(data.length, 0)
    ends.writeUInt32BE(crc(body), 4)
    return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)])
  }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(side, 0)
  head.writeUInt32BE(side, 4)
  head.set([8, 2, 0, 0, 0], 8)
  return Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), chunk('IHDR', head), chunk('IDAT', deflateSync(Buffer.alloc(1000))), chunk('IEND', Buffer.alloc(0))])
}

describe('decoding an upload', () => {
  it.each([
    ['an empty file', () => Buffer.alloc(0), '0 bytes'], ['a text named .jpg', () => Buffer.from('hello, I am a picture'), 'not a picture, whatever its name says'],
    ['an SVG with a script', () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>'), 'an SVG'],
    ['a GIF', () => Buffer.from('GIF89a..............'), 'a GIF'], ['a PDF', () => Buffer.from('%PDF-1.7 ...'), 'a PDF'],
    ['a HEIC', () => Buffer.from('\0\0\0\x18ftypheic\0\0\0\0'), 'HEIC'], ['a picture cut in half', () => portrait.subarray(0, portrait.length / 2), 'damaged or breaks off'],
    ['the head of a JPEG alone', () => portrait.subarray(0, 20), 'head cannot be read'], ['30,000 x 30,000 pixels', () => hugePng(30_000), '30000 x 30000 pixels, 900 million; at most 40 million'],
    ['a file over the limit', () => Buffer.alloc(uploadLimitBytes + 1), 'at most 20 MB'],
  ])('refuses %s in its own words', async (_, bytes, wanted) => {
    await expect(decodeImage(bytes())).rejects.toThrow(wanted)
  })

  it('takes a PNG under any name, 16-bit and CMYK pictures, and says what they are by content', async () => {
    const png = await sharp(portrait).png().toBuffer()
    expect((await decodeImage(png)).facts.format).toBe('png')
    const deep = await sharp(portrait).toColourspace('rgb16').png().toBuffer()
    expect((await decodeImage(deep)).pixels.data.length).toBe(398 * 512 * 3)
    const cmyk = await sharp(portrait).toColourspace('cmyk').jpeg().toBuffer()
    expect((await decodeImage(cmyk)).facts.format).toBe('jpeg')
  })

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('turns EXIF orientation %i upright before it measures, and strips what a camera wrote', async (orientation) => {
    const marked = await sharp(portrait).withExif({ IFD0: { Make: 'Lamp Camera' } }).withMetadata({ orientation }).jpeg().toBuffer()
    const { facts, display } = await decodeImage(marked)
    expect([facts.width, facts.height]).toEqual(orientation >= 5 ? [540, 420] : [420, 540])
    expect(display.includes('Lamp Camera')).toBe(false)
    expect((await sharp(display).metadata()).orientation).toBeUndefined()
  })
})

describe('keeping an image', () => {
  let office: Office
  beforeAll(async () => { office = await openOffice() })
  afterAll(() => office.close())

  it('makes a new version of new bytes and none of the same', async () => {
    const id = await office.draft()
    expect((await addImage(office.as(), id, 'photograph', portrait)).version).toBe(1)
    expect((await addImage(office.as(), id, 'photograph', portrait)).version).toBe(1)
    const second = await addImage(office.as(), id, 'photograph', await drawPortrait(new Random(2), 'dark'))
    expect(second.version).toBe(2)
    expect((await sharp(await displayImage(office.as(), second.id)).metadata()).format).toBe('jpeg')
    await expect(addImage(office.as(), id, 'photograph', Buffer.from('no picture'))).rejects.toThrow('not a picture')
    expect((await office.dossier(id)).images.photograph?.version).toBe(2)
  })

  it('finds each fault that the demo draws, and none in a good picture', async () => {
    const id = await office.draft()
    const wanted: Record<typeof portraitFaults[number], string | null> = {
      'none': null, 'blurred': 'sharpness', 'dark': 'exposure', 'uneven background': 'backgroundEvenness', 'turned': 'upright', 'wrong aspect': 'aspect', 'over the limit': 'bytes', 'too small': 'width',
      'coloured background': 'background', 'light from one side': 'sideLight', 'grey': 'saturation',
    }
    for (const fault of portraitFaults) {
      for (let seed = 1; seed <= 6; seed += 1) {
        const { findings } = await addImage(office.as(), id, 'photograph', await drawPortrait(new Random(seed * 31), fault))
        const failed = findings.filter(f => f.verdict === 'fail').map(f => f.code.split('.')[1])
        if (wanted[fault] === null) expect(failed).toEqual([])
        else expect(failed, `${fault}, seed ${seed}`).toContain(wanted[fault])
      }
    }
  }, 60_000)
})
