import { Readable } from 'node:stream'
import { createEvent } from 'h3'
import type { IncomingMessage, ServerResponse } from 'node:http'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { refusal as refuse } from '../../shared/refusal'
import { formBody, jsonHeader, limitedBytes } from './input'

/** An upload that says it has so many bytes, and sends these. */
const upload = (declared: number, parts: Buffer[]) =>
  createEvent(
    Object.assign(Readable.from(parts), {
      headers: { 'content-length': String(declared) },
      method: 'PUT',
      url: '/',
    }) as unknown as IncomingMessage,
    {} as ServerResponse,
  )
const refusal = (bytes: number) => refuse('input.word', { value: `${bytes} are too many`, allowed: 'fewer' })

describe('an upload', () => {
  it('that comes whole is given whole', async () => {
    expect((await limitedBytes(upload(6, [Buffer.from('abc'), Buffer.from('def')]), 10, refusal)).toString()).toBe('abcdef')
  })

  it('that breaks off half-way is refused in words, so that nothing half is kept', async () => {
    await expect(limitedBytes(upload(600, [Buffer.alloc(250)]), 1000, refusal)).rejects
      .toThrow('broke off after 250 of 600 bytes. Send it again')
  })

  it('that is too long is refused with its length, declared or not', async () => {
    await expect(limitedBytes(upload(30, [Buffer.alloc(30)]), 20, refusal)).rejects.toThrow('30 are too many')
    await expect(limitedBytes(upload(0, [Buffer.alloc(15), Buffer.alloc(15)]), 20, refusal)).rejects.toThrow('30 are too many')
  })
})

describe('an upload that trickles', () => {
  const least = { idleMilliseconds: 80, graceMilliseconds: 100, bytesASecond: 400 }
  const trickle = (everyMilliseconds: number) =>
    Object.assign(
      Readable.from((async function*() {
        for (let i = 0; i < 40; i += 1) {
          await new Promise(done => setTimeout(done, everyMilliseconds))
          yield Buffer.from('x')
        }
      })()),
      { headers: { 'content-length': '40' }, method: 'PUT', url: '/' },
    )
  it.each([['stands still', 300], ['comes drop by drop', 20]])('and %s is ended in words', async (_, every) => {
    const event = createEvent(trickle(every) as unknown as IncomingMessage, {} as ServerResponse)
    await expect(limitedBytes(event, 1000, refusal, least)).rejects.toThrow('came too slowly')
  })
})

describe('a form without scripts', () => {
  const schema = z.object({ number: z.string().max(10), proof: z.string().default('') })
  const sent = (text: string) => formBody(upload(0, [Buffer.from(text)]), schema, 100)
  it('is read, and refused in words when it is too long, holds no text, or another shape', async () => {
    expect(await sent('number=A+1&proof=29%20f%C3%A9v&more=x')).toEqual({ number: 'A 1', proof: '29 fév' })
    for (const bad of [`number=${'x'.repeat(200)}`, 'number=a%00b', 'proof=x', `number=${'x'.repeat(11)}`]) {
      await expect(sent(bad)).rejects.toMatchObject({ problem: { code: expect.stringMatching(/^input\.(body|text|shape)$/) as string } })
    }
  })
})

describe('a header that holds JSON', () => {
  const schema = z.strictObject({ n: z.int() })
  it('is checked, and may be absent', () => {
    expect(jsonHeader('{"n":3}', schema)).toEqual({ n: 3 })
    expect(jsonHeader(undefined, schema)).toBeUndefined()
    for (const bad of ['{"n":"x"}', 'nonsense', '{"n":1,"more":2}']) expect(() => jsonHeader(bad, schema)).toThrow('cannot be read')
  })
})
