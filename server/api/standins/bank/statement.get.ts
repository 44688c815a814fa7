import { setResponseHeader } from 'h3'
import { z } from 'zod'
import { route } from '../../../http/handle'
import { query } from '../../../http/input'
import { bankStandin } from '../../../runtime'

const endings = { camt: 'xml', mt940: 'sta', csv: 'csv' } as const
const asked = z.object({ account: z.string().max(60), sequence: z.coerce.number().int().min(1), format: z.enum(['camt', 'mt940', 'csv']) })

export default route(async ({ event, caller }) => {
  await caller.authorise('bank.work')
  const bank = bankStandin()
  const { account, sequence, format } = query(event, asked)
  setResponseHeader(event, 'content-disposition', `attachment; filename="statement-${sequence}.${endings[format]}"`)
  setResponseHeader(event, 'content-type', 'application/octet-stream')
  return bank.statement(account, sequence, format)
})
