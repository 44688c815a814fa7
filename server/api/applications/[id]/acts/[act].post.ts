import { z } from 'zod'
import { namedActs } from '../../../../../shared/acts'
import { route } from '../../../../http/handle'
import { body, idParam, oneOfParam } from '../../../../http/input'
import { performAct } from '../../../../services/acts/named'
import { readDossier } from '../../../../services/applications/dossier'

/**
 * Any act on an application by its name. Answers the application as it stands then, or the proposal that a second person has to confirm.
 */
export default route(async ({ event, caller }) => {
  const [id, act] = [idParam(event), oneOfParam(event, 'act', namedActs)]
  const carried = await performAct(caller, act, id, await body(event, z.unknown()))
  return { proposal: carried.isDone ? null : carried.proposal, dossier: act === 'delete-draft' ? null : await readDossier(caller, id) }
})
