import { z } from 'zod'
import { route } from '../../../http/handle'
import { body } from '../../../http/input'
import { bankStandin } from '../../../runtime'
import { whoMightPay } from '../../../services/bank/dues'

export default route(async ({ event, caller }) => {
  const bank = bankStandin()
  const { account, dues } = await whoMightPay(caller, (await body(event, z.strictObject({ account: z.uuid() }))).account)
  return { sequence: await bank.passDay(account, dues) }
})
