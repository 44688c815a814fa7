import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { runGeoJson } from '../../../services/centres/exports'

export default route(async ({ event, caller }) => {
  const cities = await runGeoJson(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'application/geo+json')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="cities.geojson"')
  return JSON.stringify(cities)
})
