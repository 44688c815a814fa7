import { keyingQuerySchema } from '../../../../../shared/keying'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { listKeying } from '../../../../services/keying/list'

export default route(({ event, caller }) => {
  const { state, after } = query(event, keyingQuerySchema)
  return listKeying(caller, textParam(event, 'cycle'), state, after)
})
