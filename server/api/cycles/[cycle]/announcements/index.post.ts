import { announcementSchema } from '../../../../../shared/announcements'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { startWork } from '../../../../jobs/jobs'
import { runtime } from '../../../../runtime'

/** A letter to everybody who matches: tried, or sent. */
export default route(async ({ event, caller }) =>
  startWork(caller, await runtime().queue(), 'announce', textParam(event, 'cycle'), await body(event, announcementSchema))
)
