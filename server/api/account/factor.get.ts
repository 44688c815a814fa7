import { route } from '../../http/handle'
import { offerSecondFactor } from '../../services/people/second-factor'

export default route(({ caller }) => offerSecondFactor(caller))
