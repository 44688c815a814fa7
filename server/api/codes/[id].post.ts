import { getHeader } from 'h3'
import { codeTakeSchema } from '../../../shared/candidates'
import { route } from '../../http/handle'
import { body, idParam } from '../../http/input'
import { keepSession } from '../../http/session-cookie'
import { takeCode } from '../../services/candidates/codes'

export default route(
  async ({ event, caller }) =>
    keepSession(event, await takeCode(caller, idParam(event), (await body(event, codeTakeSchema)).code, getHeader(event, 'user-agent'))),
  { anonymous: true },
)
