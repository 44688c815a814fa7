import { describe, expect, it } from 'vitest'
import sharp from 'sharp'
import { drawSignature, signatureFaults, type SignatureFault } from '../../demo/signatures'
import { Random } from '../../demo/random'
import { sampleNotice } from '../../tests/support/sample'
import { findingWords } from '../words/en/findings'
import { measureImage } from './measure'
import type { RgbPixels } from './pixels'
import { measureSignature } from './signature'

const paper = [250, 249, 246] as const
function drawn(width: number, height: number, inked: (x: number, y: number) => boolean, light: (x: number, y: number) => number = () => 1): RgbPixels {
  const data = new Uint8Array(width * height * 3)
  for (let y = 0; y < height; y += 1) for (let x = 0; x < width; x += 1) data.set((inked(x, y) ? [25, 30, 50] : [...paper]).map(v => v * light(x, y)), (y * width + x) * 3)
  return { width, height, data }
}
const line = (y: number, thick: number, from: number, to: number) => (px: number, py: number) => px >= from && px < to && Math.abs(py - y) < thick / 2

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
    expect(measureSignature(drawn(400, 150, (x, y) => line(50.5, 4, 0, 100)(x, y) || line(90.5, 4, 50, 350)(x, y))).cutOff).toBeCloseTo(25, 6)
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

  it('find nothing on blank paper, white or grey', () => {
    for (const light of [1, 0.6]) expect(measureSignature(drawn(200, 80, () => false, () => light))).toMatchObject({ blank: true, inkShare: 0, pieces: 0, strokeWidth: 0 })
  })
})

describe('drawn signatures with known faults', () => {
  const rule = sampleNotice().images.signature
  const failed = async (seed: number, fault: SignatureFault) => {
    const bytes = await drawSignature(new Random(seed), fault)
    const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true })
    const { findings } = measureImage('signature', {
      facts: { format: 'jpeg', bytes: bytes.length, width: info.width, height: info.height, orientation: 1, colour: 'rgb', depth: 8, frames: 1, embedded: 0 }, pixels: { width: info.width, height: info.height, data: new Uint8Array(data) },
    }, rule)
    for (const f of findings) expect(findingWords(f).title).not.toBe(f.code)
    return findings.filter(f => f.verdict !== 'pass' && !['signature.bytes', 'signature.aspect'].includes(f.code)).map(f => f.code.split('.')[1] ?? '')
  }
  const wanted: Record<SignatureFault, string[]> = {
    'none': [], 'blank': ['inkShare'], 'faint': ['contrast'], 'scribbled block': ['inkShare', 'strokeWidth'], 'tiny': ['boxShare', 'inkShare'], 'cut off': ['cutOff'], 'print': ['pieces'], 'portrait': ['saturation', 'strokeWidth', 'inkShare', 'cutOff'],
  }

  it.each(signatureFaults)('%s: caught for it in every one of forty, good ones pass', async (fault) => {
    for (let seed = 1; seed <= 40; seed += 1) {
      const codes = await failed(seed, fault)
      if (fault === 'none') expect([seed, codes]).toEqual([seed, []])
      else expect([seed, codes.some(code => wanted[fault].includes(code))]).toEqual([seed, true])
    }
  })
})
