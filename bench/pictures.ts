import { drawPortrait, portraitFaults, type PortraitFault } from '../demo/portraits'
import { Random } from '../demo/random'
import { drawSignature, signatureFaults, type SignatureFault } from '../demo/signatures'
import { demoNotice } from '../demo/notice'
import { readNotice } from '../core/notice/check'
import { slotOf, type Slot } from '../core/application/slots'
import type { ImageKind, Notice } from '../core/notice/schema'
import { openFaceDetector } from '../pictures/faces'
import { inspectorWith, type Inspector } from '../pictures/inspect'

/**
 * How the checks do on drawn pictures with known faults: of each fault, how many are caught by a check that is meant for it, left to
 * a person, or missed; and how many good pictures fail. `npx tsx bench/pictures.ts [pictures of each fault]` prints the table.
 */

/** Checks that may catch a fault. */
const meant: Record<PortraitFault | SignatureFault, string[]> = {
  'none': [],
  'blurred': ['blur', 'sharpness', 'detail'],
  'dark': ['exposure'],
  'uneven background': ['backgroundEvenness'],
  'turned': ['upright'],
  'upside down': ['upright'],
  'wrong aspect': ['aspect'],
  'over the limit': ['bytes'],
  'too small': ['width', 'height', 'bytes'],
  'coloured background': ['background'],
  'light from one side': ['sideLight'],
  'grey': ['saturation'],
  'tilted': ['roll'],
  'two faces': ['faces'],
  'small face': ['headHeight'],
  'off centre': ['offCentre'],
  'crown cut': ['crownRoom'],
  'sunglasses': ['eyesUncovered'],
  'eyes closed': ['eyesOpen'],
  'red eyes': ['redEyes'],
  'no portrait': ['faces'],
  'crushed': ['blockiness', 'bytes'],
  'enlarged': ['detail', 'sharpness', 'blur'],
  'shadow on the wall': ['backgroundShadow', 'backgroundEvenness'],
  'blank': ['inkShare'],
  'faint': ['contrast'],
  'scribbled block': ['inkShare', 'strokeWidth'],
  'tiny': ['boxShare', 'inkShare'],
  'cut off': ['cutOff'],
  'print': ['pieces'],
  'portrait': ['saturation', 'strokeWidth', 'inkShare', 'cutOff'],
}

interface Row {
  fault: string
  caught: number
  unsure: number
  missed: number
  other: Map<string, number>
  values: Map<string, number[]>
}

async function tally(
  inspect: Inspector,
  notice: Notice,
  kind: ImageKind,
  fault: PortraitFault | SignatureFault,
  count: number,
  draw: (random: Random) => Promise<Buffer>,
): Promise<Row> {
  const row: Row = { fault: `${kind}: ${fault}`, caught: 0, unsure: 0, missed: 0, other: new Map(), values: new Map() }
  for (let seed = 1; seed <= count; seed += 1) {
    const { findings } = await inspect(await draw(new Random(seed * 7919)), slotOf(notice, kind) as Slot)
    const of = (verdict: string) => findings.filter(f => f.verdict === verdict).map(f => f.code.split('.')[1] ?? '')
    const [failed, doubtful] = [of('fail'), of('unsure')]
    for (const f of findings) {
      const code = f.code.split('.')[1] ?? ''
      if (f.value !== null) row.values.set(code, [...row.values.get(code) ?? [], f.value])
    }
    for (const code of failed) if (!meant[fault].includes(code)) row.other.set(code, (row.other.get(code) ?? 0) + 1)
    const wanted = (codes: string[]) => fault === 'none' ? codes.length > 0 : codes.some(code => meant[fault].includes(code))
    if (wanted(failed)) row.caught += 1
    else if (doubtful.length > 0 && (fault === 'none' || wanted(doubtful))) row.unsure += 1
    else row.missed += 1
  }
  return row
}

const count = Number(process.argv[2] ?? 70)
const verbose = process.argv.includes('--values')
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
if (!notice) throw new Error("the demo's notice has faults")
const inspect = inspectorWith(await openFaceDetector())
const only = process.argv[3] && !process.argv[3].startsWith('--') ? process.argv[3].split(',') : null
console.log('| picture | failed by its check | left to a person | missed | failed by other checks |\n|---|---|---|---|---|')
const print = (row: Row) => {
  console
    .log(`| ${row.fault} | ${row.caught} | ${row.unsure} | ${row.missed} | ${
      [...row.other].map(([code, n]) => `${code} ${n}`).join(', ')
    } |`)
  if (verbose) {
    for (const [code, values] of row.values) {
      console.log(`    ${code}: ${
        [0, 0.05, 0.5, 0.95, 1].map(q =>
          [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(q * values.length))]
        ).join(' ')
      }`)
    }
  }
}
for (const fault of portraitFaults) {
  if (!only || only.includes(fault)) {
    print(await tally(inspect, notice, 'photograph', fault, count, random => drawPortrait(random, fault)))
  }
}
for (const fault of signatureFaults) {
  if (!only || only.includes(`signature ${fault}`)) {
    print(await tally(inspect, notice, 'signature', fault, count, random => drawSignature(random, fault)))
  }
}
