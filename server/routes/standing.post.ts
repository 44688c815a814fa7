import { readBody } from 'h3'
import { z } from 'zod'
import type { RefusalCode } from '../../core/refusal/codes'
import { ProblemError, problemStatus } from '../../shared/problem'
import { publicRoute } from '../http/handle'
import { networkOf, originOf } from '../http/proxy'
import { askForStanding, standingPage } from '../public/standing'
import { sendPage } from '../public/page'
import { lookUpStanding } from '../services/candidates/standing'

const givenSchema = z.object({ number: z.string().max(40).default(''), proof: z.string().max(200).default('') })

/** What was looked up is never part of an address: it would stand in the log of every machine between. */
export default publicRoute(async ({ event, caller, language }) => {
  const read = givenSchema.safeParse(await readBody(event).catch(() => null))
  const given = read.success ? read.data : { number: '', proof: '' }
  try {
    return await sendPage(event, language, standingPage(language, await lookUpStanding(caller, given, networkOf(originOf(event).address))))
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    const { code, parameters, kind } = error.problem
    return sendPage(event, language, askForStanding(language, language.refusals.refusalText(code as RefusalCode, parameters), given.number), problemStatus[kind])
  }
})
