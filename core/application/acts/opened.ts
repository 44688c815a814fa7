import { questionsRead } from '../../eligibility/dependence'
import type { Notice } from '../../notice/schema'
import { slotOf } from '../slots'

/**
 * The questions and slots that a correction opens when these items were named. A post opens what its verdict is read from, and the list
 * of posts itself; a question or slot opens itself.
 */
export function openedBy(notice: Notice, items: readonly string[]): string[] {
  return [...new Set(items.flatMap((item) => {
    const post = notice.posts.find(p => p.id === item)
    if (post) return ['posts', ...questionsRead(notice, post)]
    return [item]
  }))].sort()
}

/** Whether a correction may change a question or slot. Questions and slots that only what was opened has brought up are open, too. */
export function isOpened(notice: Notice, opened: readonly string[] | null, item: string): boolean {
  if (opened === null || opened.includes(item)) return true
  const question = notice.sections.flatMap(s => s.questions).find(q => q.id === item)
  const slot = slotOf(notice, item)
  const condition = question?.when ?? (slot?.as === 'document' ? slot.rule.when : undefined)
  return condition !== undefined && namesAny(condition, new Set(opened))
}

function namesAny(condition: unknown, questions: ReadonlySet<string>): boolean {
  if (typeof condition !== 'object' || condition === null) return false
  return Object.entries(condition).some(([key, value]) =>
    key === 'question'
      ? questions.has(String(value))
      : Array.isArray(value)
      ? value.some(part => namesAny(part, questions))
      : namesAny(value, questions)
  )
}
