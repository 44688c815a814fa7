import pictureCode from 'virtual:picture-worker'
import { afterEach, describe, expect, it } from 'vitest'
import { slotOf, type Slot } from '../../core/application/slots'
import { drawCertificate } from '../../demo/documents'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { sampleNotice } from '../../tests/support/sample'
import { inspectorWith } from '../../pictures/inspect'
import { oddPdf } from '../../tests/support/odd-files'
import { PictureThreads } from './picture-threads'

const notice = sampleNotice()
const slot = (id: string) => slotOf(notice, id) as Slot

describe('the threads of the pictures', () => {
  let threads: PictureThreads | null = null
  afterEach(() => threads?.close())

  it('answer each asking with its own picture, however many are under way', async () => {
    threads = new PictureThreads(pictureCode, 2)
    const seeds = [1, 2, 3, 4, 5, 6]
    const bytes = await Promise.all(seeds.map(seed => drawSignature(new Random(seed), seed % 2 === 0 ? 'blank' : 'none')))
    const found = await Promise.all(bytes.map(one => threads?.inspect(one, slot('signature'))))
    found.forEach((inspection, i) => {
      expect(inspection?.facts.bytes).toBe(bytes[i]?.length)
      expect(inspection?.findings.find(f => f.code === 'signature.inkShare')?.verdict).toBe(i % 2 === 1 ? 'fail' : 'pass')
    })
  })

  it('read PDFs as this thread does', async () => {
    threads = new PictureThreads(pictureCode, 1)
    const paper = await drawCertificate(new Random(3), 'Category certificate', { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' })
    const there = await threads.inspect(paper, slot('category-certificate'))
    const here = await inspectorWith()(paper, slot('category-certificate'))
    expect(there.findings).toEqual(here.findings)
    expect(there.copies.map(({ width, height }) => [width, height])).toEqual(here.copies.map(({ width, height }) => [width, height]))
    await expect(threads.inspect(await oddPdf('script'), slot('category-certificate'))).rejects.toThrow('carries a program')
  })

  it('pass on in words what is no picture, and go on', async () => {
    threads = new PictureThreads(pictureCode, 1)
    await expect(threads.inspect(Buffer.from('hello'), slot('photograph'))).rejects.toMatchObject({ problem: { kind: 'not-an-image' } })
    const { findings } = await threads.inspect(await drawPortrait(new Random(3), 'none'), slot('photograph'))
    expect(findings.find(f => f.code === 'photograph.faces')?.verdict).toBe('pass')
  })

  it('with nothing to do are asked first: nobody waits behind a long look while a thread stands idle', async () => {
    threads = new PictureThreads(`const { parentPort } = require('node:worker_threads')
      parentPort.on('message', ({ id, bytes }) => {
        if (bytes.length > 1) Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0)
        parentPort.postMessage({ id, problem: null, message: 'answered' })
      })`, 2)
    const long = threads.inspect(Buffer.from('long'), slot('photograph')).catch((error: Error) => error.message)
    for (let i = 0; i < 4; i += 1) await expect(threads.inspect(Buffer.from('x'), slot('photograph'))).rejects.toThrow('answered')
    await threads.close()
    expect(await long).toContain('ended with')
  })

  it('that die take only their own pictures with them; the next gets a fresh one', async () => {
    threads = new PictureThreads('require("node:worker_threads").parentPort.on("message", ({ id }) => id === 1 ? process.exit(3) : 0)', 1)
    await expect(threads.inspect(Buffer.from('x'), slot('photograph'))).rejects.toThrow('ended with 3')
    await expect(threads.inspect(Buffer.from('x'), slot('photograph'))).rejects.toThrow('ended with 3')
  })
})
