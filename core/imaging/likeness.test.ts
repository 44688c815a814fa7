import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { decodePicture } from '../../pictures/decode'
import { alikeAtMost, bandKeys, differingBits, hashBits, perceptualHash } from './likeness'
import type { RgbPixels } from './pixels'

const hashOf = async (bytes: Buffer) => perceptualHash((await decodePicture(bytes)).picture.pixels)
const bits = fc.string({ unit: fc.constantFrom('0', '1'), minLength: hashBits, maxLength: hashBits })

describe('the hash of what a picture shows', () => {
  it('has the signs of the cosine transform: one frequency each way sets its own bit', () => {
    // Lightness of one frequency, u across and v down; all other frequencies are nothing but rounding.
    for (const [u, v] of [[1, 1], [3, 2], [5, 7]] as const) {
      const wave = (sign: number): RgbPixels => {
        const data = new Uint8Array(32 * 32 * 3)
        for (let y = 0; y < 32; y += 1) {
          for (let x = 0; x < 32; x += 1) {
            data.fill(
              128 + sign * 100 * Math.cos(Math.PI * (x + 0.5) * u / 32) * Math.cos(Math.PI * (y + 0.5) * v / 32),
              (y * 32 + x) * 3,
              (y * 32 + x) * 3 + 3,
            )
          }
        }
        return { width: 32, height: 32, data }
      }
      const at = (v - 1) * 16 + u - 1
      expect([perceptualHash(wave(1))[at], perceptualHash(wave(-1))[at]]).toEqual(['1', '0'])
    }
  })

  it('is that of the means of 32 by 32 cells, a pixel counting for the cell its middle lies in, whatever the size', () => {
    const sizes = fc.record({
      width: fc.integer({ min: 32, max: 75 }),
      height: fc.integer({ min: 32, max: 75 }),
      seed: fc.integer({ min: 1, max: 1e6 }),
    })
    fc.assert(
      fc.property(sizes, ({ width, height, seed }) => {
        const random = new Random(seed)
        const levels = Uint8Array.from({ length: width * height }, () => random.whole(0, 255))
        const grey = (w: number, h: number, level: (i: number) => number): RgbPixels => ({
          width: w,
          height: h,
          data: Uint8Array.from({ length: w * h * 3 }, (_, i) => level(Math.floor(i / 3))),
        })
        const cells = Array.from({ length: 1024 }, (_, cell) => {
          const own = [...levels.keys()].filter(i =>
            Math.floor((i % width + 0.5) * 32 / width) === cell % 32
            && Math.floor((Math.floor(i / width) + 0.5) * 32 / height) === Math.floor(cell / 32)
          )
          return own.reduce((sum, i) => sum + (levels[i] ?? 0), 0) / own.length
        })
        // Means are rounded when they become a picture: a bit that hangs by so little may turn.
        expect(differingBits(
          perceptualHash(grey(width, height, i => levels[i] ?? 0)),
          perceptualHash(grey(32, 32, i => Math.round(cells[i] ?? 0))),
        )).toBeLessThanOrEqual(6)
      }),
      { numRuns: 4 },
    )
  })

  it('stays nearly the same when a picture is saved again, made smaller or brightened', async () => {
    for (let seed = 1; seed <= 8; seed += 1) {
      const bytes = await drawPortrait(new Random(seed * 104_729), 'none')
      const own = await hashOf(bytes)
      for (
        const again of [sharp(bytes).jpeg({ quality: 60 }), sharp(bytes).resize({ width: 210 }).jpeg(), sharp(bytes).png(),
          sharp(bytes).modulate({ brightness: 1.1 }).jpeg()]
      ) {
        expect(differingBits(own, await hashOf(await again.toBuffer()))).toBeLessThanOrEqual(alikeAtMost)
      }
    }
  })
})

describe('the keys by which a hash is looked up', () => {
  it('meet in at least two for any two hashes that count as alike, wherever the bits differ', () => {
    fc.assert(fc.property(bits, fc.uniqueArray(fc.nat(hashBits - 1), { maxLength: alikeAtMost }), (hash, flips) => {
      const other = [...hash].map((bit, i) => flips.includes(i) ? (bit === '1' ? '0' : '1') : bit).join('')
      expect(differingBits(hash, other)).toBe(flips.length)
      const keys = new Set(bandKeys(hash))
      expect(bandKeys(other).filter(key => keys.has(key)).length).toBeGreaterThanOrEqual(16 - flips.length)
    }))
  })

  it('never mix two bands up', () => {
    fc.assert(fc.property(bits, bits, (one, two) => {
      bandKeys(one).forEach((key, i) =>
        bandKeys(two).forEach((other, j) => {
          if (i !== j) expect(key).not.toBe(other)
        })
      )
    }))
  })
})
