import type { ConditionLeaf } from '../../notice/questions'
import type { Claim, Condition, Notice } from '../../notice/schema'
import { addDays, parseCalendarDate } from '../../calendar/calendar-date'
import { dateInZone, spellDate } from '../../calendar/zone'
import { spellAnswer } from './answers'
import { oneOf } from './lists'

/** A condition of a notice in words, as "Category: not General". */
export function conditionWords(notice: Notice, condition: Condition): string {
  if ('question' in condition) return leafWords(notice, condition, false)
  if ('not' in condition) {
    return 'question' in condition.not
      ? leafWords(notice, condition.not, true)
      : `not (${conditionWords(notice, condition.not)})`
  }
  const [parts, joint] = 'all' in condition ? [condition.all, ' and '] : [condition.any, ' or ']
  return parts.map(part => 'question' in part || 'not' in part ? conditionWords(notice, part) : `(${conditionWords(notice, part)})`)
    .join(joint)
}

/** The proof of a claim in words: what it is, who may issue it, and from which day on it may be. */
export function proofWords(
  { keyDates, body }: Notice,
  { proof, issuedBy, mostDaysOld }: Pick<Claim, 'proof' | 'issuedBy' | 'mostDaysOld'>,
): string {
  const by = issuedBy && issuedBy.length > 0 ? `, issued by ${oneOf(issuedBy)}` : ''
  const from = mostDaysOld === undefined ? '' : `, of ${spellDate(addDays(dateInZone(keyDates.closes, body.zone), -mostDaysOld))} or later`
  return `${proof}${by}${from}`
}

const bound = (text: string): string => parseCalendarDate(text) === null ? text : spellDate(text)

function leafWords(notice: Notice, leaf: ConditionLeaf, denied: boolean): string {
  const label = notice.sections.flatMap(s => s.questions).find(q => q.id === leaf.question)?.label ?? leaf.question
  if ('in' in leaf) {
    return `${label}: ${denied ? 'not ' : ''}${leaf.in.map(value => spellAnswer(notice, leaf.question, value)).join(' or ')}`
  }
  const range = [leaf.from === undefined ? '' : `from ${bound(leaf.from)}`, leaf.to === undefined ? '' : `to ${bound(leaf.to)}`]
    .filter(Boolean).join(' ')
  return `${label}: ${denied ? 'not ' : ''}${range}`
}
