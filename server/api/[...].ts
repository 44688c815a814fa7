import { refusal } from '../../shared/refusal'
import { route } from '../http/handle'

/** Whatever is at no other address. */
export default route(() => {
  throw refusal('route.unknown')
}, { anonymous: true })
