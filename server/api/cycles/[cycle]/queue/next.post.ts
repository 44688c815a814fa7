import { takeSchema } from '../../../../../shared/scrutiny'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { takeNext } from '../../../../services/scrutiny/queue'

export default route(async ({ event, caller }) => ({
  taken: await takeNext(caller, textParam(event, 'cycle'), await body(event, takeSchema)),
}))
