import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendPdf } from '../../../http/pdf'
import { cardPdf } from '../../../services/cards/pdf'

export default route(async ({ event, caller }) => sendPdf(event, await cardPdf(caller, idParam(event))))
