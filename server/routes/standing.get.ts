import { publicRoute } from '../http/handle'
import { sendPage } from '../public/page'
import { askForStanding } from '../public/standing'

export default publicRoute(({ event, language }) => sendPage(event, language, askForStanding(language)))
