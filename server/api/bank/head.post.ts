import { refusal } from '../../../shared/refusal'
import { statementAtMost } from '../../../statements/read'
import { route } from '../../http/handle'
import { limitedBytes } from '../../http/input'
import { readCsvHead } from '../../services/bank/accounts'

export default route(async ({ event, caller }) => {
  await caller.authorise('bank.work')
  return readCsvHead(
    caller,
    await limitedBytes(event, statementAtMost, () => refusal('statement.size', { most: statementAtMost / 1024 / 1024 })),
  )
})
