import pictureCode from 'virtual:picture-worker'
import { afterEach, describe, expect, it } from 'vitest'
import { slotOf, type Slot } from '../../core/application/slots'
import { drawCertificate } from '../../demo/documents'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { sampleNotice } from '../../tests/support/sample'
import { inspectorWith, LookEnded, LookWaits } from '../../pictures/inspect'
import { oddPdf } from '../../tests/support/odd-files'
import { boundHolds, pictureLimits, PictureProcesses } from './picture-processes'

const notice = sampleNotice()
const slot = (id: string) => slotOf(notice, id) as Slot

describe('the processes that look at files', () => {
  let processes: PictureProcesses | null = null
  afterEach(() => processes?.close())

  it('answer each asking with its own picture, however many are under way', async () => {
    processes = new PictureProcesses(pictureCode, { ...pictureLimits, patienceSeconds: 100 })
    const seeds = [1, 2, 3, 4, 5, 6]
    const bytes = await Promise.all(seeds.map(seed => drawSignature(new Random(seed), seed % 2 === 0 ? 'blank' : 'none')))
    const found = await Promise.all(bytes.map(one => processes?.inspect(one, slot('signature'))))
    found.forEach((inspection, i) => {
      expect(inspection?.facts.bytes).toBe(bytes[i]?.length)
      expect(inspection?.findings.find(f => f.code === 'signature.inkShare')?.verdict).toBe(i % 2 === 1 ? 'fail' : 'pass')
    })
  })

  it('read PDFs as this thread does', async () => {
    processes = new PictureProcesses(pictureCode)
    const paper = await drawCertificate(new Random(3), 'Category certificate', {
      name: 'Tavirel Osk-Anundé',
      number: 'OI-44719',
      bornOn: '15 June 2004',
    })
    const there = await processes.inspect(paper, slot('category-certificate'))
    const here = await inspectorWith()(paper, slot('category-certificate'))
    expect(there.findings).toEqual(here.findings)
    expect(there.copies.map(({ width, height }) => [width, height])).toEqual(here.copies.map(({ width, height }) => [width, height]))
    await expect(processes.inspect(await oddPdf('script'), slot('category-certificate'))).rejects.toThrow('carries a program')
  })

  it('pass on in words what is no picture, and go on', async () => {
    processes = new PictureProcesses(pictureCode)
    await expect(processes.inspect(Buffer.from('hello'), slot('photograph'))).rejects.toMatchObject({ problem: { kind: 'not-an-image' } })
    const { findings } = await processes.inspect(await drawPortrait(new Random(3), 'none'), slot('photograph'))
    expect(findings.find(f => f.code === 'photograph.faces')?.verdict).toBe('pass')
  })

  const one = { ...pictureLimits, processes: 1 }
  const odd = (act: string) =>
    `process.on('message', ({ id, bytes }) => {
    const say = message => process.send({ id, problem: null, message })
    ${act}
  })`

  it('look at costly files one at a time: nobody waits behind one that never ends', async () => {
    processes = new PictureProcesses(
      odd('if (bytes.length > 10) for (;;); process.send({ id, inspection: { facts: { bytes: bytes.length } } })'),
      { ...pictureLimits, processes: 2, processorSeconds: 1, patienceSeconds: 20 },
    )
    const ended = Promise
      .all([1, 2].map(() =>
        processes?.inspect(Buffer.from('%PDF-1.7 without an end'), slot('identity-proof')).catch((error: unknown) => error)
      ))
    for (let i = 0; i < 4; i += 1) expect((await processes.inspect(Buffer.from('x'), slot('photograph'))).facts.bytes).toBe(1)
    for (const error of await ended) expect(error).toMatchObject({ message: 'computed longer than 1 s' })
  })

  it('that are busy for long let whoever asks know that the file waits', async () => {
    processes = new PictureProcesses(odd('for (;;);'), { ...one, patienceSeconds: 0.2, processorSeconds: 1 })
    const long = processes.inspect(Buffer.from('x'), slot('photograph')).catch((error: unknown) => error)
    await expect(processes.inspect(Buffer.from('y'), slot('photograph'))).rejects.toBeInstanceOf(LookWaits)
    expect(await long).toBeInstanceOf(LookEnded)
  })

  it.each([
    ['dies', 'process.exit(3)', 'ended with 3'],
    ['takes a buffer', 'Buffer.alloc(2 ** 30, 1); say("took it")', ''],
    ['takes WebAssembly memory', 'new Uint8Array(new WebAssembly.Memory({ initial: 16384 }).buffer).fill(1); say("took it")', ''],
    ['takes memory piece by piece', 'const kept = []; for (;;) kept.push(Buffer.alloc(4e6, 1))', ''],
    ['fails without words', 'say("unsound")', 'unsound'],
  ])('are ended with a file that %s, and the next gets a fresh one', async (_, act, why) => {
    processes = new PictureProcesses(
      odd(`if (bytes.length > 1) { ${act} } else process.send({ id, inspection: { facts: { bytes: 1 } } })`),
      one,
    )
    await processes.inspect(Buffer.from('x'), slot('photograph'))
    const [pid] = processes.pids
    const error = await processes.inspect(Buffer.from('xx'), slot('photograph')).catch((caught: unknown) => caught)
    expect(error).toBeInstanceOf(LookEnded)
    expect(String(error)).toContain(why)
    expect(String(error)).not.toContain('took it')
    await processes.inspect(Buffer.from('x'), slot('photograph'))
    expect(processes.pids[0]).not.toBe(pid)
  })

  it('are bound by the operating system here', async () => {
    expect(await boundHolds()).toBe(true)
  })

  it('know nothing of how to reach the database', async () => {
    processes = new PictureProcesses(odd('process.send({ id, inspection: { facts: Object.keys(process.env) } })'), one)
    const { facts } = await processes.inspect(Buffer.from('x'), slot('photograph'))
    expect((facts as unknown as string[]).filter(name => /LUCID|DATABASE|SECRET/.test(name))).toEqual([])
  })
})
