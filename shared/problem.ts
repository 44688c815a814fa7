import type { RefusalKind } from '../core/refusal/codes'

/**
 * What goes wrong, as a value: a lasting code and parameters for programs, the kind that decides the HTTP status, the sentence for
 * people that follows from both, and data where a screen needs more. Crosses the wire as JSON.
 */
export interface Problem {
  code: string
  kind: RefusalKind
  parameters: Record<string, string | number>
  message: string
  data?: unknown
}

export const problemStatus: Record<RefusalKind, number> = {
  'bad-input': 422,
  'not-signed-in': 401,
  'second-factor': 401,
  'not-allowed': 403,
  'not-found': 404,
  'conflict': 409,
  'not-now': 409,
  'too-many': 429,
  'too-large': 413,
  'not-an-image': 422,
  'fault': 500,
}
const kinds = Object.keys(problemStatus) as RefusalKind[]

/**
 * A problem as it came over the wire; null when it is none. Read by hand: every page needs this, and few need a whole package of schemas.
 */
export function readProblem(value: unknown): Problem | null {
  if (typeof value !== 'object' || value === null || !('code' in value) || !('kind' in value) || !('message' in value)) return null
  const { code, kind, message } = value
  const known = kinds.find(one => one === kind)
  if (typeof code !== 'string' || typeof message !== 'string' || known === undefined) return null
  const given = 'parameters' in value && typeof value.parameters === 'object' && value.parameters !== null
    ? Object.entries(value.parameters)
    : []
  const parameters = Object
    .fromEntries(given.filter((entry): entry is [string, string | number] => typeof entry[1] === 'string' || typeof entry[1] === 'number'))
  return { code, kind: known, parameters, message, ...('data' in value ? { data: value.data } : {}) }
}

/** The typed error of services and of the browser's client alike. Made by `refusal`, or from what came over the wire. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message)
    this.name = 'ProblemError'
  }
}
