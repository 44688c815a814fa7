import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { cut, turned } from './cut'
import type { Face } from './face'
import { beyond, fitAround, fitPortrait, sizeFor, withinBytes } from './fit'
import type { RgbPixels } from './pixels'

const { photograph, signature } = sampleNotice().images
const picture = (width: number, height: number, at: (x: number, y: number) => [number, number, number]): RgbPixels => {
  const data = new Uint8Array(width * height * 3)
  for (let y = 0; y < height; y += 1) for (let x = 0; x < width; x += 1) data.set(at(x, y), (y * width + x) * 3)
  return { width, height, data }
}
/** A face whose eyes are `apart` from each other at a place, leaning by an angle. */
function faceAt(x: number, y: number, apart: number, roll = 0): Face {
  const [cos, sin] = [Math.cos(roll * Math.PI / 180), Math.sin(roll * Math.PI / 180)]
  const at = (u: number, v: number) => ({ x: x + u * cos - v * sin, y: y + u * sin + v * cos })
  const eye = (u: number) => ({ centre: at(u, 0), opening: 0.4, width: apart * 0.45 })
  return {
    score: 0.9,
    box: { left: x - apart, top: y - apart, width: apart * 2, height: apart * 2.3 },
    eyes: [eye(-apart / 2), eye(apart / 2)],
    chin: at(0, apart * 1.6),
    crown: at(0, -apart * 1.6),
    nose: at(0, apart * 0.6),
    roll,
    rollSure: true,
    yaw: 0,
    pitch: 0,
  }
}
const walls = { left: true, right: true, top: true }

describe('the frame cut round a head', () => {
  it('has the head, the eyes and the middle where the rules want them, from wherever they were', () => {
    fc.assert(fc.property(
      fc.integer({ min: 300, max: 700 }),
      fc.integer({ min: 300, max: 420 }),
      fc.integer({ min: 50, max: 110 }),
      fc.integer({ min: -25, max: 25 }),
      (x, y, apart, roll) => {
        const face = faceAt(x, y, apart, roll)
        const { frame, size } = fitPortrait({ width: 1000, height: 1300 }, 0, face, photograph, walls)
        const head = 100 * apart * 3.2 / frame.height
        expect(head).toBeGreaterThanOrEqual(photograph.face?.headHeight?.min ?? 0)
        expect(head).toBeLessThanOrEqual(photograph.face?.headHeight?.max ?? 0)
        expect(size.width / size.height).toBeCloseTo(0.78, 1)
        expect(size.width).toBeGreaterThanOrEqual(photograph.width.min ?? 0)
        // Where the eyes come to lie: turned back by the frame's own angle.
        const [u, v] = [x - frame.centre.x, y - frame.centre.y]
        const angle = -frame.angle * Math.PI / 180
        const [ex, ey] = [u * Math.cos(angle) - v * Math.sin(angle), u * Math.sin(angle) + v * Math.cos(angle)]
        expect(Math.abs(ex) / frame.width).toBeLessThan(0.02)
        expect(50 + 100 * ey / frame.height).toBeGreaterThan(photograph.face?.eyeLine?.min ?? 0)
        expect(50 + 100 * ey / frame.height).toBeLessThan(photograph.face?.eyeLine?.max ?? 0)
      },
    ))
  })

  it('never reaches below the picture, and beyond its other edges only where they are wall', () => {
    fc.assert(fc.property(
      fc.integer({ min: 60, max: 940 }),
      fc.integer({ min: 60, max: 1200 }),
      fc.integer({ min: 30, max: 260 }),
      fc.boolean(),
      fc.boolean(),
      fc.boolean(),
      (x, y, apart, left, right, top) => {
        const { frame } = fitPortrait({ width: 1000, height: 1300 }, 0, faceAt(x, y, apart), photograph, { left, right, top })
        const slack = 0.001
        if (!top) expect(frame.centre.y + frame.height / 2).toBeLessThanOrEqual(1300 + slack)
        if (!top) expect(frame.centre.y - frame.height / 2).toBeGreaterThanOrEqual(-slack)
        if (!left && !right) {
          expect(frame.centre.x - frame.width / 2).toBeGreaterThanOrEqual(-slack)
          expect(frame.centre.x + frame.width / 2).toBeLessThanOrEqual(1000 + slack)
          if (!top) expect(beyond({ width: 1000, height: 1300 }, frame)).toBeLessThan(0.01)
        }
      },
    ))
  })

  it('leaves room round the ink of a signature on all sides', () => {
    const { frame } = fitAround({ left: 100, top: 50, width: 200, height: 40 }, signature)
    expect(frame.centre).toEqual({ x: 200, y: 70 })
    expect(frame.width).toBeGreaterThan(220)
    expect(frame.height).toBeGreaterThan(44)
  })

  it('makes no picture larger than the frame has pixels, unless the rules want it larger', () => {
    expect(sizeFor(photograph, { width: 5000, height: 6400 }).width).toBeLessThanOrEqual(photograph.width.max ?? 0)
    expect(sizeFor(photograph, { width: 400, height: 513 }).width).toBeLessThanOrEqual(400)
    expect(sizeFor(photograph, { width: 40, height: 51 }).width).toBeGreaterThanOrEqual(photograph.width.min ?? 0)
  })
})

describe('cutting a frame out', () => {
  const checked = picture(40, 30, (x, y) => [x * 6, y * 8, (x + y) % 2 * 255])
  const whole = (turn: 0 | 90 | 180 | 270, { width, height }: RgbPixels) =>
    turn === 90 || turn === 270
      ? { turn, centre: { x: height / 2, y: width / 2 }, width: height, height: width, angle: 0 }
      : { turn, centre: { x: width / 2, y: height / 2 }, width, height, angle: 0 }

  it.each([0, 90, 180, 270] as const)('turns by %i degrees as turning pixel by pixel does', (turn) => {
    const by = turned(checked, turn)
    expect(cut(checked, whole(turn, checked), by)).toEqual(by)
  })

  it('turned four times by a quarter is as it was', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }), fc.nat(255), (width, height, seed) => {
      const one = picture(width, height, (x, y) => [(x * 31 + seed) % 256, (y * 17 + seed) % 256, seed])
      expect(turned(turned(turned(turned(one, 90), 90), 90), 90)).toEqual(one)
      expect(turned(turned(one, 90), 270)).toEqual(one)
      expect(turned(turned(one, 180), 180)).toEqual(one)
    }))
  })

  it('shrinks to the mean of what is covered: checks become grey', () => {
    const small = cut(checked, whole(0, checked), { width: 10, height: 10 })
    for (let i = 2; i < small.data.length; i += 3) expect(Math.abs((small.data[i] ?? 0) - 127.5)).toBeLessThan(12)
  })

  it('continues the edge beyond the picture', () => {
    const beside = cut(checked, { turn: 0, centre: { x: -20, y: 15 }, width: 10, height: 30, angle: 0 }, { width: 10, height: 30 })
    expect([...beside.data.subarray(0, 3)]).toEqual([...checked.data.subarray(0, 3)])
  })
})

describe('the search for a quality', () => {
  // A file that grows with quality, as every encoder's does more or less.
  const encoder = (unit: number) => {
    const asked: number[] = []
    const encode = async (quality: number) => {
      asked.push(quality)
      return new Uint8Array(quality * unit)
    }
    return { asked, encode }
  }

  it('finds the best one that lies within the bounds, in few steps', async () => {
    await fc.assert(fc.asyncProperty(fc.integer({ min: 10, max: 2000 }), fc.integer({ min: 1000, max: 100_000 }), async (unit, max) => {
      const { asked, encode } = encoder(unit)
      const found = await withinBytes(encode, { max })
      const best = Math.min(95, Math.floor(max / unit))
      if (best < 40) expect(found).toBeNull()
      else expect(found?.quality).toBe(best)
      expect(asked.length).toBeLessThanOrEqual(8)
    }))
  })

  it('gives a file that is small at its best as it is', async () => {
    expect((await withinBytes(encoder(10).encode, { min: 5000, max: 9000 }))?.quality).toBe(95)
  })
})
