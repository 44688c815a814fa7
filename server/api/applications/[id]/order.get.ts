import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendPdf } from '../../../http/pdf'
import { orderPdf } from '../../../services/scrutiny/order'

export default route(async ({ event, caller }) => sendPdf(event, await orderPdf(caller, idParam(event))))
