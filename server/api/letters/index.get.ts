import { z } from 'zod'
import { route } from '../../http/handle'
import { query } from '../../http/input'
import { readOutbox } from '../../services/letters/outbox'
import { runtime } from '../../runtime'

const search = z.object({
  search: z.string().max(100).default(''),
  at: z.iso.datetime({ offset: true }).optional(),
  id: z.uuid().optional(),
})

export default route(async ({ event, caller }) => {
  const { search: text, at, id } = query(event, search)
  return { ...await readOutbox(caller, text, at && id ? { at, id } : undefined), mailFrom: runtime().mailFrom }
})
