import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { bankStandin } from '../../../runtime'

export default route(async ({ event, caller }) => {
  await caller.authorise('bank.work')
  const bank = bankStandin()
  setResponseHeader(event, 'content-disposition', 'attachment; filename="settlement.csv"')
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  return bank.settlement()
})
