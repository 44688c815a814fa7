import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { listAnnouncements } from '../../../../services/letters/announcements'

export default route(({ event, caller }) => listAnnouncements(caller, textParam(event, 'cycle')))
