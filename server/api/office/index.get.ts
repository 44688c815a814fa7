import { route } from '../../http/handle'
import { readOfficeSettings } from '../../services/people/settings'

export default route(({ caller }) => readOfficeSettings(caller))
