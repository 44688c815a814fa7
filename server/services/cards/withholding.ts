import { namesOnCard } from '../../../core/admit-card/content'
import { openRequests } from '../../../core/application/requests'
import type { Notice } from '../../../core/notice/schema'
import { lettersWithoutFace } from '../../paper/typeset'
import { countedAnswers, decidedAnswers, type ApplicationRow } from '../applications/store'

/**
 * What keeps a card back besides where an application stands: somebody's hand, a request that waits, letters of a name that no face has.
 */
export function withholding(
  notice: Notice,
  row: ApplicationRow,
): { isHeld: boolean, isAsking: boolean, isUnprintable: boolean, letters: string[] } {
  const letters = lettersWithoutFace(namesOnCard(countedAnswers(notice, row)))
  const isAsking = openRequests(notice, decidedAnswers(notice, row)).length > 0
  return { isHeld: row.cardHold !== null, isAsking, isUnprintable: letters.length > 0, letters }
}
