import type { CalendarDate } from '../calendar/calendar-date'
import { conditionLeaves } from '../notice/conditions'
import type { Notice, Question } from '../notice/schema'
import { isAnswered, type Answers } from './answers'
import { checkAnswer } from './check-answer'

/** What somebody has written once need not be written again: answers of an earlier form that may stand in another one as they are. */

const questionsOf = (notice: Notice): Question[] => notice.sections.flatMap(section => section.questions)

/** Questions whose answers somebody claims or asks for something by, and those that hang on them: that is said anew each time. */
function saidAnew(notice: Notice): Set<string> {
  const conditions = [...notice.claims, ...notice.requests].flatMap(({ when }) => conditionLeaves(when))
  const anew = new Set([...conditions.map(leaf => leaf.question), ...notice.requests.flatMap(({ about }) => about)])
  // A question hangs on those before it alone.
  for (const { id, when } of questionsOf(notice)) {
    if (conditionLeaves(when).some(leaf => anew.has(leaf.question))) anew.add(id)
  }
  return anew
}

/**
 * Answers of an earlier form to the same questions, those that are good under this notice today. Left out are what is chosen of this
 * examination alone (posts, cities) and what is claimed or asked for.
 *
 * @param earlier the form as it was handed in, and the notice that it went by.
 */
export function answersToTakeOver(notice: Notice, earlier: { notice: Notice, answers: Answers }, today: CalendarDate): Answers {
  const anew = saidAnew(notice)
  const kinds = new Map(questionsOf(earlier.notice).map(({ id, kind }) => [id, kind]))
  const wanted = questionsOf(notice).filter(({ id, kind }) =>
    kind !== 'posts' && kind !== 'cities' && kinds.get(id) === kind && !anew.has(id) && isAnswered(earlier.answers, id)
  )
  // One answer may bound another: what is left out takes along what hangs on it.
  let taken = wanted
  for (;;) {
    const answers = Object.fromEntries(taken.flatMap(({ id }) => earlier.answers[id] === undefined ? [] : [[id, earlier.answers[id]]]))
    const good = taken.filter(question => checkAnswer(question, { notice, answers, today }).length === 0)
    if (good.length === taken.length) return answers
    taken = good
  }
}
