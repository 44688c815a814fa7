import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { sendPdf } from '../../../../http/pdf'
import { receiptPdf } from '../../../../services/fees/receipts'

export default route(async ({ event, caller }) => sendPdf(event, await receiptPdf(caller, idParam(event), idParam(event, 'receipt'))))
