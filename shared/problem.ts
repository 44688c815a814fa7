import { z } from 'zod'

/**
 * What goes wrong, as a value: a code for programs, a sentence for people that names the value, the bound and what to
 * do, and data where a screen needs more. Crosses the wire as JSON with the given HTTP status.
 */
export const problemSchema = z.object({
  code: z.enum([
    'bad-input', 'not-signed-in', 'not-allowed', 'not-found', 'conflict', 'not-now', 'too-many', 'too-large', 'not-an-image', 'fault',
  ]),
  message: z.string(),
  data: z.unknown().optional(),
})
export type Problem = z.infer<typeof problemSchema>

export const problemStatus: Record<Problem['code'], number> = {
  'bad-input': 422, 'not-signed-in': 401, 'not-allowed': 403, 'not-found': 404, 'conflict': 409, 'not-now': 409,
  'too-many': 429, 'too-large': 413, 'not-an-image': 422, 'fault': 500,
}

/** The typed error of services and of the browser's client alike. */
export class ProblemError extends Error {
  readonly problem: Problem

  constructor(code: Problem['code'], message: string, data?: unknown) {
    super(message)
    this.name = 'ProblemError'
    this.problem = { code, message, data }
  }
}
