import { route } from '../../http/handle'
import { readPlaces } from '../../services/centres/places'

export default route(({ caller }) => readPlaces(caller))
