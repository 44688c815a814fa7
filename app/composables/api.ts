import type { RefusalCode, RefusalReason } from '~~/core/refusal/codes'
import type { SignedInView } from '~~/shared/people'
import { ProblemError, readProblem } from '~~/shared/problem'

interface Call {
  method?: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
  body?: unknown
  bytes?: Blob
  headers?: Record<string, string>
  query?: Record<string, string | number | readonly string[] | undefined>
}

/**
 * One call to the server. Answers the data, or throws a `ProblemError` whose message may be shown as it is; a broken
 * connection becomes one too, so that no screen has to tell kinds of failure apart.
 */
export async function callApi<T>(path: string, call: Call = {}): Promise<T> {
  const early = asked.get(path)
  if (early && (call.method ?? 'GET') === 'GET') {
    asked.delete(path)
    return early as Promise<T>
  }
  const session = useSessionStore()
  const isQuestion = (call.method ?? 'GET') === 'GET'
  const url = new URL(path, window.location.origin)
  if (session.looksAs !== null) {
    // Whoever looks as somebody else changes nothing in their place.
    if (!isQuestion) throw pageRefusal({ code: 'look.no-act', parameters: {} })
    if (/^\/api\/(applications\/|own$|own\/letters\?)/.test(path)) url.searchParams.set('as', session.looksAs)
  }
  for (const [name, value] of Object.entries(call.query ?? {})) {
    if (Array.isArray(value)) { for (const one of value) url.searchParams.append(name, String(one)) }
    else if (value !== undefined && value !== '') url.searchParams.set(name, String(value))
  }
  const headers: Record<string, string> = { 'x-lucid-csrf': session.csrfToken ?? '', ...call.headers }
  if (call.body !== undefined) headers['content-type'] = 'application/json'
  if (call.bytes) headers['content-type'] = 'application/octet-stream'
  let response: Response
  try {
    response = await fetch(url, {
      method: call.method ?? 'GET',
      headers,
      body: call.bytes ?? (call.body === undefined ? undefined : JSON.stringify(call.body)),
    })
  } catch {
    const kept = isQuestion && isKept(path) ? await (await useOffline()).keptAnswer(path) : null
    if (!kept) throw pageRefusal({ code: 'office.unreachable', parameters: {} })
    keptSince.value = kept.at
    return kept.data as T
  }
  keptSince.value = null
  followServer(response.headers.get('date'))
  const data: unknown = await response.json().catch(() => null)
  if (response.ok) {
    // Only what is a candidate's own; the office's machines keep nothing of anybody.
    if (isQuestion && isKept(path)) {
      void (path === '/api/session' ? Promise.resolve((data as Session | null)?.principal) : whoAsks()).then(who =>
        isOfCandidate(who) ? useOffline().then(offline => offline.keepAnswer(path, data)) : undefined
      )
    }
    return data as T
  }
  const problem = readProblem(data)
  if (!problem) throw pageRefusal({ code: 'office.answer', parameters: { status: response.status } })
  if (problem.kind === 'not-signed-in' && session.principal) {
    session.expired = true
    forgetOwn(session.principal)
  }
  throw new ProblemError(problem)
}

const asked = new Map<string, Promise<unknown>>()
/**
 * Asks a question before the page that needs its answer stands: whoever asks it next is given that. On a slow line each question after
 * another costs half a second.
 */
export function askEarly(path: string): void {
  if (asked.has(path)) return
  const answer = callApi(path)
  asked.set(path, answer)
  // Whoever asks is told of a failure; where nobody does, there is none. An answer that nobody takes soon is old.
  answer.catch(() => undefined)
  setTimeout(() => asked.delete(path), 10_000)
}
/** Who is signed in, once that is known. */
function whoAsks(): Promise<SignedInView | null> {
  const session = useSessionStore()
  if (session.loaded) return Promise.resolve(session.principal)
  return new Promise((done) => {
    watch(() => session.loaded, () => done(session.principal), { once: true })
  })
}
interface Session {
  principal?: SignedInView | null
}
const isOfCandidate = (who: SignedInView | null | undefined) => who?.kind === 'candidate'
/** What is a candidate's own leaves the browser with them. */
export function forgetOwn(who: SignedInView | null): void {
  if (isOfCandidate(who)) void useOffline().then(offline => offline.forgetAnswers())
}

/** Whether the office could not be reached at all: asking again later may do. */
export function isOffline(error: unknown): boolean {
  return error instanceof ProblemError && error.problem.code === 'office.unreachable'
}

/** A moment at which the office may be reached again: the line is back, or four seconds are over. */
export function lineBack(): Promise<void> {
  return new Promise((done) => {
    const end = () => {
      clearTimeout(timer)
      window.removeEventListener('online', end)
      done()
    }
    const timer = setTimeout(end, 4000)
    window.addEventListener('online', end)
  })
}

/** What this page finds by itself, told like a refusal of the office. */
export const pageRefusal = ({ code, parameters }: RefusalReason): ProblemError =>
  new ProblemError({ code, kind: 'fault', parameters: { ...parameters }, message: useWords().refusals.refusalText(code, parameters) })

/** The code of a refusal; empty for what is none. */
export const problemCode = (error: unknown): string => error instanceof ProblemError ? error.problem.code : ''

/** The sentence to show for anything thrown. */
export function problemText(error: unknown): string {
  const { refusalText } = useWords().refusals
  if (!(error instanceof ProblemError)) return refusalText('page.fault', {})
  const { code, parameters, message } = error.problem
  // What the office finds comes with its sentence; the page has words only for what it finds by itself.
  return refusalText(code as RefusalCode, parameters) || message
}

/** Runs something and shows what went wrong, if anything; whether it went well. */
export async function attempt(act: () => Promise<unknown>): Promise<boolean> {
  try {
    await act()
    return true
  } catch (error) {
    tell(problemText(error), 'error')
    return false
  }
}
