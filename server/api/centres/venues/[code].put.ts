import { venueFactsSchema } from '../../../../shared/places'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { changeVenue } from '../../../services/centres/rooms'

export default route(async ({ event, caller }) => changeVenue(caller, textParam(event, 'code'), await body(event, venueFactsSchema)))
