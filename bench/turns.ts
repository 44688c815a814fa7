import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { measurePage } from '../core/documents/page'
import { Random } from '../demo/random'
import { decodePage } from '../pictures/decode'
import { drawMadePage, pageKinds, takeMadePage, type Face } from './made-pages'

/**
 * Which way up made pages are told to lie: `npx tsx bench/turns.ts [pages] [seed] [FACES.json]`, each page in all four turns. FACES.json
 * lists script and file of faces that were kept from the learning; without it the product's own faces are taken, which were not.
 */
const [count, seed, list] = [Number(process.argv[2] ?? 500), Number(process.argv[3] ?? 2027), process.argv[4]]
const own = (path: string) => join('node_modules/@expo-google-fonts', path)
const faces = list && existsSync(list) ? JSON.parse(readFileSync(list, 'utf8')) as Face[] : [
  { script: 'latin', font: own('source-serif-4/600SemiBold/SourceSerif4_600SemiBold.ttf') },
  { script: 'latin', font: 'Courier', isFixed: true },
  { script: 'devanagari', font: own('noto-sans-devanagari/500Medium/NotoSansDevanagari_500Medium.ttf') },
  { script: 'arabic', font: own('noto-naskh-arabic/500Medium/NotoNaskhArabic_500Medium.ttf') },
] satisfies Face[]

const random = new Random(seed)
type Tally = Record<'lines right' | 'lines unsure' | 'lines wrong' | 'up right' | 'up unsure' | 'up wrong', number>
const none = (): Tally => ({ 'lines right': 0, 'lines unsure': 0, 'lines wrong': 0, 'up right': 0, 'up unsure': 0, 'up wrong': 0 })
const tallies = new Map<string, Tally>()
let milliseconds = 0
for (let i = 0; i < count; i += 1) {
  const [face, kind] = [faces[i % faces.length], pageKinds[Math.floor(i / faces.length) % pageKinds.length]]
  if (!face || !kind) throw new Error('there are no faces')
  const pdf = await drawMadePage(random, kind, face)
  const at = new Random(random.whole(1, 1e9))
  for (const turn of [0, 90, 180, 270]) {
    const { pixels } = await decodePage(await takeMadePage(at, pdf, turn), 2000)
    const started = performance.now()
    const told = measurePage(pixels)
    milliseconds += performance.now() - started
    const lines = told.sideways === null ? 'unsure' : told.sideways === (turn % 180 === 90) ? 'right' : 'wrong'
    const up = told.turn === null ? 'unsure' : told.turn === (360 - turn) % 360 ? 'right' : 'wrong'
    for (const key of ['all', `kind: ${kind}`, `script: ${face.script}`]) {
      const tally = tallies.get(key) ?? none()
      tally[`lines ${lines}`] += 1
      tally[`up ${up}`] += 1
      tallies.set(key, tally)
    }
    if (lines === 'wrong' || up === 'wrong') {
      console
        .error(`page ${i}, ${kind}, ${
          face.font.split('/').at(-1)
        }, turned by ${turn}: sideways ${told.sideways}, turn ${told.turn}, letters ${told.letters}`)
    }
  }
}
console.log(`| ${['pages', ...Object.keys(none())].join(' | ')} |\n|${'---|'.repeat(7)}`)
for (const [key, tally] of [...tallies].sort(([a], [b]) => a.localeCompare(b))) {
  console.log(`| ${[key, ...Object.values(tally)].join(' | ')} |`)
}
console.log(`${(milliseconds / count / 4).toFixed(0)} ms a page`)
