import type { Challenge } from 'altcha-lib'
import type { Channel } from '~~/core/identity/address'
import type { CodeAsked } from '~~/shared/candidates'
import { ProblemError } from '~~/shared/problem'

/**
 * Asks for a code. Where many were asked for from this network the browser works for it first, while one waits; nobody has to do anything.
 */
export async function askForCode(asked: { channel: Channel, address: string }): Promise<CodeAsked> {
  const send = (work?: string) => callApi<CodeAsked>('/api/codes', { method: 'POST', body: { ...asked, work } })
  try {
    return await send()
  } catch (error) {
    if (!(error instanceof ProblemError) || error.problem.code !== 'code.work') throw error
    return send(await workOn(error.problem.data as Challenge).catch(() => {
      throw error
    }))
  }
}

async function workOn(challenge: Challenge): Promise<string> {
  const [{ solveChallenge }, { deriveKey }] = await Promise.all([import('altcha-lib'), import('altcha-lib/algorithms/web/pbkdf2')])
  return JSON.stringify({ challenge, solution: await solveChallenge({ challenge, deriveKey }) })
}
