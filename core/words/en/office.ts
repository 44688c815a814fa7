import * as acts from './office-acts'
import * as allocation from './allocation'
import * as bank from './bank'
import * as differences from './differences'
import * as documents from './documents'
import * as letters from './letters'
import * as log from './log'
import * as logFaults from './log-faults'
import * as noticeParts from './notice-parts'
import * as notices from './notices'
import * as refusals from './office-refusals'
import * as work from './office-work'
import * as order from './order'
import * as papers from './papers'
import * as people from './people'
import * as records from './records'
import * as rolls from './rolls'
import * as rules from './rules'
import * as scrutiny from './scrutiny'
import { account as accountScreens } from './screens/account'
import { bank as bankScreens } from './screens/bank'
import { questions as questionsScreens } from './screens/questions'
import { standing as standingScreens } from './screens/standing'
import { cards as cardsScreens } from './screens/cards'
import { centres as centresScreens } from './screens/centres'
import { check as checkScreens } from './screens/check'
import { desk as deskScreens } from './screens/desk'
import { edit as editScreens } from './screens/edit'
import { entry as entryScreens } from './screens/entry'
import { gateway as gatewayScreens } from './screens/gateway'
import { keying as keyingScreens } from './screens/keying'
import { letters as lettersScreens } from './screens/letters'
import { notice as noticeScreens } from './screens/notice'
import { people as peopleScreens } from './screens/people'
import { records as recordsScreens } from './screens/records'
import { band as bandScreens } from './screens/band'
import { examinations as examinationsScreens } from './screens/examinations'
import { ledger as ledgerScreens } from './screens/ledger'
import { rolls as rollsScreens } from './screens/rolls'
import { roster as rosterScreens } from './screens/roster'
import { scrutiny as scrutinyScreens } from './screens/scrutiny'
import { work as workScreens } from './screens/work'

/** What only the office, its papers and its letters say in English. */
export const officeWords = {
  acts,
  allocation,
  bank,
  differences,
  documents,
  letters,
  log,
  logFaults,
  noticeParts,
  notices,
  order,
  papers,
  people,
  records,
  refusals,
  rolls,
  rules,
  scrutiny,
  work,
  screens: {
    account: accountScreens,
    bank: bankScreens,
    cards: cardsScreens,
    centres: centresScreens,
    check: checkScreens,
    desk: deskScreens,
    edit: editScreens,
    entry: entryScreens,
    gateway: gatewayScreens,
    keying: keyingScreens,
    letters: lettersScreens,
    notice: noticeScreens,
    people: peopleScreens,
    questions: questionsScreens,
    records: recordsScreens,
    band: bandScreens,
    examinations: examinationsScreens,
    ledger: ledgerScreens,
    rolls: rollsScreens,
    roster: rosterScreens,
    scrutiny: scrutinyScreens,
    standing: standingScreens,
    work: workScreens,
  },
}
