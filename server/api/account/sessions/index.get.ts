import { route } from '../../../http/handle'
import { ownSessions } from '../../../services/people/sign-in'

export default route(({ caller, session }) => ownSessions(caller, session?.id ?? null))
