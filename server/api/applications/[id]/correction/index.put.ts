import { correctionDraftSchema } from '../../../../../shared/corrections'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { saveCorrection } from '../../../../services/corrections/draft'

export default route(async ({ event, caller }) => saveCorrection(caller, idParam(event), await body(event, correctionDraftSchema)))
