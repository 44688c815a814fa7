import { z } from 'zod'
import { route } from '../../../http/handle'
import { body } from '../../../http/input'
import { bankStandin } from '../../../runtime'
import { whoMightPay } from '../../../services/bank/dues'

export default route(async ({ event, caller }) => {
  const { account, dues } = await whoMightPay(caller, (await body(event, z.strictObject({ account: z.uuid() }))).account)
  return { sequence: await bankStandin().passDay(account, dues) }
})
