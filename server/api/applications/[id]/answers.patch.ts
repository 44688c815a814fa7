import { body, idParam, route } from '../../../http/handle'
import { saveAnswers } from '../../../services/applications/intake'
import { saveSheetSchema } from '../../../../shared/applications'

export default route(async ({ event, context }) => saveAnswers(context, idParam(event), await body(event, saveSheetSchema)))
