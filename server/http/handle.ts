import { randomUUID, timingSafeEqual } from 'node:crypto'
import {
  defineEventHandler, getCookie, getHeader, getRequestIP, getRouterParam, getValidatedQuery, readBody, setResponseHeader, setResponseStatus, type H3Event,
} from 'h3'
import type { z } from 'zod'
import { ProblemError, problemStatus } from '../../shared/problem'
import { liveSession } from '../services/people/sign-in'
import type { Context } from '../services/context'
import { newRequestId, runtime } from '../runtime'

/** Name of the session cookie. */
export const sessionCookie = 'lucid-session'

/** One request, ready for a service: who asks, the database, and typed access to what was sent. */
export interface Request { event: H3Event, context: Context, csrfToken: string | null }

interface Options { /** Acts of people without a session, such as signing in: only the origin is checked. */ anonymous?: boolean }

/**
 * A thin route: opens the context, guards against requests forged on other sites, and turns typed problems into
 * answers. Anything else that is thrown is logged with the request's id and answered without its text.
 */
export function route<T>(serve: (request: Request) => Promise<T>, options: Options = {}) {
  return defineEventHandler(async (event) => {
    const requestId = newRequestId()
    setResponseHeader(event, 'x-request-id', requestId)
    setResponseHeader(event, 'cache-control', 'no-store')
    const started = performance.now()
    try {
      const request = await openRequest(event, requestId)
      if (event.method !== 'GET' && event.method !== 'HEAD') guardAgainstForgery(request, options)
      return await serve(request)
    } catch (error) {
      return answerProblem(event, error, requestId, started)
    }
  })
}

async function openRequest(event: H3Event, requestId: string): Promise<Request> {
  const bare: Context = { db: runtime().database.db, actor: null, now: () => new Date(), newId: randomUUID, requestId }
  const token = getCookie(event, sessionCookie)
  const session = token ? await liveSession(bare, token) : null
  return { event, context: { ...bare, actor: session?.actor ?? null }, csrfToken: session?.csrfToken ?? null }
}

// A forged request comes from another origin and cannot know the session's token, which only our pages can read.
function guardAgainstForgery(request: Request, options: Options): void {
  const { event } = request
  const origin = getHeader(event, 'origin')
  const host = getHeader(event, 'host')
  if (origin && new URL(origin).host !== host) throw new ProblemError('not-allowed', 'The request came from another site. Nothing was changed.')
  if (options.anonymous) return
  if (!request.csrfToken) throw new ProblemError('not-signed-in', 'Your session is over. Sign in again; what is on this screen stays here until then.')
  const given = Buffer.from(getHeader(event, 'x-lucid-csrf') ?? '')
  const expected = Buffer.from(request.csrfToken)
  if (given.length !== expected.length || !timingSafeEqual(given, expected)) {
    throw new ProblemError('not-allowed', 'The request did not come from a page of this session. Load the page anew. Nothing was changed.')
  }
}

function answerProblem(event: H3Event, error: unknown, requestId: string, started: number) {
  if (error instanceof ProblemError) {
    setResponseStatus(event, problemStatus[error.problem.code])
    return error.problem
  }
  console.error(JSON.stringify({
    level: 'error', requestId, path: event.path.split('?')[0], method: event.method, milliseconds: Math.round(performance.now() - started),
    what: error instanceof Error ? `${error.name}: ${error.message}` : 'unknown', stack: error instanceof Error ? error.stack : undefined,
  }))
  setResponseStatus(event, 500)
  return { code: 'fault', message: `Something failed on our side; nothing was half done. Try again; if it stays, tell the office the number ${requestId.slice(0, 8)}.` }
}

/** The JSON body, checked; a body of another shape is refused with the first fault. */
export async function body<T>(event: H3Event, schema: z.ZodType<T>): Promise<T> {
  const parsed = schema.safeParse(await readBody(event).catch(() => undefined))
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]
  throw new ProblemError('bad-input', `${issue?.path.join('.') || 'The request'}: ${issue?.message ?? 'cannot be read'}. Nothing was changed.`)
}

/** The query, checked. */
export function query<T>(event: H3Event, schema: z.ZodType<T>): Promise<T> {
  return getValidatedQuery(event, (value) => {
    const parsed = schema.safeParse(value)
    if (parsed.success) return parsed.data
    throw new ProblemError('bad-input', `${parsed.error.issues[0]?.path.join('.')}: ${parsed.error.issues[0]?.message}.`)
  }).catch((error: { cause?: unknown }) => { throw error.cause instanceof ProblemError ? error.cause : error })
}

const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/

/** A header that holds JSON, checked; undefined when it is not there. */
export function jsonHeader<T>(value: string | undefined, schema: z.ZodType<T>): T | undefined {
  if (value === undefined) return undefined
  try {
    return schema.parse(JSON.parse(value))
  } catch {
    throw new ProblemError('bad-input', 'What the page says of the picture cannot be read. Load the page anew and send the picture again; nothing was changed.')
  }
}

/** A path parameter that must be an id. */
export function idParam(event: H3Event, name = 'id'): string {
  const value = getRouterParam(event, name) ?? ''
  if (!uuid.test(value)) throw new ProblemError('not-found', `"${value.slice(0, 60)}" is not an id. The link may be cut short.`)
  return value
}

/** A path parameter as text, decoded. */
export function textParam(event: H3Event, name: string): string {
  return decodeURIComponent(getRouterParam(event, name) ?? '')
}

export function addressOf(event: H3Event): string {
  // Not X-Forwarded-For: anybody can write that.
  return getRequestIP(event) ?? 'unknown'
}

/** A path parameter that must be one of a few words. */
export function oneOfParam<T extends string>(event: H3Event, name: string, allowed: readonly T[]): T {
  const value = textParam(event, name)
  const found = allowed.find(one => one === value)
  if (found === undefined) throw new ProblemError('not-found', `"${value.slice(0, 60)}" is not one of ${allowed.join(', ')}.`)
  return found
}

/**
 * Reads a binary body up to a limit. Of a longer one nothing is kept, but it is let run out (to three times the limit):
 * a browser whose sending is cut off never shows the answer that says why.
 */
export async function limitedBytes(event: H3Event, limit: number, refusal: (bytes: number) => ProblemError): Promise<Buffer> {
  const declared = Number(getHeader(event, 'content-length') ?? 0)
  const parts: Buffer[] = []
  let length = 0
  for await (const part of event.node.req) {
    const chunk = part as Buffer
    length += chunk.length
    if (length > limit * 3) break
    if (length <= limit && declared <= limit) parts.push(chunk)
  }
  if (length > limit) throw refusal(Math.max(length, declared))
  if (length < declared) throw new ProblemError('bad-input', `The upload broke off after ${length} of ${declared} bytes. Send it again; the picture before, if any, is kept.`)
  return Buffer.concat(parts)
}
