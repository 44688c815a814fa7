import { z } from 'zod'
import type { RefusalCode } from '../../core/refusal/codes'
import { ProblemError, problemStatus } from '../../shared/problem'
import { publicRoute } from '../http/handle'
import { formBody } from '../http/input'
import { networkOf, originOf } from '../http/proxy'
import { askForStanding, standingPage } from '../public/standing'
import { sendPage } from '../public/page'
import { lookUpStanding } from '../services/candidates/standing'

const givenSchema = z.object({ number: z.string().max(40).default(''), proof: z.string().max(200).default('') })

/** What was looked up is never part of an address: it would stand in the log of every machine between. */
export default publicRoute(async ({ event, caller, language }) => {
  let number = ''
  try {
    const given = await formBody(event, givenSchema)
    number = given.number
    return await sendPage(event, language, standingPage(language, await lookUpStanding(caller, given, networkOf(originOf(event).address))))
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    const { code, parameters, kind } = error.problem
    return sendPage(
      event,
      language,
      askForStanding(language, language.refusals.refusalText(code as RefusalCode, parameters), number),
      problemStatus[kind],
    )
  }
})
