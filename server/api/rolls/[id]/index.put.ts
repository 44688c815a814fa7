import { rollSettingsSchema } from '../../../../shared/rolls'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { setRoll } from '../../../services/rolls/rolls'

export default route(async ({ event, caller }) => setRoll(caller, idParam(event), await body(event, rollSettingsSchema)))
