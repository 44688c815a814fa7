import { setResponseHeader } from 'h3'
import { idParam, route } from '../../../http/handle'
import { runGeoJson } from '../../../services/centres/exports'

export default route(async ({ event, context }) => {
  const cities = await runGeoJson(context, idParam(event))
  setResponseHeader(event, 'content-type', 'application/geo+json')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="cities.geojson"')
  return JSON.stringify(cities)
})
