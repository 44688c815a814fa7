import * as acts from './acts'
import * as allocation from './allocation'
import * as answers from './answers'
import * as conditions from './conditions'
import * as differences from './differences'
import * as documents from './documents'
import * as eligibility from './eligibility'
import * as explanation from './explanation'
import * as fees from './fees'
import * as findings from './findings'
import * as letters from './letters'
import * as lists from './lists'
import * as noticeParts from './notice-parts'
import * as notices from './notices'
import * as order from './order'
import * as papers from './papers'
import * as people from './people'
import * as pictures from './pictures'
import * as records from './records'
import * as refusals from './refusals'
import * as rules from './rules'
import { screens } from './screens'
import * as states from './states'
import * as work from './work'

/** All words in English. */
export const english = {
  /** As HTML's `lang` and the language cookie say it (BCP 47). */
  code: 'en',
  /** How numbers and plurals are written. */
  locale: 'en-GB',
  screens, acts, allocation, answers, conditions, differences, documents, eligibility, explanation, fees, findings, letters, lists, noticeParts, notices, order, papers, people, pictures, records, refusals, rules, states, work,
}
