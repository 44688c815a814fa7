import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import sharp, { type Sharp } from 'sharp'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { barShare, blockiness, detailShare, onBlockGrid } from './detail'
import { lumaOf, type RgbPixels } from './pixels'

const pixelsOf = async (image: Sharp): Promise<RgbPixels> => {
  const { data, info } = await image.removeAlpha().raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8Array(data) }
}
let fine: Buffer
beforeAll(async () => {
  fine = await sharp(await drawPortrait(new Random(6), 'none')).extract({ left: 80, top: 136, width: 256, height: 256 }).png().toBuffer()
})

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
    const flat = (level: (x: number) => number): RgbPixels => ({
      width: 32,
      height: 32,
      data: Uint8Array.from({ length: 32 * 32 * 3 }, (_, i) => level(Math.floor(i / 3) % 32)),
    })
    expect(blockiness(flat(() => 90))).toBe(1)
    // A ramp of one level a pixel across: steps of 1 within and at borders alike.
    expect(blockiness(flat(x => x))).toBeCloseTo(1, 1)
    // Steps of 8 at borders alone: half of the border steps (those across) are 8, all within are 0: (4 + 0.2) / 0.2.
    expect(blockiness(flat(x => Math.floor(x / 8) * 8))).toBeCloseTo(4.2 / 0.2, 0)
    expect(onBlockGrid(131.7)).toBe(128)
  })
})

/** Grey pixels of any small size. */
const anyPixels = fc.record({ width: fc.integer({ min: 2, max: 27 }), height: fc.integer({ min: 2, max: 27 }) }).chain(
  ({ width, height }) =>
    fc.uint8Array({ minLength: width * height, maxLength: width * height }).map((levels): RgbPixels => ({
      width,
      height,
      data: Uint8Array.from({ length: levels.length * 3 }, (_, i) => levels[Math.floor(i / 3)] ?? 0),
    }))
)

describe('traces of compression on pixels of any size', () => {
  it('are the mean step over borders of blocks of 8 to that within them, step by step', () => {
    fc.assert(
      fc.property(anyPixels, (pixels) => {
        const { width, height } = pixels
        const luma = lumaOf(pixels)
        const steps: { border: boolean, size: number }[] = []
        const level = (x: number, y: number) => luma[y * width + x] ?? 0
        for (let y = 0; y < height; y += 1) {
          for (let x = 0; x + 1 < width; x += 1) steps.push({ border: (x + 1) % 8 === 0, size: Math.abs(level(x, y) - level(x + 1, y)) })
        }
        for (let y = 0; y + 1 < height; y += 1) {
          for (let x = 0; x < width; x += 1) steps.push({ border: (y + 1) % 8 === 0, size: Math.abs(level(x, y) - level(x, y + 1)) })
        }
        const mean = (border: boolean) => {
          const sizes = steps.filter(step => step.border === border).map(step => step.size)
          return sizes.reduce((sum, size) => sum + size, 0) / Math.max(1, sizes.length)
        }
        expect(blockiness(pixels)).toBeCloseTo((mean(true) + 0.2) / (mean(false) + 0.2), 6)
      }),
      { numRuns: 60 },
    )
  })
})

describe('detail for its pixels', () => {
  it('is whole in noise, and least where there is nothing, whatever the size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 24, max: 90 }),
        fc.integer({ min: 24, max: 90 }),
        fc.integer({ min: 1, max: 1e6 }),
        (width, height, seed) => {
          const random = new Random(seed)
          const noise = Uint8Array.from({ length: width * height }, () => random.whole(0, 255))
          const grey = (level: (i: number) => number): RgbPixels => ({
            width,
            height,
            data: Uint8Array.from({ length: width * height * 3 }, (_, i) => level(Math.floor(i / 3))),
          })
          expect(detailShare(grey(i => noise[i] ?? 0))).toBe(100)
          expect(detailShare(grey(() => 128))).toBeCloseTo(100 / 6, 6)
        },
      ),
      { numRuns: 20 },
    )
  })

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
    width: 100,
    height: 100,
    data: Uint8Array.from({ length: 30_000 }, (_, i) => {
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
