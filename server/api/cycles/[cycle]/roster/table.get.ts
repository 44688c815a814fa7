import { setResponseHeader } from 'h3'
import { rosterTableSchema } from '../../../../../shared/applications'
import { mediaTypes, tableStream } from '../../../../../tables/stream'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { rosterTable } from '../../../../services/roster/count'

export default route(async ({ event, caller }) => {
  const { format, ...filter } = query(event, rosterTableSchema)
  const table = await rosterTable(caller, textParam(event, 'cycle'), filter)
  setResponseHeader(event, 'content-type', mediaTypes[format])
  setResponseHeader(event, 'content-disposition', `attachment; filename="roster.${format}"`)
  return tableStream(format, table)
})
