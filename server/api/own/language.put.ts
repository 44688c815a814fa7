import { ownLanguageSchema } from '../../../shared/candidates'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { keepLanguage } from '../../services/candidates/account'

export default route(async ({ event, caller }) => {
  await keepLanguage(caller, (await body(event, ownLanguageSchema)).language)
  return { done: true }
})
