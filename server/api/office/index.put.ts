import { officeSettingsSchema } from '../../../shared/people'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { changeOfficeSettings, readOfficeSettings } from '../../services/people/settings'

export default route(async ({ event, caller }) => {
  await changeOfficeSettings(caller, await body(event, officeSettingsSchema))
  return readOfficeSettings(caller)
})
