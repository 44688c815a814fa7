import { z } from 'zod'
import { refusalKinds, type RefusalCode, type RefusalKind, type RefusalParameters, type RefusalReason } from '../core/refusal/codes'
import { refusalText } from '../core/words/en/refusals'

/**
 * What goes wrong, as a value: a lasting code and parameters for programs, the kind that decides the HTTP status, the sentence for
 * people that follows from both, and data where a screen needs more. Crosses the wire as JSON.
 */
const kinds = [...new Set(Object.values(refusalKinds))] as [RefusalKind, ...RefusalKind[]]
export const problemSchema = z.object({
  code: z.string().max(60),
  kind: z.enum(kinds),
  parameters: z.record(z.string(), z.union([z.string(), z.number()])).default({}),
  message: z.string(),
  data: z.unknown().optional(),
})
export type Problem = z.infer<typeof problemSchema>

export const problemStatus: Record<RefusalKind, number> = {
  'bad-input': 422, 'not-signed-in': 401, 'second-factor': 401, 'not-allowed': 403, 'not-found': 404, 'conflict': 409, 'not-now': 409,
  'too-many': 429, 'too-large': 413, 'not-an-image': 422, 'fault': 500,
}

/** The typed error of services and of the browser's client alike. Made by `refusal`, or from what came over the wire. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message)
    this.name = 'ProblemError'
  }
}

/** A refusal by its code, to be thrown. Its sentence names what the parameters give. */
export function refusal(code: RefusalCode, parameters: RefusalParameters = {}, data?: unknown): ProblemError {
  return new ProblemError({ code, kind: refusalKinds[code], parameters: { ...parameters }, message: refusalText(code, parameters), data })
}

/** The same from a reason that core gave. */
export const refusalOf = ({ code, parameters }: RefusalReason): ProblemError => refusal(code, parameters)
