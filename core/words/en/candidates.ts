import * as acts from './acts'
import * as answers from './answers'
import * as conditions from './conditions'
import * as eligibility from './eligibility'
import * as explanation from './explanation'
import * as fees from './fees'
import * as findings from './form-findings'
import * as lists from './lists'
import * as pictures from './pictures'
import * as refusals from './refusals'
import * as states from './states'
import * as work from './work'
import { acts as actsScreens } from './screens/acts'
import { fees as feesScreens } from './screens/fees'
import { house as houseScreens } from './screens/house'
import { own as ownScreens } from './screens/own'
import { pictures as picturesScreens } from './screens/pictures'
import { sheet as sheetScreens } from './screens/sheet'

/** What candidates' pages say in English, and the office's as well: the part that is light enough for a telephone, and needed at once. */
export const candidateWords = {
  /** As HTML's `lang` and the language cookie say it (BCP 47). */
  code: 'en',
  /** How numbers and plurals are written. */
  locale: 'en-GB',
  acts,
  answers,
  conditions,
  eligibility,
  explanation,
  fees,
  findings,
  lists,
  pictures,
  refusals,
  states,
  work,
  screens: {
    acts: actsScreens,
    fees: feesScreens,
    house: houseScreens,
    own: ownScreens,
    pictures: picturesScreens,
    sheet: sheetScreens,
  },
}
