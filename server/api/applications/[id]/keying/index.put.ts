import { keyedSchema } from '../../../../../shared/keying'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { saveSecondKeying } from '../../../../services/keying/second'

export default route(async ({ event, caller }) => saveSecondKeying(caller, idParam(event), (await body(event, keyedSchema)).changes))
