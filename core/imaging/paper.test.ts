import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evenedLuma, median, paperLevels, piecesOf, type Piece } from './paper'

/** Ink on a small paper, and its size. */
const bitmap = fc.record({ width: fc.integer({ min: 1, max: 14 }), height: fc.integer({ min: 1, max: 14 }) }).chain(({ width, height }) =>
  fc.record({
    width: fc.constant(width),
    height: fc.constant(height),
    ink: fc.uint8Array({ min: 0, max: 1, minLength: width * height, maxLength: width * height }),
  })
)

const inOrder = (pieces: Piece[]) =>
  [...pieces].sort((a, b) => a.top - b.top || a.left - b.left || a.bottom - b.bottom || a.right - b.right || a.area - b.area)

/** Pieces by their definition: every dot takes the least number among its neighbours' until nothing changes. */
function byDefinition(ink: Uint8Array, width: number): Piece[] {
  const numbers = Array.from(ink, (dot, i) => dot === 1 ? i : -1)
  const near = (i: number) =>
    numbers.map((_, j) => j).filter(j =>
      numbers[j] !== -1 && Math.abs(j % width - i % width) <= 1 && Math.abs(Math.floor(j / width) - Math.floor(i / width)) <= 1
    )
  for (let changed = true; changed;) {
    changed = false
    numbers.forEach((number, i) => {
      if (number === -1) return
      const least = Math.min(...near(i).map(j => numbers[j] ?? number))
      if (least < number) [numbers[i], changed] = [least, true]
    })
  }
  return [...new Set(numbers)].filter(number => number !== -1).map((number) => {
    const dots = numbers.flatMap((own, i) => own === number ? [{ x: i % width, y: Math.floor(i / width) }] : [])
    const [xs, ys] = [dots.map(dot => dot.x), dots.map(dot => dot.y)]
    return { area: dots.length, left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) }
  })
}

describe('pieces of ink', () => {
  it('are what their definition says, on whatever small paper', () => {
    fc.assert(
      fc.property(bitmap, ({ ink, width, height }) => {
        expect(inOrder(piecesOf(ink, width, height))).toEqual(inOrder(byDefinition(ink, width)))
      }),
      { numRuns: 150 },
    )
  })

  it('hold all ink once, and never reach round an edge', () => {
    // The last dot of a row and the first of the next lie side by side in memory, not on the paper.
    expect(piecesOf(Uint8Array.from([0, 0, 1, 1, 0, 0]), 3, 2)).toHaveLength(2)
    fc.assert(fc.property(bitmap, ({ ink, width, height }) => {
      expect(piecesOf(ink, width, height).reduce((sum, piece) => sum + piece.area, 0)).toBe(ink.reduce((sum, dot) => sum + dot, 0))
    }))
  })

  it('leave the ink as it was', () => {
    const ink = Uint8Array.from([1, 1, 0, 1])
    piecesOf(ink, 2, 2)
    expect([...ink]).toEqual([1, 1, 0, 1])
  })
})

/** A paper of a level at each place, with strokes a third as light in every fifth column. */
const written = (width: number, height: number, paper: (x: number, y: number) => number) =>
  Float32Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)]
    return paper(x, y) * (x % 5 === 2 && y % 30 > 8 ? 1 / 3 : 1)
  })

describe('the level of the paper', () => {
  it('is that of an even one, to an eighth, at any size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 1, max: 90 }),
        fc.double({ min: 1, max: 255, noNaN: true }),
        (width, height, level) => {
          const found = paperLevels(new Float32Array(width * height).fill(level), width, height)
          expect(Math.abs(found.level - level)).toBeLessThanOrEqual(0.126)
          expect(found.shade).toBe(0)
          for (const y of [0, Math.floor(height / 2), height - 1]) {
            for (const along of found.along(y)) {
              expect(Math.abs(along - level)).toBeLessThanOrEqual(0.126)
            }
          }
        },
      ),
      { numRuns: 60 },
    )
  })

  it('follows a light that falls off across it, and says by how much', () => {
    const [width, height] = [480, 240]
    const { along, shade } = paperLevels(written(width, height, x => 240 - 120 * x / width), width, height)
    const row = along(120)
    for (let x = 24; x < width - 24; x += 8) expect(Math.abs((row[x] ?? 0) - (240 - 120 * x / width))).toBeLessThan(6)
    // From 240 at one end to 120 at the other, the outermost blocks being half a block inside.
    expect(shade).toBeGreaterThan(42)
    expect(shade).toBeLessThan(50)
  })
})

describe('luma as on an evenly lit paper', () => {
  it('has its paper near 235 and its ink a third of that, wherever the light comes from', () => {
    const [width, height] = [360, 240]
    for (
      const light of [(x: number) => 240 - 120 * x / width, (_: number, y: number) => 130 + 100 * y / height,
        (x: number, y: number) => 150 + 60 * (x / width) * (y / height)]
    ) {
      const { even } = evenedLuma(written(width, height, light), width, height)
      for (let y = 36; y < height - 36; y += 7) {
        for (let x = 36; x < width - 36; x += 1) {
          const ink = x % 5 === 2 && y % 30 > 8
          expect(Math.abs((even[y * width + x] ?? 0) - (ink ? 235 / 3 : 235))).toBeLessThan(ink ? 6 : 16)
        }
      }
    }
  })

  it('does not change when the whole light is made weaker, and stays within 0 and 255', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.double({ min: 0.5, max: 1, noNaN: true }), (seed, weaker) => {
        const luma = Float32Array.from({ length: 60 * 50 }, (_, i) => 140 + (i * seed) % 110)
        const [strong, weak] = [evenedLuma(luma, 60, 50).even, evenedLuma(luma.map(v => v * weaker), 60, 50).even]
        expect(Math.min(...strong)).toBeGreaterThanOrEqual(0)
        expect(Math.max(...strong)).toBeLessThanOrEqual(255)
        expect(Math.max(...strong.map((v, i) => Math.abs(v - (weak[i] ?? 0))))).toBeLessThan(1)
      }),
      { numRuns: 40 },
    )
  })
})

describe('the middle one of values', () => {
  it('has as many on either side, is one of them, and of none is nothing', () => {
    expect(median([])).toBe(0)
    expect(median([3, 1, 2, 9])).toBe(3)
    fc.assert(fc.property(fc.array(fc.integer(), { minLength: 1, maxLength: 40 }), (values) => {
      const middle = median(values)
      expect(values).toContain(middle)
      expect(values.filter(v => v < middle).length).toBeLessThanOrEqual(values.length / 2)
      expect(values.filter(v => v > middle).length).toBeLessThan(values.length / 2 + 1)
    }))
  })
})
