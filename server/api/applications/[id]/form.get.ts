import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendPdf } from '../../../http/pdf'
import { formPdf } from '../../../services/applications/form-paper'

export default route(async ({ event, caller }) => sendPdf(event, await formPdf(caller, idParam(event))))
