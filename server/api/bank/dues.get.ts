import { dueSearchSchema } from '../../../shared/bank'
import { route } from '../../http/handle'
import { query } from '../../http/input'
import { findDues } from '../../services/bank/dues'

export default route(({ event, caller }) => findDues(caller, query(event, dueSearchSchema).search))
