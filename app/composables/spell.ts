import { spellAmount } from '~~/core/fees/assess'
import { parseCalendarDate } from '~~/core/calendar/calendar-date'
import { spellBirthday, spellInstantShort } from '~~/core/calendar/zone'
import type { Answer } from '~~/core/application/answers'
import type { Notice, Question } from '~~/core/notice/schema'

/** Words for values of the present notice. */
export function useSpelling() {
  const cycle = useCycleStore()
  const notice = (): Notice | null => cycle.notice
  const amount = (minor: number) => spellAmount(minor, notice()?.body.currency ?? { code: '', exponent: 2 })
  const instant = (at: string) => {
    const zone = notice()?.body.zone
    return zone ? spellInstantShort(at, zone) : at
  }
  const question = (id: string) => notice()?.sections.flatMap(s => s.questions).find(q => q.id === id)
  const city = (id: string | null) => notice()?.cities.find(c => c.id === id)?.title ?? id ?? '–'
  const post = (id: string) => notice()?.posts.find(p => p.id === id)?.title ?? id
  const category = (id: string) => notice()?.categories.find(c => c.id === id)?.title ?? id
  const answer = (id: string, value: Answer | undefined): string => {
    const asked = question(id)
    if (value === undefined || value.length === 0) return '–'
    return asked ? spellAnswer(asked, value, { city, post }) : String(value)
  }
  const item = (id: string) => question(id)?.label ?? (id === 'photograph' || id === 'signature' ? notice()?.images[id].title ?? id : id)
  return { amount, instant, question, city, post, category, answer, item }
}

function spellAnswer(asked: Question, value: Answer, words: { city: (id: string) => string, post: (id: string) => string }): string {
  if (Array.isArray(value)) return value.map(v => asked.kind === 'cities' ? words.city(v) : words.post(v)).join(asked.kind === 'cities' ? ' › ' : ', ')
  if (asked.kind === 'date') return parseCalendarDate(value) ? spellBirthday(value) : value
  return asked.kind === 'choice' ? asked.options.find(o => o.id === value)?.title ?? value : value
}

/** The present moment, moving on every `milliseconds`. */
export function useNow(milliseconds = 15_000) {
  const now = ref(new Date())
  const timer = setInterval(() => { now.value = new Date() }, milliseconds)
  onScopeDispose(() => clearInterval(timer))
  return now
}
