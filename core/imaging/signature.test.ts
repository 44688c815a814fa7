import { describe, expect, it } from 'vitest'
import sharp from 'sharp'
import { madeFaults, makeSignature, type MadeFault } from '../../bench/made-signatures'
import { demoNotice } from '../../demo/notice'
import { drawSignature, signatureFaults, type SignatureFault } from '../../demo/signatures'
import { Random } from '../../demo/random'
import { sampleNotice } from '../../tests/support/sample'
import { decodePage } from '../../pictures/decode'
import { readNotice } from '../notice/check'
import { findingWords } from '../words/en/findings'
import { measureImage } from './measure'
import type { RgbPixels } from './pixels'
import { measureSignature } from './signature'

const paper = [250, 249, 246] as const
function drawn(
  width: number,
  height: number,
  inked: (x: number, y: number) => boolean,
  light: (x: number, y: number) => number = () => 1,
): RgbPixels {
  const data = new Uint8Array(width * height * 3)
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) data.set((inked(x, y) ? [25, 30, 50] : [...paper]).map(v => v * light(x, y)), (y * width + x) * 3)
  }
  return { width, height, data }
}
const line = (y: number, thick: number, from: number, to: number) => (px: number, py: number) =>
  px >= from && px < to && Math.abs(py - y) < thick / 2

describe('the measures of a signature', () => {
  it('count pieces, box and share by hand: two bars of 100 x 4 pixels', () => {
    const two = measureSignature(drawn(400, 150, (x, y) => line(50.5, 4, 100, 200)(x, y) || line(90.5, 4, 150, 250)(x, y)))
    expect(two).toMatchObject({ blank: false, pieces: 2, cutOff: 0 })
    expect(two.inkShare).toBeCloseTo(100 * 800 / 60_000, 6)
    expect(two.boxShare).toBeCloseTo(100 * 150 * 44 / 60_000, 6)
    // Outline of a bar: 2 x (100 + 4); twice 400 over 208.
    expect(two.strokeWidth).toBeCloseTo(800 / 208, 6)
  })

  it('tell a stroke that runs off the picture, by its share of the ink', () => {
    const both = measureSignature(drawn(400, 150, (x, y) => line(50.5, 4, 0, 100)(x, y) || line(90.5, 4, 100, 400)(x, y)))
    expect(both.cutOff).toBe(100)
    expect(measureSignature(drawn(400, 150, (x, y) => line(50.5, 4, 0, 100)(x, y) || line(90.5, 4, 50, 350)(x, y))).cutOff).toBeCloseTo(
      25,
      6,
    )
  })

  it('see the same ink under a shadow as in even light, and say how deep the shadow is', () => {
    const inked = (x: number, y: number) => Math.abs(y - 75 - 30 * Math.sin(x / 25)) < 3 && x > 40 && x < 360
    const [even, shaded] = [measureSignature(drawn(400, 150, inked)), measureSignature(drawn(400, 150, inked, x => 1 - 0.5 * x / 400))]
    expect(even.shade).toBeLessThan(3)
    expect(shaded.shade).toBeGreaterThan(35)
    expect(Math.abs(shaded.inkShare / even.inkShare - 1)).toBeLessThan(0.1)
    expect(shaded.pieces).toBe(even.pieces)
    expect(shaded.paper).toBeLessThan(even.paper)
  })

  it('count straight lines across, however pale, and none that are bent, short or only grain', () => {
    const noisy = (ink: (x: number, y: number) => number) => {
      const random = new Random(9)
      const data = new Uint8Array(400 * 150 * 3)
      for (let y = 0; y < 150; y += 1) {
        for (let x = 0; x < 400; x += 1) {
          data.fill(248 - ink(x, y) + (random.next() + random.next() - 1) * 6, (y * 400 + x) * 3, (y * 400 + x) * 3 + 3)
        }
      }
      return measureSignature({ width: 400, height: 150, data }).rulings.count
    }
    const leaning = (height: number, slope: number) => (x: number, y: number) => Math.abs(y - height - slope * x) < 1 ? 22 : 0
    expect(noisy(() => 0)).toBe(0)
    expect(noisy(leaning(60, 0))).toBe(1)
    expect(noisy((x, y) => Math.max(leaning(30, 0.06)(x, y), leaning(60, 0.06)(x, y), leaning(90, 0.06)(x, y)))).toBe(3)
    expect(noisy(x => Math.abs(x - 200) < 1 ? 22 : 0)).toBe(1)
    expect(noisy((x, y) => x > 60 && x < 380 ? leaning(60, 0)(x, y) : 0)).toBe(0)
    expect(noisy((x, y) => x > 40 && x < 220 ? leaning(60, 0)(x, y) : 0)).toBe(0)
    expect(noisy((x, y) => Math.abs(y - 75 - 14 * Math.sin(x / 60)) < 1 ? 22 : 0)).toBe(0)
  })

  // Colours as pens of these names write, on paper under a warm lamp: by eye, no source.
  it.each<[string, [number, number, number]]>([['black', [30, 30, 32]], ['blue', [30, 45, 140]], ['red', [190, 25, 35]], ['green', [25, 120,
    55]], ['magenta', [185, 20, 140]]])('tell %s ink by its own pixels, in cold light and warm', (name, [r, g, b]) => {
      for (const warmth of [1, 0.78]) {
        const pixels = drawn(400, 150, () => false)
        for (let y = 0; y < 150; y += 1) {
          for (let x = 0; x < 400; x += 1) {
            const inked = Math.abs(y - 75 - 30 * Math.sin(x / 25)) < 3 && x > 40 && x < 360
            pixels.data.set(inked ? [r, g, b * warmth] : [250, 249, 246 * warmth], (y * 400 + x) * 3)
          }
        }
        const { inks } = measureSignature(pixels)
        expect(Object.entries(inks ?? {}).filter(([, share]) => share > 0.8).map(([found]) => found)).toEqual([name])
      }
    })

  it('find nothing on blank paper, white or grey', () => {
    for (const light of [1, 0.6]) {
      expect(measureSignature(drawn(200, 80, () => false, () => light))).toMatchObject({
        blank: true,
        inkShare: 0,
        pieces: 0,
        strokeWidth: 0,
      })
    }
  })
})

describe('signatures of other hands', () => {
  const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
  const look = async (seed: number, fault: MadeFault) => {
    const rule = notice?.images.signature
    if (!rule) throw new Error('the notice asks for no signature')
    const { facts, pixels } = await decodePage(await makeSignature(new Random(seed), fault, []), 512)
    const { findings } = measureImage('signature', { facts, pixels }, rule)
    for (const f of findings) expect(findingWords(f).title).not.toBe(f.code)
    return findings.filter(f =>
      f.verdict !== 'pass' && !['bytes', 'width', 'height', 'aspect'].some(code => f.code === `signature.${code}`)
    ).map(f => `${f.code.split('.')[1]} ${f.verdict}`)
  }
  const caught: Record<MadeFault, string[]> = {
    none: [],
    ruled: ['rulings fail'],
    squared: ['rulings fail'],
    boxed: ['rulings fail'],
    red: ['inkColour fail'],
    green: ['inkColour fail'],
    magenta: ['inkColour fail'],
    finger: ['strange fail', 'cutOff fail'],
    two: ['parts unsure'],
    drawing: ['inkAspect unsure', 'enclosed unsure'],
    sideways: ['inkAspect fail'],
  }
  it.each(madeFaults)('%s: seen in every one of eight, and nothing of it in good ones', async (fault) => {
    for (let seed = 1; seed <= 8; seed += 1) {
      const open = await look(seed * 7919, fault)
      if (fault === 'none') expect([seed, open.filter(one => one.endsWith('fail'))]).toEqual([seed, []])
      else expect([seed, open, open.some(one => caught[fault].includes(one))]).toEqual([seed, open, true])
    }
  })
})

describe('drawn signatures with known faults', () => {
  const rule = sampleNotice().images.signature
  const failed = async (seed: number, fault: SignatureFault) => {
    const bytes = await drawSignature(new Random(seed), fault)
    const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true })
    const { findings } = measureImage('signature', {
      facts: {
        format: 'jpeg',
        bytes: bytes.length,
        width: info.width,
        height: info.height,
        orientation: 1,
        colour: 'rgb',
        depth: 8,
        frames: 1,
        embedded: 0,
      },
      pixels: { width: info.width, height: info.height, data: new Uint8Array(data) },
    }, rule)
    for (const f of findings) expect(findingWords(f).title).not.toBe(f.code)
    return findings.filter(f => f.verdict !== 'pass' && !['signature.bytes', 'signature.aspect'].includes(f.code)).map(f =>
      f.code.split('.')[1] ?? ''
    )
  }
  const wanted: Record<SignatureFault, string[]> = {
    'none': [],
    'blank': ['inkShare'],
    'faint': ['contrast'],
    'scribbled block': ['inkShare', 'strokeWidth'],
    'tiny': ['boxShare', 'inkShare'],
    'cut off': ['cutOff'],
    'print': ['pieces'],
    'portrait': ['saturation', 'strokeWidth', 'inkShare', 'cutOff'],
  }

  it.each(signatureFaults)('%s: caught for it in every one of forty, good ones pass', async (fault) => {
    for (let seed = 1; seed <= 40; seed += 1) {
      const codes = await failed(seed, fault)
      if (fault === 'none') expect([seed, codes]).toEqual([seed, []])
      else expect([seed, codes.some(code => wanted[fault].includes(code))]).toEqual([seed, true])
    }
  })
})
