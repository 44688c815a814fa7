import pictureCode from 'virtual:picture-worker'
import { afterEach, describe, expect, it } from 'vitest'
import { imageRuleOf } from '../../core/notice/schema'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { sampleNotice } from '../../tests/support/sample'
import { PictureThreads } from './picture-threads'

const notice = sampleNotice()
const rule = (kind: 'photograph' | 'signature') => imageRuleOf(notice, kind)

describe('the threads of the pictures', () => {
  let threads: PictureThreads | null = null
  afterEach(() => threads?.close())

  it('answer each asking with its own picture, however many are under way', async () => {
    threads = new PictureThreads(pictureCode, 2)
    const seeds = [1, 2, 3, 4, 5, 6]
    const bytes = await Promise.all(seeds.map(seed => drawSignature(new Random(seed), seed % 2 === 0 ? 'blank' : 'none')))
    const found = await Promise.all(bytes.map(one => threads?.inspect(one, 'signature', rule('signature'))))
    found.forEach((inspection, i) => {
      expect(inspection?.facts.bytes).toBe(bytes[i]?.length)
      expect(inspection?.findings.find(f => f.code === 'signature.inkShare')?.verdict).toBe(i % 2 === 1 ? 'fail' : 'pass')
    })
  })

  it('pass on in words what is no picture, and go on', async () => {
    threads = new PictureThreads(pictureCode, 1)
    await expect(threads.inspect(Buffer.from('hello'), 'photograph', rule('photograph'))).rejects.toMatchObject({ problem: { code: 'not-an-image' } })
    const { findings } = await threads.inspect(await drawPortrait(new Random(3), 'none'), 'photograph', rule('photograph'))
    expect(findings.find(f => f.code === 'photograph.faces')?.verdict).toBe('pass')
  })

  it('that die take only their own pictures with them; the next gets a fresh one', async () => {
    threads = new PictureThreads('require("node:worker_threads").parentPort.on("message", ({ id }) => id === 1 ? process.exit(3) : 0)', 1)
    await expect(threads.inspect(Buffer.from('x'), 'photograph', rule('photograph'))).rejects.toThrow('ended with 3')
    await expect(threads.inspect(Buffer.from('x'), 'photograph', rule('photograph'))).rejects.toThrow('ended with 3')
  })
})
