import { barredSchema } from '../../../shared/barred'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { barPerson } from '../../services/barred/people'

export default route(async ({ event, caller }) => barPerson(caller, await body(event, barredSchema)))
