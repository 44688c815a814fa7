import { ProblemError } from '../../shared/problem'

/** What a service refuses with; a test fails where it does not refuse. */
export const problemOf = async (act: Promise<unknown>): Promise<ProblemError['problem']> => {
  const thrown: unknown = await act.then(() => null, (error: unknown) => error)
  if (!(thrown instanceof ProblemError)) throw new Error(`no problem was told: ${String(thrown)}`)
  return thrown.problem
}
