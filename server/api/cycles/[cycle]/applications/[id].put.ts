import { beginSchema } from '../../../../../shared/keying'
import { route } from '../../../../http/handle'
import { body, idParam, textParam } from '../../../../http/input'
import { registerApplication } from '../../../../services/applications/begin'

/** The caller makes the id, so that asking twice registers once. */
export default route(async ({ event, caller }) => {
  const { paper, ...given } = await body(event, beginSchema) ?? {}
  return registerApplication(caller, textParam(event, 'cycle'), idParam(event), given, paper)
})
