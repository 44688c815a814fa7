import { route } from '../../../../http/handle'
import { idParam, textParam } from '../../../../http/input'
import { sendPdf } from '../../../../http/pdf'
import { readHandout } from '../../../../services/notice/handouts'

export default route(async ({ event, caller }) =>
  sendPdf(event, await readHandout(caller, textParam(event, 'cycle'), idParam(event, 'handout')))
)
