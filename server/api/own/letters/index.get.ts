import { lettersAboutSchema } from '../../../../shared/candidates'
import { route } from '../../../http/handle'
import { query } from '../../../http/input'
import { readLettersAbout } from '../../../services/candidates/own'

export default route(({ event, caller }) => readLettersAbout(caller, query(event, lettersAboutSchema).application), { asCandidate: true })
