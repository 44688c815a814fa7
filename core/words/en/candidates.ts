import * as acts from './acts'
import * as answers from './answers'
import * as conditions from './conditions'
import * as eligibility from './eligibility'
import * as explanation from './explanation'
import * as fees from './fees'
import * as findings from './findings'
import * as lists from './lists'
import * as pictures from './pictures'
import * as refusals from './refusals'
import * as states from './states'
import * as work from './work'
import { acts as actsScreens } from './screens/acts'
import { correction as correctionScreens } from './screens/correction'
import { documents as documentsScreens } from './screens/documents'
import { endorse as endorseScreens } from './screens/endorse'
import { examinations as examinationsScreens } from './screens/examinations'
import { fees as feesScreens } from './screens/fees'
import { house as houseScreens } from './screens/house'
import { own as ownScreens } from './screens/own'
import { pictures as picturesScreens } from './screens/pictures'
import { sheet as sheetScreens } from './screens/sheet'

/** What candidates' pages say in English, and the office's as well: the part that is light enough for a telephone. */
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
    correction: correctionScreens,
    documents: documentsScreens,
    endorse: endorseScreens,
    examinations: examinationsScreens,
    fees: feesScreens,
    house: houseScreens,
    own: ownScreens,
    pictures: picturesScreens,
    sheet: sheetScreens,
  },
}
