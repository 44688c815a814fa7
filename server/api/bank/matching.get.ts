import { route } from '../../http/handle'
import { matchingStanding } from '../../services/bank/matching'

export default route(({ caller }) => matchingStanding(caller))
