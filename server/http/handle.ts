import { timingSafeEqual } from 'node:crypto'
import { promisify } from 'node:util'
import { gzip, gzipSync } from 'node:zlib'
import { defineEventHandler, getCookie, getHeader, setResponseHeader, setResponseStatus, type H3Event } from 'h3'
import { h } from 'vue'
import { z } from 'zod'
import type { RefusalCode } from '../../core/refusal/codes'
import { languageOf, type Language } from '../../core/words/language'
import { screenText } from '../../core/words/screen-text'
import { ProblemError, problemStatus, type Problem } from '../../shared/problem'
import { refusal } from '../../shared/refusal'
import { candidateOf } from '../services/candidates/look-as'
import { anonymousCaller, type Caller } from '../services/context'
import { liveSession, type LiveSession } from '../services/people/sign-in'
import { sendPage } from '../public/page'
import { newRequestId, runtime } from '../runtime'
import { query } from './input'
import { sessionToken } from './session-cookie'

/** One request, ready for a service: who asks, and typed access to what was sent. */
export interface Request {
  event: H3Event
  caller: Caller
  session: LiveSession | null
}

// An answer is data: opened by itself as a page, it may load nothing and be shown in no frame.
const answerPolicy = "default-src 'none'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'"

interface Options {
  /** Acts of people without a session, such as signing in: only the origin is checked. */ anonymous?: boolean
  /** A question that the office may ask as the candidate of an application, whose id stands in `as`. */ asCandidate?: boolean
}

/**
 * A thin route: finds out who calls, guards against requests forged on other sites, and turns typed problems into
 * answers. Anything else that is thrown is logged with the request's id and answered without its text.
 */
export function route<T>(serve: (request: Request) => T | Promise<T>, options: Options = {}) {
  return defineEventHandler(async (event) => {
    const requestId = requestIdOf(event)
    setResponseHeader(event, 'x-request-id', requestId)
    setResponseHeader(event, 'cache-control', 'no-store')
    const started = performance.now()
    try {
      setResponseHeader(event, 'content-security-policy', answerPolicy)
      const request = await openRequest(event, requestId)
      if (event.method !== 'GET' && event.method !== 'HEAD') guardAgainstForgery(request, options)
      if (options.asCandidate) request.caller = await askedAs(event, request.caller)
      return await packed(event, await serve(request))
    } catch (error) {
      return packed(event, inLanguage(event, answerProblem(event, error, requestId, started)))
    }
  })
}

const pack = promisify(gzip)
/**
 * Answers below this many characters are sent as they are: one piece of the line carries them. Those that hold a session's token are among
 * them.
 */
const packedFrom = 1400
/**
 * An answer to an act comes when there is most to do, and is packed quickly and on the spot: to hand it to another thread and back takes
 * longer. Beyond so many characters it would hold up others.
 */
const quickly = { level: 3, atMost: 100_000 }

// A notice is a quarter of its size when it is packed: on a slow line that is a second.
async function packed<T>(event: H3Event, answer: T): Promise<T | Buffer> {
  const isData = Array.isArray(answer)
    || (typeof answer === 'object' && answer !== null && Object.getPrototypeOf(answer) === Object.prototype)
  if (!isData || !/\bgzip\b/.test(getHeader(event, 'accept-encoding') ?? '')) return answer
  const text = JSON.stringify(answer)
  if (text.length < packedFrom) return answer
  setResponseHeader(event, 'content-type', 'application/json')
  setResponseHeader(event, 'content-encoding', 'gzip')
  setResponseHeader(event, 'vary', 'accept-encoding')
  return event.method !== 'GET' && text.length < quickly.atMost ? gzipSync(text, { level: quickly.level }) : pack(text)
}

/** A page for everybody: what goes wrong is a page, too. */
export function publicRoute(serve: (request: Request & { language: Language }) => Promise<string>) {
  return defineEventHandler(async (event) => {
    const requestId = requestIdOf(event)
    const started = performance.now()
    const language = languageOf(getCookie(event, 'lucid-language'))
    try {
      return await serve({ ...await openRequest(event, requestId), language })
    } catch (error) {
      const { kind, code, parameters } = answerProblem(event, error, requestId, started)
      const text = language.refusals.refusalText(code as RefusalCode, parameters)
      return sendPage(event, language, {
        title: screenText(language, 'house.somethingFailed'),
        body: [h('h1', text), h('p', h('a', { href: '/examinations' }, screenText(language, 'examinations.allExaminations')))],
      }, problemStatus[kind])
    }
  })
}

const lookSchema = z.object({ as: z.uuid().optional() })

async function askedAs(event: H3Event, caller: Caller): Promise<Caller> {
  const { as } = query(event, lookSchema)
  return as === undefined ? caller : candidateOf(caller, as)
}

const uuidText = '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}'
const uuid = new RegExp(`^${uuidText}$`)
// Whatever is asked about one application hangs on who holds it.
const aboutApplication = new RegExp(`^/api/applications/(${uuidText})(?=[/?]|$)`)

// A page that sends an act again after its answer was lost sends the same number: the act is then answered as the first time.
function requestIdOf(event: H3Event): string {
  const given = getHeader(event, 'x-lucid-request') ?? ''
  return uuid.test(given) ? given : newRequestId()
}

async function openRequest(event: H3Event, requestId: string): Promise<Request> {
  const caller = anonymousCaller(runtime().database.db, requestId, languageOf(getCookie(event, 'lucid-language')))
  const token = sessionToken(event)
  const session = token ? await liveSession(caller, token, aboutApplication.exec(event.path)?.[1]) : null
  return { event, caller: session ? caller.as(session.principal, session.holders) : caller, session }
}

// A forged request comes from another origin and cannot know the session's token, which only our pages can read.
function guardAgainstForgery({ event, session }: Request, options: Options): void {
  const origin = getHeader(event, 'origin')
  if (origin && !isOwnOrigin(origin, getHeader(event, 'host'))) throw refusal('session.foreign-origin')
  if (options.anonymous) return
  if (!session) throw refusal('session.over')
  const given = Buffer.from(getHeader(event, 'x-lucid-csrf') ?? '')
  const expected = Buffer.from(session.csrfToken)
  if (given.length !== expected.length || !timingSafeEqual(given, expected)) throw refusal('session.foreign-page')
}

function isOwnOrigin(origin: string, host: string | undefined): boolean {
  try {
    return new URL(origin).host === host
  } catch {
    // "null" and whatever else is no address: another site, or a page that hides where it came from.
    return false
  }
}

/** What the database says of a failure, without the statement and the values that it names. */
interface DatabaseFault {
  code?: string
  constraint?: string
  table?: string
}
// Values that no column takes: out of range, not of the type, no such character (PostgreSQL, appendix A, class 22).
const badValue = new Set(['22003', '22021', '22P02', '22P05', '22007', '22008'])

/** A problem with its sentence in the language that the reader has chosen: pages of candidates have no words for what the office finds. */
function inLanguage(event: H3Event, problem: Problem): Problem {
  const { refusals } = languageOf(getCookie(event, 'lucid-language'))
  return { ...problem, message: refusals.refusalText(problem.code as RefusalCode, problem.parameters) || problem.message }
}

function answerProblem(event: H3Event, error: unknown, requestId: string, started: number) {
  const problem = error instanceof ProblemError ? error : badValue.has(databaseFault(error)?.code ?? '') ? refusal('input.value') : null
  if (problem) {
    const { kind, parameters } = problem.problem
    setResponseStatus(event, problemStatus[kind])
    if (kind === 'too-many' && typeof parameters.seconds === 'number') setResponseHeader(event, 'retry-after', parameters.seconds)
    return problem.problem
  }
  const fault = databaseFault(error)
  console.error(JSON.stringify({
    level: 'error',
    requestId,
    path: event.path.split('?')[0],
    method: event.method,
    milliseconds: Math.round(performance.now() - started),
    // A failed statement carries the values that it was given: people's data, which no log may hold.
    what: fault
      ? `database ${fault.code ?? ''} ${fault.constraint ?? fault.table ?? ''}`.trim()
      : error instanceof Error
      ? `${error.name}: ${error.message}`
      : 'unknown',
    stack: error instanceof Error && !fault ? error.stack : undefined,
  }))
  setResponseStatus(event, 500)
  return refusal('fault', { request: requestId.slice(0, 8) }).problem
}

function databaseFault(error: unknown): DatabaseFault | null {
  for (let at: unknown = error, steps = 0; at instanceof Error && steps < 4; at = at.cause, steps += 1) {
    if ('severity' in at && 'code' in at) return at as DatabaseFault
    if (at.message.startsWith('Failed query')) continue
  }
  return error instanceof Error && error.message.startsWith('Failed query') ? {} : null
}
