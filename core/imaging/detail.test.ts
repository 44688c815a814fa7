import { beforeAll, describe, expect, it } from 'vitest'
import sharp, { type Sharp } from 'sharp'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { barShare, blockiness, detailShare, onBlockGrid } from './detail'
import type { RgbPixels } from './pixels'

const pixelsOf = async (image: Sharp): Promise<RgbPixels> => {
  const { data, info } = await image.removeAlpha().raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8Array(data) }
}
let fine: Buffer
beforeAll(async () => { fine = await sharp(await drawPortrait(new Random(6), 'none')).extract({ left: 80, top: 136, width: 256, height: 256 }).png().toBuffer() })

describe('traces of compression', () => {
  it('grow as quality falls, and are none in what was never compressed so', async () => {
    const at = async (quality: number) => blockiness(await pixelsOf(sharp(await sharp(fine).jpeg({ quality }).toBuffer())))
    const [high, middle, low] = [await at(92), await at(30), await at(6)]
    expect(high).toBeLessThan(1.4)
    expect(middle).toBeGreaterThan(high)
    expect(low).toBeGreaterThan(1.6)
    expect(low).toBeGreaterThan(middle)
  })

  it('are 1 by hand where every step is alike, and much more where steps are at borders only', () => {
    const flat = (level: (x: number) => number): RgbPixels => ({ width: 32, height: 32, data: Uint8Array.from({ length: 32 * 32 * 3 }, (_, i) => level(Math.floor(i / 3) % 32)) })
    expect(blockiness(flat(() => 90))).toBe(1)
    // A ramp of one level a pixel across: steps of 1 within and at borders alike.
    expect(blockiness(flat(x => x))).toBeCloseTo(1, 1)
    // Steps of 8 at borders alone: half of the border steps (those across) are 8, all within are 0: (4 + 0.2) / 0.2.
    expect(blockiness(flat(x => Math.floor(x / 8) * 8))).toBeCloseTo(4.2 / 0.2, 0)
    expect(onBlockGrid(131.7)).toBe(128)
  })
})

describe('detail for its pixels', () => {
  it('is whole in a picture with grain, and falls with how far one was enlarged', async () => {
    expect(detailShare(await pixelsOf(sharp(fine)))).toBe(100)
    for (const [by, most] of [[6, 50], [9, 34]] as const) {
      const small = await sharp(fine).resize(Math.round(256 / by)).png().toBuffer()
      expect(detailShare(await pixelsOf(sharp(small).resize(256, 256, { kernel: 'cubic' })))).toBeLessThanOrEqual(most)
    }
  })
})

describe('bars at the edges', () => {
  const framed = (bar: number, wall: (x: number, y: number) => number): RgbPixels => ({
    width: 100, height: 100, data: Uint8Array.from({ length: 30_000 }, (_, i) => {
      const [x, y] = [Math.floor(i / 3) % 100, Math.floor(i / 300)]
      return y < bar || y >= 100 - bar ? 0 : wall(x, y)
    }),
  })

  it('are told by their share, and a plain white wall is none', () => {
    expect(barShare(framed(10, (x, y) => 100 + (x * 7 + y * 13) % 50))).toBeCloseTo(20, 6)
    expect(barShare(framed(0, (x, y) => 100 + (x * 7 + y * 13) % 50))).toBe(0)
    // White above and a head below it: the wall goes on beside the head.
    expect(barShare(framed(0, (x, y) => y > 40 && Math.abs(x - 50) < 20 ? 60 : 255))).toBe(0)
    expect(barShare(framed(0, () => 255))).toBe(0)
  })
})
