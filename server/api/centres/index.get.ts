import { route } from '../../http/handle'
import { readRegister } from '../../services/centres/register'

export default route(({ caller }) => readRegister(caller))
