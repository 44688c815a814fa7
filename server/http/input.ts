import { mkdtemp, open, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { getHeader, getQuery, getRouterParam, readRawBody, type H3Event } from 'h3'
import type { z } from 'zod'
import type { ProblemError } from '../../shared/problem'
import { refusal } from '../../shared/refusal'

/** Bounds of a JSON body: bytes, and levels of nesting. */
const bodyAtMost = 1024 * 1024
const levelsAtMost = 64

/** The JSON body, checked; a body of another shape is refused with its first fault. `most` is in bytes. */
export async function body<T>(event: H3Event, schema: z.ZodType<T>, most = bodyAtMost): Promise<T> {
  const declared = Number(getHeader(event, 'content-length') ?? 0)
  if (declared > most) throw refusal('input.body', { most: Math.round(most / 1024) })
  const text = (await limitedBytes(event, most, () => refusal('input.body', { most: Math.round(most / 1024) }))).toString('utf8')
  return checked(schema, parsedJson(text))
}

function parsedJson(text: string): unknown {
  if (text === '') return undefined
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw refusal('input.json')
  }
  refuseBadText(value, 'request', 0)
  return value
}

// PostgreSQL keeps no NUL in a text, and half of a surrogate pair is no character (The Unicode Standard, section 3.9, D92).
function refuseBadText(value: unknown, place: string, level: number): void {
  if (level > levelsAtMost) throw refusal('input.depth', { most: levelsAtMost })
  if (typeof value === 'string') {
    if (value.includes('\0') || !isWellFormed(value)) throw refusal('input.text', { place })
  } else if (typeof value === 'object' && value !== null) {
    for (const [key, inner] of Object.entries(value)) {
      refuseBadText(key, place, level + 1)
      refuseBadText(inner, place === 'request' ? key : `${place}.${key}`, level + 1)
    }
  }
}

const isWellFormed = (text: string) => !/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/.test(text)

function checked<T>(schema: z.ZodType<T>, value: unknown): T {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const [issue] = parsed.error.issues
  throw refusal('input.shape', { place: issue?.path.join('.') || 'request', fault: issue?.message ?? '' })
}

const formAtMost = 8192

/**
 * A form as a page without scripts sends it (WHATWG URL, 5: application/x-www-form-urlencoded), checked; of a field that comes twice the
 * last counts.
 */
export async function formBody<T>(event: H3Event, schema: z.ZodType<T>, most = formAtMost): Promise<T> {
  const text = (await limitedBytes(event, most, () => refusal('input.body', { most: Math.round(most / 1024) }))).toString('utf8')
  const value = Object.fromEntries(new URLSearchParams(text))
  refuseBadText(value, 'request', 0)
  return checked(schema, value)
}

/** The query, checked. */
export function query<T>(event: H3Event, schema: z.ZodType<T>): T {
  const value: unknown = getQuery(event)
  refuseBadText(value, 'request', 0)
  return checked(schema, value)
}

const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/

/** A header that holds JSON, checked; undefined when it is not there. */
export function jsonHeader<T>(value: string | undefined, schema: z.ZodType<T>): T | undefined {
  if (value === undefined) return undefined
  try {
    return schema.parse(parsedJson(value))
  } catch {
    throw refusal('input.header')
  }
}

/** A path parameter that must be an id. */
export function idParam(event: H3Event, name = 'id'): string {
  const value = textParam(event, name)
  if (!uuid.test(value)) throw refusal('input.id', { value: value.slice(0, 60) })
  return value
}

/** A path parameter as text, decoded. */
export function textParam(event: H3Event, name: string): string {
  let text: string
  try {
    text = decodeURIComponent(getRouterParam(event, name) ?? '')
  } catch {
    throw refusal('input.address')
  }
  refuseBadText(text, name, 0)
  return text
}

/** A path parameter that must be one of a few words. */
export function oneOfParam<T extends string>(event: H3Event, name: string, allowed: readonly T[]): T {
  const value = textParam(event, name)
  const found = allowed.find(word => word === value)
  if (found === undefined) throw refusal('input.word', { value: value.slice(0, 60), allowed: allowed.join(', ') })
  return found
}

/**
 * An upload that sends nothing for so long, or fewer bytes a second on the whole after a while, is ended: it holds a place that others
 * need. A telephone at the edge of its network sends some thousands.
 */
export const slowest = { idleMilliseconds: 20_000, graceMilliseconds: 30_000, bytesASecond: 400 }

/**
 * Reads a binary body up to a limit. Of a longer one nothing is kept, but it is let run out (to three times the limit):
 * a browser whose sending is cut off never shows the answer that says why.
 *
 * @throws ProblemError for one that is too long, breaks off or trickles.
 */
export async function limitedBytes(
  event: H3Event,
  limit: number,
  tooLong: (bytes: number) => ProblemError,
  least = slowest,
): Promise<Buffer> {
  const parts: Buffer[] = []
  await pour(event, limit, tooLong, part => parts.push(part), least)
  return Buffer.concat(parts)
}

/**
 * The same for a body that is too large to be held: it is written to the disk as it comes, and taken away once `use` is done with it.
 *
 * @param use is given where it lies.
 */
export async function limitedFile<T>(
  event: H3Event,
  limit: number,
  tooLong: (bytes: number) => ProblemError,
  use: (path: string) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'lucid-upload-'))
  try {
    const path = join(folder, 'body')
    const file = await open(path, 'wx', 0o600)
    try {
      await pour(event, limit, tooLong, part => file.write(part))
    } finally {
      await file.close()
    }
    return await use(path)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

async function pour(
  event: H3Event,
  limit: number,
  tooLong: (bytes: number) => ProblemError,
  take: (part: Buffer) => unknown,
  least = slowest,
): Promise<void> {
  const declared = Number(getHeader(event, 'content-length') ?? 0)
  // A request made inside the server has no stream; its body is read as it is.
  if (!event.node.req.readable) {
    await take(Buffer.from(await readRawBody(event, false) ?? Buffer.alloc(0)))
    return
  }
  const began = Date.now()
  let length = 0
  const trickled = refusal('input.upload-slow', { least: least.bytesASecond })
  let timer = setTimeout(() => event.node.req.destroy(trickled), least.idleMilliseconds)
  try {
    for await (const part of event.node.req) {
      clearTimeout(timer)
      timer = setTimeout(() => event.node.req.destroy(trickled), least.idleMilliseconds)
      const chunk = Buffer.from(part as Buffer)
      length += chunk.length
      if (length > limit * 3) break
      if (length <= limit && declared <= limit) await take(chunk)
      const seconds = (Date.now() - began) / 1000
      if (seconds * 1000 > least.graceMilliseconds && length / seconds < least.bytesASecond) throw trickled
    }
  } finally {
    clearTimeout(timer)
  }
  if (length > limit) throw tooLong(Math.max(length, declared))
  if (length < declared) throw refusal('input.upload-broken', { got: length, declared })
}
