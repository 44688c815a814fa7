import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Random } from '../../demo/random'
import { descriptorLength, faceBits, faceKeys, faceSigns } from './face-likeness'
import { faceMean } from './face-mean'
import { differingBits } from './likeness'

/** A direction from the mean of faces, and another at an angle to it. */
function pairAt(random: Random, degrees: number): [number[], number[]] {
  const normal = () => Math.sqrt(-2 * Math.log(1 - random.next())) * Math.cos(2 * Math.PI * random.next())
  const unit = (v: number[]) => {
    const length = Math.hypot(...v)
    return v.map(x => x / length)
  }
  const one = unit(Array.from({ length: descriptorLength }, normal))
  const other = Array.from({ length: descriptorLength }, normal)
  const along = one.reduce((sum, x, i) => sum + x * (other[i] ?? 0), 0)
  const across = unit(other.map((x, i) => x - along * (one[i] ?? 0)))
  const [cos, sin] = [Math.cos(degrees * Math.PI / 180), Math.sin(degrees * Math.PI / 180)]
  const placed = (v: number[]) => v.map((x, i) => (faceMean[i] ?? 0) + 5 * x)
  return [placed(one), placed(one.map((x, i) => cos * x + sin * (across[i] ?? 0)))]
}

describe('the signs of a face', () => {
  it('differ in the share that the angle is of 180 degrees (Charikar 2002)', () => {
    const random = new Random(3)
    for (const degrees of [0, 10, 30, 60, 90, 150]) {
      const shares = Array.from(
        { length: 12 },
        () => differingBits(...pairAt(random, degrees).map(faceSigns) as [string, string]) / faceBits,
      )
      expect(Math.abs(shares.reduce((a, b) => a + b) / shares.length - degrees / 180)).toBeLessThan(0.02)
    }
  })

  it('do not change when everything is made stronger about the mean', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.double({ min: 0.1, max: 8, noNaN: true }), (seed, times) => {
        const [one] = pairAt(new Random(seed), 0)
        expect(faceSigns(one.map((x, i) => (faceMean[i] ?? 0) + times * (x - (faceMean[i] ?? 0))))).toBe(faceSigns(one))
      }),
      { numRuns: 20 },
    )
  })

  it('are refused of anything that is no descriptor', () => {
    expect(() => faceSigns([1, 2, 3])).toThrow('3 numbers; 1024')
  })

  it('meet in a key as often as is said: at 30 degrees nearly always, at 80 hardly ever', () => {
    const random = new Random(9)
    const met = (degrees: number) =>
      Array.from({ length: 150 }, () => {
        const [one, two] = pairAt(random, degrees).map(face => faceKeys(faceSigns(face)))
        return one?.some(key => two?.includes(key)) ? 1 : 0
      }).reduce((a: number, b) => a + b, 0) / 150
    expect(met(30)).toBeGreaterThan(0.95)
    expect(met(80)).toBeLessThan(0.35)
    expect(new Set(faceKeys(faceSigns(pairAt(random, 0)[0]))).size).toBe(48)
  })
})
