import { z } from 'zod'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { readBarred } from '../../../services/barred/people'

export default route(({ event, caller }) =>
  readBarred(caller, textParam(event, 'cycle'), query(event, z.object({ of: z.uuid().optional() })).of)
)
