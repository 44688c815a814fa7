/**
 * Measures of faces on photographs, not on drawn pictures: which way up, the lean of the head, two faces, blur, and what making it fit
 * leaves.
 *
 * `npx tsx bench/photographs.ts [FOLDER ...]`: photographs in folders, such as those that packages of the registry ship; without any, those
 * of `@vladmandic/face-api`. Nothing of them is kept.
 */
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { readNotice } from '../core/notice/check'
import { demoNotice } from '../demo/notice'
import { turned } from '../core/imaging/cut'
import { theFace } from '../core/imaging/face'
import { makeItFit } from '../core/imaging/make-it-fit'
import { measureImage } from '../core/imaging/measure'
import type { RgbPixels } from '../core/imaging/pixels'
import { seeFaces } from '../core/imaging/seeing'
import { decodePicture, decodeWhole, encodeJpeg } from '../pictures/decode'
import { openFaceDetector } from '../pictures/faces'
import { leant, portraitsFrom, sideBySide } from './portraits'

const folders = process.argv.slice(2)
const shipped = [1, 2, 3, 4, 5, 6].map(i => `node_modules/@vladmandic/face-api/demo/sample${i}.jpg`)
const files = folders.length > 0
  ? folders.flatMap(folder => readdirSync(folder).filter(name => /\.(jpe?g|png)$/i.test(name)).sort().map(name => join(folder, name)))
  : shipped
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
if (!notice) throw new Error('the notice of the demo cannot be read')
const rule = notice.images.photograph
const detect = await openFaceDetector()
const portraits = await portraitsFrom(files, detect)
process.stdout.write(`${files.length} photographs, ${portraits.length} portraits\n`)

const look = async (bytes: Uint8Array) => {
  const { picture } = await decodePicture(bytes)
  return { ...picture, seen: await seeFaces(picture.pixels, detect) }
}
const findingsOf = async (pixels: RgbPixels) => measureImage('photograph', await look(await encodeJpeg(pixels, 92)), rule).findings
const verdictOf = async (pixels: RgbPixels, code: string) =>
  (await findingsOf(pixels)).find(finding => finding.code === `photograph.${code}`)
const write = (line: string) => process.stdout.write(`${line}\n`)

// Which way up: right, left to a person, wrong.
for (const turn of [0, 90, 180, 270] as const) {
  let [right, unsure, wrong] = [0, 0, 0]
  for (const { pixels, from } of portraits) {
    const found = await verdictOf(turned(pixels, turn), 'upright')
    if (found?.verdict === 'unsure') unsure += 1
    else if (found && (found.value ?? 0) === (360 - turn) % 360) right += 1
    else {
      wrong += 1
      write(`  wrong: ${from} turned by ${turn}`)
    }
  }
  write(`turned by ${turn}: ${right} right, ${unsure} unsure, ${wrong} wrong`)
}

// How far a head leans: a known turn more than on the portrait as it is.
const rolls: (number | null)[] = []
for (const { pixels } of portraits) rolls.push(theFace(await seeFaces(pixels, detect))?.roll ?? null)
for (const lean of [5, 10, 20]) {
  const off: number[] = []
  let [unsure, none] = [0, 0]
  for (const [i, { pixels }] of portraits.entries()) {
    for (const degrees of [lean, -lean]) {
      const seen = await seeFaces(leant(pixels, degrees), detect)
      const face = theFace(seen)
      const before = rolls[i]
      if (!face || before === null || before === undefined) none += 1
      else if (seen.doubt || !face.rollSure) unsure += 1
      else off.push(Math.abs(face.roll - before - degrees))
    }
  }
  off.sort((a, b) => a - b)
  const at = (share: number) => off[Math.floor(off.length * share)]?.toFixed(1) ?? '-'
  write(`leaning by ${lean}: off by ${at(0.5)} in the middle, one in ten by more than ${
    at(0.9)
  }; ${unsure} unsure, ${none} without a face, of ${portraits.length * 2}`)
}

// Made to fit: the lean afterwards, and rules that were lost.
let [straight, stillUnsure, still, unmade] = [0, 0, 0, 0]
const lost = new Map<string, number>()
for (const { pixels } of portraits) {
  for (const degrees of [12, -18]) {
    const bytes = await encodeJpeg(leant(pixels, degrees), 95)
    const before = await look(bytes)
    const held = new Set(measureImage('photograph', before, rule).findings.filter(f => f.verdict === 'pass').map(f => f.code))
    const made = await makeItFit('photograph', before, rule, { whole: () => decodeWhole(Buffer.from(bytes)), encode: encodeJpeg, look })
    if (typeof made === 'string') {
      unmade += 1
      continue
    }
    const after = measureImage('photograph', await look(made.bytes), rule).findings
    const roll = after.find(f => f.code === 'photograph.roll')?.verdict
    if (roll === 'pass') straight += 1
    else if (roll === 'fail') still += 1
    else stillUnsure += 1
    if (!made.edits.some(edit => edit.kind === 'given up')) {
      for (const f of after) if (f.verdict === 'fail' && held.has(f.code)) lost.set(f.code, (lost.get(f.code) ?? 0) + 1)
    }
  }
}
write(`leaning by 12 and 18, made to fit: ${straight} level, ${stillUnsure} unsure, ${still} leaning, ${unmade} not made; lost without a word: ${
  [...lost].map(([code, n]) => `${code} ${n}`).join(', ') || 'nothing'
}`)

// Two faces.
let [two, twoUnsure, one] = [0, 0, 0]
for (const [i, { pixels }] of portraits.entries()) {
  const verdict = (await verdictOf(sideBySide(pixels, portraits[(i + 1) % portraits.length]?.pixels ?? pixels), 'faces'))?.verdict
  if (verdict === 'fail') two += 1
  else if (verdict === 'unsure') twoUnsure += 1
  else one += 1
}
write(`two faces side by side: ${two} told, ${twoUnsure} unsure, ${one} taken as one`)

// Blur, in pixels of the portrait; heads that were enlarged are blurred already.
const sharpOnes = portraits.filter(({ head }) => head >= 200)
for (const sigma of [0, 0.5, 1, 1.5, 2, 3]) {
  const counts = { pass: 0, unsure: 0, fail: 0 }
  const values: number[] = []
  for (const { pixels } of sharpOnes) {
    const raw = sharp(Buffer.from(pixels.data), { raw: { width: pixels.width, height: pixels.height, channels: 3 } })
    const data = sigma === 0 ? pixels.data : new Uint8Array(await raw.blur(sigma).raw().toBuffer())
    const found = await verdictOf({ width: pixels.width, height: pixels.height, data }, 'blur')
    if (found) counts[found.verdict] += 1
    values.push(found?.value ?? 0)
  }
  values.sort((a, b) => a - b)
  write(`blurred by ${sigma} px: ${counts.pass} pass, ${counts.unsure} unsure, ${counts.fail} fail of ${sharpOnes.length}; ${
    values[0]
  } to ${values.at(-1)}, middle ${values[values.length >> 1]} percent of the face`)
}
