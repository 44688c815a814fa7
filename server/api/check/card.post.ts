import { z } from 'zod'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { cardStanding } from '../../services/cards/issue'

/** Whether the card of a code is in force; open to everybody who holds the code. */
export default route(
  async ({ event, caller }) => cardStanding(caller, (await body(event, z.strictObject({ code: z.string().max(4000) }))).code),
  { anonymous: true },
)
