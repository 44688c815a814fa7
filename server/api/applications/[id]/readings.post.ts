import { readingSchema } from '../../../../shared/scrutiny'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { keepReading } from '../../../services/scrutiny/readings'

export default route(async ({ event, caller }) => {
  await keepReading(caller, idParam(event, 'id'), await body(event, readingSchema))
  return { done: true }
})
