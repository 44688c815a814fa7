import { rollFilesAtMost, rollFilesSchema } from '../../../../../shared/rolls'
import { refusal } from '../../../../../shared/refusal'
import { route } from '../../../../http/handle'
import { idParam, limitedFile, query } from '../../../../http/input'
import { takeFiles } from '../../../../services/rolls/take-files'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  // Who may not do it is refused before the file is taken.
  await caller.authorise('rolls.enter')
  const { name } = query(event, rollFilesSchema)
  return limitedFile(
    event,
    rollFilesAtMost,
    () => refusal('roll.packing', { most: rollFilesAtMost / 1024 / 1024 }),
    path => takeFiles(caller, id, name, path),
  )
})
