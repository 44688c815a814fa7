import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { faceOf, type DetectedFace, type FaceDetector } from './face'
import { measureImage } from './measure'
import type { Picture } from './picture'
import type { RgbPixels } from './pixels'
import { seeFaces } from './seeing'

const { photograph } = sampleNotice().images
const width = 400
const height = 514
/** Grey wall, a face of one lightness with darker eyes, shoulders on the lower edge. */
function portrait(eyes = 150): RgbPixels {
  const data = new Uint8Array(width * height * 3).fill(236)
  const put = (left: number, top: number, w: number, h: number, level: (x: number, y: number) => number) => {
    for (let y = top; y < top + h; y += 1) {
      for (let x = left; x < left + w; x += 1) data.fill(level(x, y), (y * width + x) * 3, (y * width + x) * 3 + 3)
    }
  }
  put(40, 420, 320, 94, () => 60)
  put(130, 120, 140, 240, (x, y) => 180 + (x * 5 + y * 3) % 12)
  put(150, 212, 100, 26, () => eyes)
  return { width, height, data }
}

/** A detected face whose eyes lie `apart` from each other about a place; lids open by a share of the eye's width. */
function detected(x: number, y: number, { apart = 70, roll = 0, open = 0.35, score = 0.9, yaw = 0 } = {}): DetectedFace {
  const [cos, sin] = [Math.cos(roll * Math.PI / 180), Math.sin(roll * Math.PI / 180)]
  const at = (u: number, v: number) => ({ x: x + u * cos - v * sin, y: y + u * sin + v * cos })
  const mesh = Array.from({ length: 468 }, () => at(0, 0))
  const eye = (side: number, [outer, inner, upper, lower]: readonly [number, number, number, number]) => {
    const w = apart * 0.4
    mesh[outer] = at(side * (apart / 2 + w / 2), 0)
    mesh[inner] = at(side * (apart / 2 - w / 2), 0)
    mesh[upper] = at(side * apart / 2, -w * open / 2)
    mesh[lower] = at(side * apart / 2, w * open / 2)
  }
  eye(-1, [33, 133, 159, 145])
  eye(1, [263, 362, 386, 374])
  mesh[152] = at(0, apart * 1.75)
  mesh[1] = at(0, apart * 0.7)
  return { score, box: { left: x - apart, top: y - apart, width: apart * 2, height: apart * 2.7 }, mesh, yaw, pitch: 0 }
}
const facts: Picture['facts'] = {
  format: 'jpeg',
  bytes: 40_000,
  width: 800,
  height: 1028,
  orientation: 1,
  colour: 'rgb',
  depth: 8,
  frames: 1,
  embedded: 0,
}
/**
 * What a detector makes of a whole picture; beside a face it sees nobody. With `left`, it sees so much of the lean again where the picture
 * was turned level.
 */
async function measured(faces: DetectedFace[], pixels = portrait(), left?: number) {
  let looks = 0
  const seen = await seeFaces(pixels, async (given) => {
    if (given.data.length !== pixels.data.length) return []
    looks += 1
    return looks === 1 || left === undefined ? faces : [detected(width / 2, height / 2, { roll: left })]
  })
  const { findings, marks } = measureImage('photograph', { facts, pixels, seen }, photograph)
  return { marks, of: (code: string) => findings.find(f => f.code === `photograph.${code}`) }
}

describe('what is measured on a face', () => {
  it('has places in percent of the frame and distances in pixels of the file', async () => {
    const { of } = await measured([detected(200, 225)])
    // Eye to chin 122.5 px, so crown to chin 245 of 514; crown at 225 - 122.5; the file is twice as large.
    expect(of('headHeight')).toMatchObject({ value: 48, unit: 'percent', verdict: 'pass' })
    expect(of('crownRoom')).toMatchObject({ value: 20, verdict: 'pass' })
    expect(of('eyeLine')).toMatchObject({ value: 44, verdict: 'pass' })
    expect(of('offCentre')).toMatchObject({ value: 0, verdict: 'pass' })
    expect(of('eyeDistance')).toMatchObject({ value: 140, unit: 'px' })
    expect(of('eyesOpen')).toMatchObject({ value: 35, verdict: 'pass' })
    expect(of('faces')).toMatchObject({ value: 1, verdict: 'pass', parameters: { score: 90 } })
  })

  it('fails for what is wrong, close calls go to a person', async () => {
    expect((await measured([detected(280, 225)])).of('offCentre')?.verdict).toBe('fail')
    expect((await measured([detected(200, 225, { roll: 15 })], portrait(), 0)).of('roll')).toMatchObject({ value: 15, verdict: 'fail' })
    expect((await measured([detected(200, 225, { roll: -15 })], portrait(), 0)).of('roll')).toMatchObject({ value: -15, verdict: 'fail' })
    expect((await measured([detected(200, 225, { roll: 8 })], portrait(), 0)).of('roll')?.verdict).toBe('unsure')
    // What a first look missed is found on the head turned level; looks that never agree go to a person.
    expect((await measured([detected(200, 225, { roll: 12 })], portrait(), 1)).of('roll')).toMatchObject({ value: 13, verdict: 'fail' })
    expect((await measured([detected(200, 225, { roll: 12 })], portrait(), 5)).of('roll')).toMatchObject({ value: 27, verdict: 'unsure' })
    expect((await measured([detected(200, 225, { open: 0.24 })])).of('eyesOpen')?.verdict).toBe('unsure')
    expect((await measured([detected(200, 225, { open: 0.08 })])).of('eyesOpen')?.verdict).toBe('fail')
    expect((await measured([detected(200, 225, { yaw: 30 })])).of('yaw')?.verdict).toBe('fail')
    expect((await measured([detected(200, 225, { apart: 30 })])).of('headHeight')?.verdict).toBe('fail')
  })

  it('tells dark glass by the light round the eyes, and then says nothing of lids and pupils', async () => {
    const { of } = await measured([detected(200, 225)], portrait(12))
    expect(of('eyesUncovered')?.verdict).toBe('fail')
    expect(of('eyesOpen')).toBeUndefined()
    expect(of('redEyes')).toBeUndefined()
  })

  it('counts faces: none, one, two, and one that the detector is not sure of', async () => {
    expect((await measured([])).of('faces')).toMatchObject({ value: 0, verdict: 'fail' })
    const two = await measured([detected(120, 225, { apart: 40 }), detected(290, 225, { apart: 40 })])
    expect(two.of('faces')).toMatchObject({ value: 2, verdict: 'fail' })
    expect(two.of('headHeight')).toBeUndefined()
    expect((await measured([detected(200, 225, { score: 0.4 })])).of('faces')?.verdict).toBe('unsure')
    expect((await measured([detected(200, 225), detected(60, 60, { score: 0.35, apart: 20 })])).of('faces')?.verdict).toBe('unsure')
  })

  it('marks where it was measured, on the picture as it is shown', async () => {
    const { marks } = await measured([detected(200, 225)])
    const eyeLine = marks.find(mark => mark.code === 'photograph.eyeLine')
    expect(eyeLine?.points).toEqual([{ x: 0, y: 0.4377 }, { x: 1, y: 0.4377 }])
    for (const { points } of marks) for (const { x, y } of points) expect(x >= -0.2 && x <= 1.2 && y >= -0.2 && y <= 1.2).toBe(true)
  })
})

describe('a face that lies otherwise', () => {
  /** Sees a face only on a picture that lies so: a portrait is higher than wide, and the shoulders are dark. */
  const upright: FaceDetector = async ({ width: w, height: h, data }) =>
    h > w && (data[(h - 5) * w * 3 + Math.floor(w / 2) * 3] ?? 255) < 100 ? [detected(w / 2, h * 0.44)] : []
  const turnedBy = (pixels: RgbPixels, quarters: number): RgbPixels => {
    let { width: w, height: h, data } = pixels
    for (let i = 0; i < quarters; i += 1) {
      const next = new Uint8Array(data.length)
      for (let y = 0; y < h; y += 1) {
        for (let x = 0; x < w; x += 1) next.set(data.subarray((y * w + x) * 3, (y * w + x) * 3 + 3), (x * h + h - 1 - y) * 3)
      }
      ;[w, h, data] = [h, w, next]
    }
    return { width: w, height: h, data }
  }

  it.each([[1, 270], [2, 180], [3, 90]] as const)(
    'by %i quarters is found, with the turn that mends it, and marked where it lies',
    async (quarters, turn) => {
      const pixels = turnedBy(portrait(), quarters)
      const seen = await seeFaces(pixels, upright)
      expect(seen).toMatchObject({ turn, doubt: false })
      const { findings, marks } = measureImage('photograph', { facts, pixels, seen }, photograph)
      expect(findings.find(f => f.code === 'photograph.upright')).toMatchObject({ value: turn, verdict: 'fail' })
      // The line of the eyes runs across the head, so down the picture when it lies on its side.
      const [a, b] = marks.find(mark => mark.code === 'photograph.eyeLine')?.points ?? []
      expect(Math.abs((a?.x ?? 0) - (b?.x ?? 0))).toBeCloseTo(quarters === 2 ? 1 : 0, 3)
    },
  )

  it('has somebody beside it who is seen only where one looks for them', async () => {
    const wide = { width: 800, height, data: new Uint8Array(800 * height * 3).fill(200) }
    const { faces } = await seeFaces(
      wide,
      async given => given.width === 800 ? [detected(200, 225)] : given.width > 400 ? [detected(given.width / 2, 200, { score: 0.7 })] : [],
    )
    expect(faces).toHaveLength(2)
    // Told where it lies on the whole picture: in the middle of what is right of the first.
    expect(faces[1]?.eyes[0].centre.x).toBeGreaterThan(400)
  })

  it('in doubt goes to a person', async () => {
    const everywhere: FaceDetector = async ({ width: w, height: h }) => [detected(w / 2, h / 2, { score: 0.6 })]
    expect((await seeFaces(portrait(), everywhere)).doubt).toBe(true)
  })
})

describe('the mesh of a detector', () => {
  it('gives roll as it leans, whatever the place and size', () => {
    fc.assert(fc.property(
      fc.integer({ min: 50, max: 350 }),
      fc.integer({ min: 50, max: 450 }),
      fc.integer({ min: 20, max: 90 }),
      fc.integer({ min: -60, max: 60 }),
      (x, y, apart, roll) => {
        const face = faceOf(detected(x, y, { apart, roll }))
        expect(face?.roll).toBeCloseTo(roll, 6)
        // The eyes lie half-way between crown and chin (common practice, no source).
        expect(((face?.crown.y ?? 0) + (face?.chin.y ?? 0)) / 2).toBeCloseTo(y, 6)
      },
    ))
  })

  it('that is incomplete is no face', () => {
    expect(faceOf({ ...detected(100, 100), mesh: [] })).toBeNull()
  })
})
