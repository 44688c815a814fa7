import { refusalKinds, type RefusalCode, type RefusalParameters, type RefusalReason } from '../core/refusal/codes'
import { refusalText } from '../core/words/en/office-refusals'
import { ProblemError } from './problem'

/** A refusal by its code, to be thrown. Its sentence names what the parameters give. */
export function refusal(code: RefusalCode, parameters: RefusalParameters = {}, data?: unknown): ProblemError {
  return new ProblemError({ code, kind: refusalKinds[code], parameters: { ...parameters }, message: refusalText(code, parameters), data })
}

/** The same from a reason that core gave. */
export const refusalOf = ({ code, parameters }: RefusalReason): ProblemError => refusal(code, parameters)
