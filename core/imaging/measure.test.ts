import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import type { Verdict } from '../finding/finding'
import { measureImage } from './measure'
import type { ImageFacts } from './picture'
import { laplacianVariance, otsuThreshold, statistics, type RgbPixels } from './pixels'

const { photograph, signature } = sampleNotice().images
const facts: ImageFacts = {
  format: 'jpeg',
  bytes: 40_000,
  width: 420,
  height: 540,
  orientation: 1,
  colour: 'rgb',
  depth: 8,
  frames: 1,
  embedded: 0,
}

function picture(width: number, height: number, colour: (x: number, y: number) => [number, number, number]): RgbPixels {
  const data = new Uint8Array(width * height * 3)
  for (let y = 0; y < height; y += 1) for (let x = 0; x < width; x += 1) data.set(colour(x, y), (y * width + x) * 3)
  return { width, height, data }
}
/** A bust as plain shapes: shoulders on the lower edge, a head of fine checks above them, an even background. */
const bust = picture(200, 258, (x, y) => {
  if (y > 200 && Math.abs(x - 100) < 80) return [40, 60, 90]
  if (Math.hypot((x - 100) / 45, (y - 120) / 60) < 1) return (x + y) % 4 < 2 ? [200, 160, 130] : [120, 90, 70]
  return [235, 238, 240]
})
const turned = picture(258, 200, (x, y) => {
  const at = ((257 - x) * 200 + y) * 3
  return [bust.data[at] ?? 0, bust.data[at + 1] ?? 0, bust.data[at + 2] ?? 0]
})
const verdicts = (kind: 'photograph' | 'signature', pixels: RgbPixels, change: Partial<ImageFacts> = {}): Record<string, Verdict> =>
  Object
    .fromEntries(measureImage(kind, { facts: { ...facts, ...change }, pixels }, kind === 'photograph' ? photograph : signature).findings
      .map(f => [f.code.split('.')[1] ?? '', f.verdict]))

describe('a photograph', () => {
  it('that keeps every rule passes every check', () => {
    expect(Object.entries(verdicts('photograph', bust)).filter(([, v]) => v !== 'pass')).toEqual([])
  })

  // Size limits are inclusive: 100 KB passes, one byte more fails. Boundary tests of sizes: common practice, no source.
  it.each([[102_400, 'pass'], [102_401, 'fail'], [12_288, 'pass'], [12_287, 'fail']] as const)('of %i bytes: %s', (bytes, wanted) => {
    expect(verdicts('photograph', bust, { bytes }).bytes).toBe(wanted)
  })

  it('is told by content, shape and pixels', () => {
    expect(verdicts('photograph', bust, { format: 'png' }).format).toBe('fail')
    expect(verdicts('photograph', bust, { width: 349 }).width).toBe('fail')
    expect(verdicts('photograph', bust, { width: 540, height: 540 }).aspect).toBe('fail')
  })

  it('that was taken too early by its camera is for a person to judge; one that does not say when is not asked', () => {
    const taken = (on?: string) =>
      measureImage('photograph', { facts: { ...facts, ...on && { taken: on } }, pixels: bust }, { ...photograph, takenFrom: '2026-06-01' })
        .findings.find(f => f.code === 'photograph.taken')?.verdict
    expect([taken('2026-05-31'), taken('2026-06-01'), taken()]).toEqual(['unsure', 'pass', undefined])
  })

  it('lying on its side is found, with the angle', () => {
    const upright = measureImage('photograph', { facts, pixels: turned }, photograph).findings.find(f => f.code === 'photograph.upright')
    expect(upright?.verdict).toBe('fail')
    expect([90, 270]).toContain(upright?.value)
  })

  it('that shows nothing at all cannot be told upright', () => {
    expect(verdicts('photograph', picture(200, 258, () => [128, 128, 128])).upright).toBe('unsure')
  })

  it('that is blurred, dark, burnt out or has a loud background fails for just that', () => {
    const soft = picture(200, 258, (x, y) =>
      [0, 1, 2].map((c) => {
        let sum = 0
        for (let dy = -4; dy <= 4; dy += 1) {
          for (let dx = -4; dx <= 4; dx += 1) {
            sum += bust.data[(Math.min(257, Math.max(0, y + dy)) * 200 + Math.min(199, Math.max(0, x + dx))) * 3 + c] ?? 0
          }
        }
        return sum / 81
      }) as [number, number, number])
    expect(verdicts('photograph', soft).sharpness).toBe('fail')
    expect(verdicts('photograph', picture(200, 258, (x, y) => [x % 40, y % 40, 30])).exposure).toBe('fail')
    expect(verdicts('photograph', picture(200, 258, (_, y) => y > 200 ? [40, 60, 90] : [255, 255, 255])).burntOut).toBe('fail')
    expect(verdicts('photograph', picture(200, 258, x => x % 20 < 10 ? [255, 200, 0] : [0, 90, 160])).backgroundEvenness).toBe('fail')
  })

  it('is measured against the colours that the notice allows, and named', () => {
    const before = (colour: [number, number, number]) => {
      const made = picture(
        200,
        258,
        (x, y) =>
          x < 32 || x > 168
            ? colour
            : [bust.data[(y * 200 + x) * 3] ?? 0, bust.data[(y * 200 + x) * 3 + 1] ?? 0, bust.data[(y * 200 + x) * 3 + 2] ?? 0],
      )
      return measureImage('photograph', { facts, pixels: made }, photograph).findings.find(f => f.code === 'photograph.background')
    }
    expect(before([255, 255, 255])).toMatchObject({ verdict: 'pass', value: 0, parameters: { colour: '#ffffff', nearest: 'white' } })
    expect(before([214, 228, 238])).toMatchObject({ verdict: 'pass', parameters: { nearest: 'pale blue' } })
    expect(before([40, 90, 160])).toMatchObject({ verdict: 'fail', parameters: { colour: '#285aa0' } })
  })

  it('lit from one side, or grey, fails for just that', () => {
    const half = picture(
      200,
      258,
      (x, y) =>
        [0, 1, 2].map(c => (bust.data[(y * 200 + x) * 3 + c] ?? 0) * (x > 100 && x < 150 && y < 200 ? 0.6 : 1)) as [number, number, number],
    )
    expect(verdicts('photograph', half).sideLight).toBe('fail')
    const grey = picture(200, 258, (x, y) => {
      const level = bust.data[(y * 200 + x) * 3 + 1] ?? 0
      return [level, level, level]
    })
    expect(verdicts('photograph', grey)).toMatchObject({ saturation: 'fail', sideLight: 'pass', background: 'pass' })
  })

  it('is as sharp in the dark as in the light, within a quarter', () => {
    const half = picture(200, 258, (x, y) => {
      const at = (y * 200 + x) * 3
      return [(bust.data[at] ?? 0) >> 1, (bust.data[at + 1] ?? 0) >> 1, (bust.data[at + 2] ?? 0) >> 1]
    })
    const sharpness = (pixels: RgbPixels) =>
      measureImage('photograph', { facts, pixels }, photograph).findings.find(f => f.code === 'photograph.sharpness')?.value ?? 0
    expect(sharpness(half) / sharpness(bust)).toBeGreaterThan(0.75)
    expect(sharpness(half) / sharpness(bust)).toBeLessThan(1.25)
  })
})

describe('a signature', () => {
  const paper: [number, number, number] = [252, 251, 248]
  const stroke = (thick: number) =>
    picture(420, 150, (x, y) => Math.abs(y - 75 - 40 * Math.sin(x / 30)) < thick && x > 40 && x < 380 ? [20, 30, 60] : paper)
  const small = { width: 420, height: 150 }

  it('in pen passes; blank, faint, tiny and scribbled ones fail', () => {
    expect(verdicts('signature', stroke(4), small)).toMatchObject({ inkShare: 'pass', contrast: 'pass' })
    expect(verdicts('signature', picture(420, 150, () => paper), small)).toMatchObject({ inkShare: 'fail', contrast: 'fail' })
    expect(verdicts('signature', picture(420, 150, x => x % 9 === 0 ? [225, 225, 225] : paper), small).contrast).toBe('fail')
    expect(verdicts('signature', picture(420, 150, (x, y) => x < 12 && y < 8 ? [20, 20, 20] : paper), small).inkShare).toBe('fail')
    expect(verdicts('signature', stroke(40), small).inkShare).toBe('fail')
  })
})

describe('the measures on pixels', () => {
  it('parts two levels between them, and finds one class in one level', () => {
    const two = Float32Array.from({ length: 100 }, (_, i) => i < 30 ? 40 : 200)
    const { threshold, darkMean, lightMean } = otsuThreshold(two)
    expect([darkMean, lightMean]).toEqual([40, 200])
    expect(threshold).toBeGreaterThanOrEqual(40)
    expect(threshold).toBeLessThan(200)
    expect(otsuThreshold(new Float32Array(50).fill(90))).toMatchObject({ darkMean: 90, lightMean: 90 })
  })

  it('gives the Laplacian of one bright point by hand: 4, 1, 1, 1, 1 times its height', () => {
    const luma = new Float32Array(25)
    luma[12] = 10
    // Over the inner nine: one -40, four 10, four 0. Mean 0, mean square (1600 + 400) / 9.
    expect(laplacianVariance(luma, 5, 5, { left: 0, top: 0, width: 5, height: 5 })).toBeCloseTo(2000 / 9, 9)
    expect(statistics(luma, 5, { left: 0, top: 0, width: 5, height: 5 })).toEqual({ mean: 0.4, variance: 100 / 25 - 0.16 })
  })
})
