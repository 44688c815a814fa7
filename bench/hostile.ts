import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { PDFDocument, PDFName } from 'pdf-lib'
import sharp from 'sharp'
import { imageSlot, slotOf, type Slot } from '../core/application/slots'
import { readNotice } from '../core/notice/check'
import { imageRuleOf } from '../core/notice/image-rules'
import { demoNotice } from '../demo/notice'
import { drawPortrait } from '../demo/portraits'
import { Random } from '../demo/random'
import { bundledWorker } from '../scripts/lib/worker-as-text.mjs'
import { PictureProcesses } from '../server/workers/picture-processes'
import { spread } from './database'

/**
 * Good photographs while costly files arrive: `npx tsx bench/hostile.ts`. Twenty files that cost all that the door lets in, at once: ten
 * PNGs of 39.7 megapixels and 16 bits, ten PDFs of as many curves as a PDF may hold; meanwhile a good photograph every half second. The
 * ratio is to the same photographs with nobody else there.
 */
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
if (!notice) throw new Error("the demo's notice has faults")
const photograph = imageSlot('photograph', imageRuleOf(notice, 'photograph'))
const paper = slotOf(notice, 'identity-proof') as Slot

async function curves(count: number): Promise<Buffer> {
  const file = await PDFDocument.create()
  const page = file.addPage([600, 800])
  const line = (i: number) => `${i % 600} ${(i * 7) % 800} ${(i * 13) % 600} ${i % 800} ${(i * 3) % 600} ${(i * 5) % 800}`
  page.node.set(
    PDFName.of('Contents'),
    file.context.register(file.context.flateStream(`0 0 m ${Array.from({ length: count }, (_, i) => `${line(i)} c`).join('\n')} S`)),
  )
  return Buffer.from(await file.save())
}

const wide = await sharp({ create: { width: 6300, height: 6300, channels: 3, background: '#8090a0' } }).toColourspace('rgb16').png({
  compressionLevel: 9,
}).toBuffer()
const drawing = await curves(118_000)
const costly: [Buffer, Slot][] = Array.from({ length: 20 }, (_, i) => i % 2 === 0 ? [wide, photograph] : [drawing, paper])
const good = await Promise.all(Array.from({ length: 30 }, (_, i) => drawPortrait(new Random(i * 97 + 1), 'none')))
const processes = new PictureProcesses(await bundledWorker('server/workers/picture.worker.ts'))

const resident = (pid: number) => {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096 / 1e6
  } catch {
    return 0
  }
}
let most = 0
const all = () => resident(process.pid) + processes.pids.reduce((sum, pid) => sum + resident(pid), 0)

async function photographs(): Promise<number[]> {
  return Promise.all(good.map(async (bytes, i) => {
    await pause(i * 500)
    const started = performance.now()
    await processes.inspect(bytes, photograph)
    return performance.now() - started
  }))
}

await photographs()
const [idle, alone] = [all(), spread(await photographs())]
const watch = setInterval(() => {
  most = Math.max(most, all())
}, 20)
const ends = new Map<string, number>()
const others = Promise.all(costly.map(async ([bytes, slot]) => {
  const end = await processes.inspect(bytes, slot).then(() => 'measured', (error: Error) => error.message.slice(0, 60))
  ends.set(end, (ends.get(end) ?? 0) + 1)
}))
const beside = spread(await photographs())
await others
clearInterval(watch)
console.log(`PNG of ${(wide.length / 1e3).toFixed(0)} KB, PDF of ${(drawing.length / 1e6).toFixed(1)} MB\n`)
console.log('| good photographs | median, ms | 95 of 100 | longest |\n|---|---|---|---|')
console
  .log(`| alone | ${alone.median} | ${alone.most} | ${alone.longest} |\n| beside 20 costly files | ${beside.median} | ${beside.most} | ${beside.longest} |`)
console
  .log(`\nAll processes together: ${idle.toFixed(0)} MB idle, ${most.toFixed(0)} MB at most. Ratio of the 95th: ${
    (Number(beside.most) / Number(alone.most)).toFixed(2)
  }`)
for (const [end, n] of ends) console.log(`costly files: ${n} ${end}`)
await processes.close()
