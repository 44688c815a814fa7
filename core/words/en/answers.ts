import type { Answer } from '../../application/answers'
import { parseCalendarDate } from '../../calendar/calendar-date'
import { spellBirthday, spellMonth } from '../../calendar/zone'
import type { Column } from '../../notice/questions'
import type { Notice } from '../../notice/schema'

/** One answer as people read it; a dash for none. A question that the notice does not ask shows its answer as stored. */
export function spellAnswer(notice: Notice, question: string, answer: Answer | undefined): string {
  if (answer === undefined || answer.length === 0) return '–'
  const asked = notice.sections.flatMap(s => s.questions).find(q => q.id === question)
  if (typeof answer === 'string') {
    if (asked?.kind === 'date') return spellDay(answer, asked.monthOnly)
    return asked?.kind === 'choice' ? asked.options.find(o => o.id === answer)?.title ?? answer : answer
  }
  const columns = asked?.kind === 'table' ? asked.columns : []
  const isRanked = asked?.kind === 'cities' || (asked?.kind === 'posts' && asked.ranked)
  const title = (id: string) => (asked?.kind === 'cities' ? notice.cities : notice.posts).find(one => one.id === id)?.title ?? id
  return answer.map(member => typeof member === 'string' ? title(member) : spellRow(member, columns))
    .join(isRanked ? ' › ' : asked?.kind === 'table' ? '; ' : ', ')
}

function spellRow(row: Record<string, string>, columns: Column[]): string {
  return columns.map((column, i) => {
    const cell = row[column.id] ?? ''
    if (cell === '') return ''
    const shown = column.kind === 'choice'
      ? column.options.find(o => o.id === cell)?.title ?? cell
      : column.kind === 'date'
      ? spellDay(cell, column.monthOnly)
      : cell
    return i === 0 ? shown : `${column.label.toLowerCase()} ${shown}`
  }).filter(text => text !== '').join(' ')
}

function spellDay(text: string, monthOnly = false): string {
  if (!parseCalendarDate(text)) return text
  return monthOnly ? spellMonth(text) : spellBirthday(text)
}
