import { spellAmount } from '~~/core/fees/assess'
import { spellInstantShort } from '~~/core/calendar/zone'
import type { Answer } from '~~/core/application/answers'
import { slotOf } from '~~/core/application/slots'
import type { Notice } from '~~/core/notice/schema'

/** Words for values of the present notice. */
export function useSpelling() {
  const cycle = useCycleStore()
  const notice = (): Notice | null => cycle.notice
  const amount = (minor: number) => spellAmount(minor, notice()?.body.currency ?? { code: '', exponent: 2 })
  /** An amount of whatever currency was told; how many decimals one has, the browser knows. */
  const amountIn = (minor: number, code: string) =>
    code === notice()?.body.currency.code ? amount(minor) : spellAmount(minor, { code, exponent: decimalsOf(code) })
  const instant = (at: string | null | undefined) => {
    if (!at) return ''
    const zone = notice()?.body.zone
    return zone ? spellInstantShort(at, zone) : at
  }
  const question = (id: string) => notice()?.sections.flatMap(s => s.questions).find(q => q.id === id)
  const city = (id: string | null) => notice()?.cities.find(c => c.id === id)?.title ?? id ?? '–'
  const session = (id: string) => notice()?.sessions.find(s => s.id === id)?.title ?? id
  const post = (id: string) => notice()?.posts.find(p => p.id === id)?.title ?? id
  const category = (id: string) => notice()?.categories.find(c => c.id === id)?.title ?? id
  const answer = (id: string, value: Answer | undefined): string => {
    const current = notice()
    return current ? useWords().answers.spellAnswer(current, id, value) : '–'
  }
  const subject = (id: string) => notice()?.subjects.find(s => s.id === id)?.title ?? id
  const item = (id: string) => {
    const current = notice()
    return question(id)?.label ?? (current && slotOf(current, id)?.title) ?? id
  }
  return { amount, amountIn, instant, question, city, session, post, category, answer, subject, item }
}

/** How much the server's clock is ahead of this machine's, which may be wrong by hours. */
let ahead = 0
/** Sets clocks by what the server says; it tells whole seconds. */
export function followServer(date: string | null): void {
  const told = Date.parse(date ?? '') - Date.now()
  if (!Number.isNaN(told)) ahead = Math.abs(told) < 2000 ? 0 : told
}

/** The present moment by the server's clock, moving on every `milliseconds`. */
export function useNow(milliseconds = 15_000) {
  const now = ref(new Date(Date.now() + ahead))
  const timer = setInterval(() => {
    now.value = new Date(Date.now() + ahead)
  }, milliseconds)
  onScopeDispose(() => clearInterval(timer))
  return now
}

const decimalsOf = (code: string) =>
  new Intl.NumberFormat('en', { style: 'currency', currency: code || 'XXX' }).resolvedOptions().maximumFractionDigits ?? 2
