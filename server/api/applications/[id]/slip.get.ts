import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendPdf } from '../../../http/pdf'
import { depositSlip } from '../../../services/bank/slip'

export default route(async ({ event, caller }) => sendPdf(event, await depositSlip(caller, idParam(event))))
