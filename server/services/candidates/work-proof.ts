import { createChallenge, randomInt, verifySolution, type Challenge } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2'
import { z } from 'zod'
import type { Channel } from '../../../core/identity/address'
import { refusal } from '../../../shared/refusal'
import type { Context } from '../context'
import { sha256 } from '../people/passwords'

/**
 * A proof that a machine has worked, for whoever asks for a code from a network that has asked for many: nothing that a person sees or
 * does, and dear for a robot that goes through addresses. It is signed and held by nobody: any process can look at it. It is for one
 * address, to which codes go a minute apart at most, so that having it twice is worth nothing.
 */

/**
 * PBKDF2 with so many rounds, tried for a number between these: a third of a second of a present machine; the bounds are our own choice.
 */
const rounds = 2000
const tries = { from: 200, to: 400 }
const secondsValid = 120

const payload = z.object({
  challenge: z.object({ parameters: z.looseObject({ data: z.object({ for: z.string(), until: z.string() }) }), signature: z.string() }),
  solution: z.object({ counter: z.int(), derivedKey: z.string().max(200), time: z.number().optional() }),
})

const purposeOf = (channel: Channel, address: string) => sha256(`${channel}:${address}`)

/** What has to be worked on before a code goes to an address. */
async function workWanted({ now }: Pick<Context, 'now'>, secret: string, channel: Channel, address: string): Promise<Challenge> {
  return createChallenge({
    algorithm: 'PBKDF2/SHA-256',
    cost: rounds,
    counter: randomInt(tries.from, tries.to),
    deriveKey,
    hmacSignatureSecret: secret,
    hmacKeySignatureSecret: `${secret} of keys`,
    data: { for: purposeOf(channel, address), until: new Date(now().getTime() + secondsValid * 1000).toISOString() },
  })
}

/** @throws ProblemError `code.work` with other work where this is none, for another address, or too old. */
export async function demandWork(
  context: Context,
  secret: string,
  { channel, address, work }: { channel: Channel, address: string, work?: string },
): Promise<void> {
  if (work === undefined || !await isWorked(context, secret, work, purposeOf(channel, address))) {
    throw refusal('code.work', {}, await workWanted(context, secret, channel, address))
  }
}

async function isWorked({ now }: Context, secret: string, work: string, purpose: string): Promise<boolean> {
  const read = payload.safeParse(jsonOf(work))
  if (!read.success) return false
  const { challenge, solution } = read.data
  const { data } = challenge.parameters
  if (data.for !== purpose || !(new Date(data.until) > now())) return false
  try {
    const { verified } = await verifySolution({
      challenge: challenge as unknown as Challenge,
      solution,
      deriveKey,
      hmacSignatureSecret: secret,
      hmacKeySignatureSecret: `${secret} of keys`,
    })
    return verified
  } catch {
    // Parameters that nobody here has written.
    return false
  }
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
