import { refusal } from '../../../../shared/refusal'
import { statementAtMost } from '../../../../statements/read'
import { route } from '../../../http/handle'
import { limitedBytes } from '../../../http/input'
import { takeSettlements } from '../../../services/bank/settlements'

export default route(async ({ event, caller }) => {
  await caller.authorise('bank.work')
  return takeSettlements(
    caller,
    await limitedBytes(event, statementAtMost, () => refusal('statement.size', { most: statementAtMost / 1024 / 1024 })),
  )
})
