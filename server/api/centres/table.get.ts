import { setResponseHeader } from 'h3'
import { placeTableSchema } from '../../../shared/places'
import { mediaTypes, tableStream } from '../../../tables/stream'
import { route } from '../../http/handle'
import { query } from '../../http/input'
import { placesGeoJson, placesTable } from '../../services/centres/places'

export default route(async ({ event, caller }) => {
  const { format } = query(event, placeTableSchema)
  setResponseHeader(event, 'content-disposition', `attachment; filename="register.${format}"`)
  if (format === 'geojson') {
    setResponseHeader(event, 'content-type', 'application/geo+json')
    return placesGeoJson(caller)
  }
  const table = await placesTable(caller)
  setResponseHeader(event, 'content-type', mediaTypes[format])
  return tableStream(format, table)
})
