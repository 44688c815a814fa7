import fc from 'fast-check'
import sharp from 'sharp'
import { beforeAll, describe, expect, it, vi } from 'vitest'
import { drawCertificate, drawScan, harmlessScanFaults, scanFaults, scanPage, type ScanFault } from '../../demo/documents'
import { drawMadePage, takeMadePage, type Face, type PageKind } from '../../bench/made-pages'
import { Random } from '../../demo/random'
import { decodePage } from '../../pictures/decode'
import { documentsFrom } from '../../pictures/documents'
import { sampleNotice } from '../../tests/support/sample'
import type { DocumentRule } from '../notice/file-rules'
import { findingWords } from '../words/en/findings'
import type { DocumentFacts, PageFacts } from './document'
import { leaningOf } from './leaning'
import { measureDocument } from './measure'
import { measurePage, type PageMeasures } from './page'

// Drawing, reading and putting together pages is real work, and machines are slow at times.
vi.setConfig({ testTimeout: 120_000 })

const rule = sampleNotice().documents.find(({ id }) => id === 'category-certificate') as DocumentRule
const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }
let certificate: Buffer
let scan: Buffer
beforeAll(async () => {
  certificate = await drawCertificate(new Random(1), 'Certificate of residence', holder)
  scan = await scanPage(new Random(1), certificate, 'none', 170)
})
const look = async (bytes: Buffer) => measurePage((await decodePage(bytes, 2000)).pixels)

describe('a page', () => {
  it.each([-30, -3, -0.5, 12])('leaning by %f degrees is found to lean by that', async (degrees) => {
    const straight = (await look(scan)).skew ?? NaN
    const { skew, sideways } = await look(await sharp(scan).rotate(degrees, { background: '#f4f3ef' }).jpeg({ quality: 90 }).toBuffer())
    expect(Math.abs((skew ?? NaN) - straight - degrees)).toBeLessThan(0.35)
    expect(sideways).toBe(false)
  })

  it.each([0, 90, 180, 270])('turned by %i degrees is told to be, by its lines and its letters', async (degrees) => {
    const { sideways, turn } = await look(await sharp(scan).rotate(degrees).jpeg().toBuffer())
    expect(sideways).toBe(degrees % 180 === 90)
    expect(turn).toBe((360 - degrees) % 360)
  })

  const own = (path: string) => `node_modules/@expo-google-fonts/${path}`
  it.each<[string, PageKind, Face]>([
    ['a mark sheet in a fixed-width face', 'table', { script: 'latin', font: 'Courier', isFixed: true }],
    ['a page of like lines', 'like lines', { script: 'latin', font: 'Helvetica' }],
    ['columns of figures', 'figures', { script: 'latin', font: 'Times-Roman' }],
    ['a Devanagari form', 'form', { script: 'devanagari', font: own('noto-sans-devanagari/500Medium/NotoSansDevanagari_500Medium.ttf') }],
    ['two Arabic columns', 'two columns', { script: 'arabic', font: own('noto-naskh-arabic/500Medium/NotoNaskhArabic_500Medium.ttf') }],
  ])('that is %s is told from its turned copies', async (_, kind, face) => {
    const pdf = await drawMadePage(new Random(12), kind, face)
    for (const turned of [0, 90, 180, 270]) {
      const { sideways, turn } = await look(await takeMadePage(new Random(5), pdf, turned))
      expect({ turned, sideways, turn }).toEqual({ turned, sideways: turned % 180 === 90, turn: (360 - turned) % 360 })
    }
  })

  it('of dots as far apart to the side as down is told no way up', async () => {
    const marks = (across: number) =>
      Array.from(
        { length: across * across },
        (_, i) => `<circle cx="${200 + i % across * 110}" cy="${200 + Math.floor(i / across) * 110}" r="14" fill="#222"/>`,
      ).join('')
    for (const across of [2, 4, 10]) {
      const page =
        sharp(Buffer
          .from(`<svg xmlns="http://www.w3.org/2000/svg" width="1650" height="2000"><rect width="100%" height="100%" fill="#fff"/>${
            marks(across)
          }</svg>`))
      expect(await look(await page.jpeg().toBuffer())).toMatchObject({ sideways: null, turn: null })
    }
  })

  it('blurred by a known amount is found to be blurred by about that', async () => {
    let before = 0
    for (const sigma of [1, 1.5, 2]) {
      const { blur, letterHeight } = await look(await sharp(scan).blur(sigma).jpeg({ quality: 95 }).toBuffer())
      const found = (blur ?? NaN) * (letterHeight ?? NaN) / 100
      // Strokes thinner than their blur lose height as well as slope: the blur comes out low, by half at most here.
      expect(found).toBeGreaterThan(Math.max(before, sigma * 0.5))
      expect(found).toBeLessThan(sigma * 1.5)
      before = found
    }
  })

  it('has letters as high as its type says: 0.486 of 10.5 points for a small letter without strokes', async () => {
    // x-height of the face as its own table states it; 10.5 points at 170 dots an inch.
    const { letterHeight } = await look(scan)
    const expected = 0.486 * 10.5 / 72 * 170
    expect(letterHeight).toBeGreaterThan(expected * 0.85)
    expect(letterHeight).toBeLessThan(expected * 1.35)
  })

  it('of the same paper in shadow gives the same height, leaning and letters', async () => {
    const [lit, shaded] = [await look(await scanPage(new Random(4), certificate, 'none', 170)),
      await look(await scanPage(new Random(4), certificate, 'shadow', 170))]
    expect(shaded.letterHeight).toBe(lit.letterHeight)
    expect(shaded.skew).toBeCloseTo(lit.skew ?? NaN, 0)
    expect(Math.abs(shaded.letters - lit.letters)).toBeLessThan(lit.letters * 0.03)
  })

  it('that is blank, grey or of one pixel is blank, and nothing else is told of it', () => {
    for (const [width, height, level] of [[300, 400, 255], [300, 400, 128], [1, 1, 0], [40, 2, 9]] as const) {
      expect(measurePage({ width, height, data: new Uint8Array(width * height * 3).fill(level) })).toMatchObject({
        blank: true,
        letterHeight: null,
        blur: null,
        skew: null,
        sideways: null,
        turn: null,
      })
    }
  })

  it.each<[string, { light?: number, blur?: number }, string]>([
    ['written palely', { light: 0.12 }, 'pale'],
    ['written hardly to be seen', { light: 0.08 }, 'pale'],
    ['out of focus by a letter', { blur: 9 }, 'blurred'],
    ['out of focus by more', { blur: 13 }, 'blurred'],
  ])('%s is not blank, and what hides the writing is told', async (_, { light = 1, blur }, kind) => {
    const scan = sharp(await scanPage(new Random(8), certificate, 'none')).linear(light, 240 * (1 - light))
    const measures = await look(await (blur ? scan.blur(blur) : scan).jpeg({ quality: 88 }).toBuffer())
    expect(measures).toMatchObject({ blank: false, letterHeight: null, blur: kind === 'blurred' ? 100 : null })
    expect((await look(await scanPage(new Random(8), certificate, 'blank page'))).blank).toBe(true)
  })

  it('of noise has no lines', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
        const random = new Random(seed)
        const points = Array.from({ length: 400 }, () => ({ x: random.between(0, 1000), y: random.between(0, 1400) }))
        expect(leaningOf(points, 10)).toBeNull()
      }),
      { numRuns: 30 },
    )
  })

  it('of lines leans as they do, wherever they begin and however many letters they lack', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), fc.double({ min: -40, max: 40, noNaN: true }), (seed, degrees) => {
        const random = new Random(seed)
        const [cos, sin] = [Math.cos(degrees * Math.PI / 180), Math.sin(degrees * Math.PI / 180)]
        const points = Array.from(
          { length: 25 },
          (_, line) =>
            Array.from({ length: 50 }, (_, letter) => ({ x: letter * 18 + random.between(0, 6), y: line * 40 + random.between(-2, 2) })),
        ).flat().filter(() => random.chance(0.7)).map(({ x, y }) => ({ x: x * cos - y * sin, y: x * sin + y * cos }))
        const skew = leaningOf(points, 12)?.skew
        expect(Math.abs((skew ?? NaN) - degrees)).toBeLessThan(0.5)
      }),
      { numRuns: 40 },
    )
  })
})

const wanted: Record<ScanFault, string[]> = {
  'none': [],
  'shadow': [],
  'blurred': ['contrast', 'blur', 'letters'],
  'from afar': ['letters', 'contrast'],
  'askew': ['skew'],
  'sideways': ['sideways'],
  'faint': ['contrast', 'blankPages'],
  'blank page': ['blankPages'],
  'coarse': ['resolution', 'letters'],
}

describe('a document by the rules', () => {
  const read = documentsFrom()
  it.each(scanFaults)('scanned %s', async (fault) => {
    for (let seed = 1; seed <= 2; seed += 1) {
      const { facts } = await read(await drawScan(new Random(seed * 31), certificate, fault))
      const open = measureDocument(facts, rule).filter(f => f.verdict !== 'pass').map(f => f.code.split('.')[1] ?? '')
      if (harmlessScanFaults.includes(fault)) expect([seed, open]).toEqual([seed, []])
      else expect([seed, open, open.some(code => wanted[fault].includes(code))]).toEqual([seed, open, true])
    }
  })

  const measures: PageMeasures = {
    blank: false,
    contrast: 150,
    inkShare: 4,
    letters: 900,
    letterHeight: 12,
    blur: 6,
    skew: 0.2,
    sideways: false,
    turn: 0,
  }
  const page: PageFacts = { paper: { width: 210, height: 297 }, characters: 0, scan: { share: 100, dpi: 200 }, zoom: 1, measures }
  const facts: DocumentFacts = { format: 'pdf', bytes: 300_000, pages: [page], locked: false, mended: false, attachments: 0 }
  const verdictOf = (change: Partial<DocumentFacts>, code: string, bounds: Partial<DocumentRule> = {}) =>
    measureDocument({ ...facts, ...change }, { ...rule, ...bounds }).find(f => f.code === `document.${code}`)

  // Common practice, no source: papers of 200 KB to 1 MB, 1 KB being 1024 bytes.
  it.each([[199 * 1024, 'fail'], [200 * 1024, 'pass'], [1024 * 1024, 'pass'], [1024 * 1024 + 1, 'fail']])(
    'of %i bytes under 200 KB to 1 MB: %s',
    (bytes, verdict) => {
      expect(verdictOf({ bytes }, 'bytes', { bytes: { min: 204_800, max: 1_048_576 } })?.verdict).toBe(verdict)
    },
  )

  it('names the worst page, and asks of text on a page nothing that only scans lack', () => {
    const pages = [page, { ...page, measures: { ...measures, blur: 31 } }, {
      ...page,
      scan: null,
      characters: 900,
      measures: { ...measures, blur: 40, letterHeight: 2 },
    }]
    expect(verdictOf({ pages }, 'blur')).toMatchObject({ verdict: 'fail', value: 31, parameters: { page: 2, of: 2 } })
    expect(verdictOf({ pages }, 'letters')).toMatchObject({ verdict: 'pass', value: 12 })
    expect(verdictOf({ pages }, 'content')?.parameters).toEqual({ text: 1, scan: 2, drawing: 0, blank: 0 })
  })

  it('leaves to a person what it cannot tell', () => {
    expect(verdictOf({ pages: [{ ...page, measures: { ...measures, letters: 3, letterHeight: null, blur: null, skew: null } }] }, 'legible')
      ?.verdict).toBe('unsure')
    const turns = (change: Partial<PageMeasures>) => ({ pages: [{ ...page, measures: { ...measures, ...change } }] })
    expect(verdictOf(turns({ sideways: null, turn: null }), 'sideways')).toMatchObject({
      verdict: 'unsure',
      parameters: { pages: '1', of: 1 },
    })
    expect(verdictOf(turns({ turn: 180 }), 'onHead')?.verdict).toBe('fail')
    expect(verdictOf({ attachments: 2 }, 'attachments')).toMatchObject({ verdict: 'unsure', parameters: { count: 2 } })
    expect(verdictOf({ mended: true }, 'mended')?.verdict).toBe('unsure')
    expect(verdictOf({ locked: true }, 'locked')?.verdict).toBe('pass')
  })

  it('gives every finding words, a value and, when it is not kept, what to do', () => {
    const bad: DocumentFacts = {
      ...facts,
      format: 'png',
      bytes: 3_000_000,
      locked: true,
      mended: true,
      attachments: 1,
      pages: [
        {
          ...page,
          paper: { width: 20, height: 900 },
          scan: { share: 100, dpi: 40 },
          measures: { ...measures, letterHeight: 3, blur: 50, contrast: 45, skew: -20, sideways: true },
        },
        ...Array.from({ length: 5 }, () => ({ ...page, measures: { ...measures, blank: true } })),
      ],
    }
    const findings = measureDocument(bad, { ...rule, formats: ['pdf'] })
    expect(findings.map(f => f.code.split('.')[1])).toEqual(['format', 'bytes', 'pages', 'locked', 'mended', 'attachments', 'content',
      'blankPages', 'pageSide', 'sideways', 'resolution', 'letters', 'blur', 'contrast', 'skew'])
    for (const finding of findings) {
      const { title, advice } = findingWords(finding)
      expect(title).not.toBe(finding.code)
      if (finding.verdict !== 'pass') expect([finding.code, advice.length > 10]).toEqual([finding.code, true])
    }
  })
})
