import { Readable } from 'node:stream'
import { setResponseHeader } from 'h3'
import { ledgerQuerySchema } from '../../../shared/bank'
import { route } from '../../http/handle'
import { query } from '../../http/input'
import { ledgerCsv } from '../../services/bank/export'

export default route(async ({ event, caller }) => {
  const days = query(event, ledgerQuerySchema)
  await caller.authorise('bank.read')
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', `attachment; filename="ledger-${days.from}.csv"`)
  return Readable.from(ledgerCsv(caller, days))
})
