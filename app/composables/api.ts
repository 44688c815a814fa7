import { refusalKinds, type RefusalCode } from '~~/core/refusal/codes'
import type { SignedInView } from '~~/shared/people'
import { ProblemError, readProblem, refusal } from '~~/shared/problem'

interface Call { method?: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', body?: unknown, bytes?: Blob, headers?: Record<string, string>, query?: Record<string, string | number | readonly string[] | undefined> }

/**
 * One call to the server. Answers the data, or throws a `ProblemError` whose message may be shown as it is; a broken
 * connection becomes one too, so that no screen has to tell kinds of failure apart.
 */
export async function callApi<T>(path: string, call: Call = {}): Promise<T> {
  const session = useSessionStore()
  const url = new URL(path, window.location.origin)
  for (const [name, value] of Object.entries(call.query ?? {})) {
    if (Array.isArray(value)) for (const one of value) url.searchParams.append(name, String(one))
    else if (value !== undefined && value !== '') url.searchParams.set(name, String(value))
  }
  const headers: Record<string, string> = { 'x-lucid-csrf': session.csrfToken ?? '', ...call.headers }
  if (call.body !== undefined) headers['content-type'] = 'application/json'
  if (call.bytes) headers['content-type'] = 'application/octet-stream'
  const isQuestion = (call.method ?? 'GET') === 'GET'
  let response: Response
  try {
    response = await fetch(url, { method: call.method ?? 'GET', headers, body: call.bytes ?? (call.body === undefined ? undefined : JSON.stringify(call.body)) })
  } catch {
    const kept = isQuestion && isKept(path) ? await (await useOffline()).keptAnswer(path) : null
    if (!kept) throw refusal('office.unreachable')
    keptSince.value = kept.at
    return kept.data as T
  }
  keptSince.value = null
  const data: unknown = await response.json().catch(() => null)
  if (response.ok) {
    // Only what is a candidate's own; the office's machines keep nothing of anybody.
    if (isQuestion && isKept(path) && isOfCandidate(session.principal ?? (data as Session | null)?.principal)) void useOffline().then(offline => offline.keepAnswer(path, data))
    return data as T
  }
  const problem = readProblem(data)
  if (!problem) throw refusal('office.answer', { status: response.status })
  if (problem.kind === 'not-signed-in' && session.principal) {
    session.expired = true
    forgetOwn(session.principal)
  }
  throw new ProblemError(problem)
}

interface Session { principal?: SignedInView | null }
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

/** The code of a refusal; empty for what is none. */
export const problemCode = (error: unknown): string => error instanceof ProblemError ? error.problem.code : ''

/** The sentence to show for anything thrown. */
export function problemText(error: unknown): string {
  const { refusalText } = useWords().refusals
  if (!(error instanceof ProblemError)) return refusalText('page.fault', {})
  const { code, parameters, message } = error.problem
  // An office newer than this page may know refusals that the page does not; those that only the office meets come with their sentence.
  return (code in refusalKinds && refusalText(code as RefusalCode, parameters)) || message
}

/** Runs something and shows what went wrong, if anything; whether it went well. */
export async function attempt(act: () => Promise<unknown>): Promise<boolean> {
  try {
    await act()
    return true
  } catch (error) {
    ElMessage({ message: problemText(error), type: 'error', duration: 9000, showClose: true })
    return false
  }
}
