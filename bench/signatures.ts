import { readNotice } from '../core/notice/check'
import { demoNotice } from '../demo/notice'
import { Random } from '../demo/random'
import { inspectorWith } from '../pictures/inspect'
import { slotOf } from '../core/application/slots'
import { madeFaults, makeSignature } from './made-signatures'

/**
 * What the checks make of signatures with one known fault each: `npx tsx bench/signatures.ts [of each fault] [seed] [FONT…]`. FONT: files
 * of faces like handwriting, in which part of the names is written. Size and shape of the file, and how much of it the ink fills, are left
 * out: the pictures are not cut yet, and making them fit does that.
 */
const [count, seed, ...fonts] = [Number(process.argv[2] ?? 40), Number(process.argv[3] ?? 1), ...process.argv.slice(4)]
const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
const slot = notice && slotOf(notice, 'signature')
if (!slot) throw new Error("the demo's notice asks for no signature")
const inspect = inspectorWith()
const ofTheFile = ['bytes', 'width', 'height', 'aspect', 'format', 'boxShare']

console.log('| signature | failed | left to a person | passed | by |\n|---|---|---|---|---|')
for (const fault of madeFaults) {
  const [verdicts, by] = [{ fail: 0, unsure: 0, pass: 0 }, new Map<string, number>()]
  for (let i = 0; i < count; i += 1) {
    const { findings } = await inspect(await makeSignature(new Random(seed * 100_003 + i), fault, fonts), slot)
    const open = findings.map(f => ({ verdict: f.verdict, code: f.code.split('.')[1] ?? '' })).filter(({ verdict, code }) =>
      verdict !== 'pass' && !ofTheFile.includes(code)
    )
    for (const { code } of open) by.set(code, (by.get(code) ?? 0) + 1)
    verdicts[open.some(f => f.verdict === 'fail') ? 'fail' : open.length > 0 ? 'unsure' : 'pass'] += 1
  }
  console.log(`| ${fault} | ${Object.values(verdicts).join(' | ')} | ${[...by].map(([code, n]) => `${code} ${n}`).join(', ')} |`)
}
