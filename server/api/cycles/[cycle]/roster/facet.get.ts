import { facetSchema } from '../../../../../shared/applications'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { facetValues } from '../../../../services/roster/count'

export default route(({ event, caller }) => facetValues(caller, textParam(event, 'cycle'), query(event, facetSchema).facet))
