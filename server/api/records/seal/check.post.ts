import { route } from '../../../http/handle'
import { checkSealed } from '../../../services/records/seal'

/** Reads the whole sealed log and says what is wrong with it. */
export default route(({ caller }) => checkSealed(caller))
