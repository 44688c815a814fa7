import { fileNameSchema } from '../../../../../shared/bank'
import { refusal } from '../../../../../shared/refusal'
import { statementAtMost } from '../../../../../statements/read'
import { route } from '../../../../http/handle'
import { idParam, limitedBytes, query } from '../../../../http/input'
import { takeStatements } from '../../../../services/bank/statements'

export default route(async ({ event, caller }) => {
  // Who may not do it is refused before the file is taken.
  await caller.authorise('bank.work')
  const { name } = query(event, fileNameSchema)
  return takeStatements(
    caller,
    idParam(event),
    name,
    await limitedBytes(event, statementAtMost, () => refusal('statement.size', { most: statementAtMost / 1024 / 1024 })),
  )
})
