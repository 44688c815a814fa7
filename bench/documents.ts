import { slotOf } from '../core/application/slots'
import { readNotice } from '../core/notice/check'
import { drawCertificate, drawIdentityPage, drawScan, harmlessScanFaults, scanFaults, scanPage, type ScanFault } from '../demo/documents'
import { demoNotice } from '../demo/notice'
import { drawPortrait } from '../demo/portraits'
import { Random } from '../demo/random'
import { inspectorWith } from '../pictures/inspect'

/**
 * How the checks do on scans and pictures of papers with known faults, and how long a page takes.
 * `npx tsx bench/documents.ts [papers of each fault and kind]` prints the tables.
 */

/** Checks that may catch a fault. */
const meant: Record<ScanFault, string[]> = {
  'none': [],
  'shadow': [],
  'blurred': ['blur', 'contrast', 'letters', 'legible'],
  'from afar': ['letters', 'contrast', 'blur', 'legible'],
  'askew': ['skew'],
  'sideways': ['sideways'],
  'faint': ['contrast', 'blankPages', 'legible'],
  'blank page': ['blankPages'],
  'coarse': ['resolution', 'letters', 'legible'],
}
const count = Number(process.argv[2] ?? 40)
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
if (!notice) throw new Error("the demo's notice has faults")
const inspect = inspectorWith()
const names = ['Tavirel Osk-Anundé', 'Lorima Quindro', 'Suderin Berlothay', 'वेराणे कोल्मिरा', 'ساريم بالون']

async function paper(kind: 'certificate' | 'identity', fault: ScanFault, seed: number): Promise<Buffer> {
  const random = new Random(seed * 7919)
  const holder = { name: random.pick(names), number: `OI-${random.whole(10_000, 99_999)}`, bornOn: `${random.whole(1, 28)} June 2004` }
  if (kind === 'certificate') return drawScan(random, await drawCertificate(random, 'Certificate of residence', holder), fault)
  return scanPage(random, await drawIdentityPage(await drawPortrait(random, 'none'), 'Seafarer’s book', holder), fault, 220)
}

console.log('| paper | failed by its check | left to a person | missed | failed by other checks |\n|---|---|---|---|---|')
const [took, pages] = [[0], [0]]
for (const [kind, id] of [['certificate', 'category-certificate'], ['identity', 'identity-proof']] as const) {
  const slot = slotOf(notice, id)
  if (!slot) throw new Error(`the notice asks for no ${id}`)
  for (const fault of scanFaults) {
    let [caught, unsure, missed] = [0, 0, 0]
    const other = new Map<string, number>()
    for (let seed = 1; seed <= count; seed += 1) {
      const bytes = await paper(kind, fault, seed)
      const started = performance.now()
      const { findings, copies } = await inspect(bytes, slot)
      took[0] = (took[0] ?? 0) + performance.now() - started
      pages[0] = (pages[0] ?? 0) + copies.length
      const of = (verdict: string) => findings.filter(f => f.verdict === verdict).map(f => f.code.split('.')[1] ?? '')
      const [failed, doubtful] = [of('fail'), of('unsure')]
      for (const code of failed) if (!meant[fault].includes(code)) other.set(code, (other.get(code) ?? 0) + 1)
      const wanted = (codes: string[]) =>
        harmlessScanFaults.includes(fault) ? codes.length > 0 : codes.some(code => meant[fault].includes(code))
      if (wanted(failed)) caught += 1
      else if (wanted(doubtful)) unsure += 1
      else missed += 1
    }
    console.log(`| ${kind}: ${fault} | ${caught} | ${unsure} | ${missed} | ${[...other].map(([code, n]) => `${code} ${n}`).join(', ')} |`)
  }
}
console.log(`\n${pages[0]} pages, ${((took[0] ?? 0) / (pages[0] ?? 1)).toFixed(0)} ms each, one thread, copies for screens made`)
