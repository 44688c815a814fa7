import { setTimeout as pause } from 'node:timers/promises'
import { bundledWorker } from '../scripts/lib/worker-as-text.mjs'
import sharp from 'sharp'
import { imageSlot } from '../core/application/slots'
import { imageRuleOf } from '../core/notice/image-rules'
import { readNotice } from '../core/notice/check'
import { demoNotice } from '../demo/notice'
import { drawPortrait, portraitFaults } from '../demo/portraits'
import { Random } from '../demo/random'
import { measuredSide } from '../core/imaging/picture'
import { PictureProcesses, pictureLimits } from '../server/workers/picture-processes'
import type { ImageRule } from '../core/notice/file-rules'

/**
 * Pictures a second, and memory: `npx tsx bench/pictures-speed.ts [pictures for the memory]`. Two at a time, in two threads as the office
 * has them. The ratio is to decoding and shrinking the same files with sharp alone, in turns in the same run, so that a noisy machine hits
 * both alike.
 */
const memoryCount = Number(process.argv[2] ?? 0)
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
if (!notice) throw new Error("the demo's notice has faults")
const rule = imageRuleOf(notice, 'photograph')
sharp.concurrency(1)
sharp.cache(false)

/** What any taker of uploads does: an upright copy for screens, and the small one that would be looked at. */
const shrinkOnly = async (bytes: Buffer) => {
  const upright = sharp(bytes, { failOn: 'warning' }).autoOrient().flatten({ background: '#ffffff' }).toColourspace('srgb')
  await upright.clone().resize({ width: measuredSide, height: measuredSide, fit: 'inside', withoutEnlargement: true }).removeAlpha().raw()
    .toBuffer()
  await upright.clone().resize({ width: 900, height: 900, fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 88 }).toBuffer()
}

async function twoAtATime<T>(list: T[], act: (one: T) => Promise<unknown>): Promise<number> {
  const started = performance.now()
  let next = 0
  const worker = async () => {
    while (next < list.length) await act(list[next++] as T)
  }
  await Promise.all([worker(), worker()])
  return (performance.now() - started) / 1000
}

const draw = async (count: number, side: number | null) =>
  Promise.all(Array.from({ length: count }, async (_, i) => {
    const bytes = await drawPortrait(
      new Random(i * 97 + 1),
      portraitFaults[i % 8 === 0 ? 1 + (i / 8) % (portraitFaults.length - 1) : 0] ?? 'none',
    )
    return side ? sharp(bytes).resize(side, Math.round(side * 4 / 3), { fit: 'fill' }).jpeg({ quality: 90 }).toBuffer() : bytes
  }))

async function compare(what: string, files: Buffer[], rules: ImageRule): Promise<void> {
  const look = (bytes: Buffer) => threads.inspect(bytes, imageSlot('photograph', rules))
  await twoAtATime(files.slice(0, 4), look)
  const [base, ours] = [[], []] as [number[], number[]]
  for (let round = 0; round < 3; round += 1) {
    base.push(await twoAtATime(files, shrinkOnly))
    ours.push(await twoAtATime(files, look))
  }
  const [a, b] = [Math.min(...base), Math.min(...ours)]
  console.log(`| ${what} | ${(files.length / a).toFixed(0)} | ${(files.length / b).toFixed(0)} | ${(b / a).toFixed(2)} |`)
}

const threads = new PictureProcesses(await bundledWorker('server/workers/picture.worker.ts'), {
  ...pictureLimits,
  processes: 2,
  costly: 2,
  patienceSeconds: 600,
})
const { face: _face, ...faceless } = rule
const small = await draw(60, null)
if (memoryCount === 0) {
  console.log('| files | shrunk only, a second | checked, a second | ratio |\n|---|---|---|---|')
  const large = await draw(12, 3000)
  await compare('60 of 420 × 540, no face', small, faceless)
  await compare('12 of 12 megapixels, no face', large, faceless)
  await compare('60 of 420 × 540, with the face', small, rule)
  await compare('12 of 12 megapixels, with the face', large, rule)
}

if (memoryCount > 0) {
  const [what, rules] = process.argv.includes('--no-face') ? ['without', faceless] as const : ['with', rule] as const
  console.log(`memory over ${memoryCount} pictures ${what} the face, in MB:`)
  let seen = 0
  for (let done = 0; done < memoryCount; done += 500) {
    for (let i = 0; i < 500; i += 60) {
      await twoAtATime(small.slice(0, Math.min(60, 500 - i)), bytes => threads.inspect(bytes, imageSlot('photograph', rules)))
    }
    seen += 500
    await pause(10)
    console.log(`${seen}: ${(process.memoryUsage.rss() / 2 ** 20).toFixed(0)}`)
  }
}
await threads.close()
