import type { Notice, Question } from '../notice/schema'
import { conditionHolds, type Answers } from './answers'
import { requestsMade } from './requests'

/**
 * One bound on the posts that somebody chooses: on all of them, on those of a group, or on what they count for together. `max` is null
 * where there is none.
 */
export interface PostLimit {
  of: 'all' | 'group' | 'load'
  title: string
  chosen: number
  min: number
  max: number | null
  fault: 'too few' | 'too many' | null
}

/**
 * How the chosen posts stand against every bound that holds for somebody: the question's own first, its groups, then the load. The same
 * runs beside the list while it is ticked and before submission.
 */
export function postLimits(notice: Notice, answers: Answers, chosen: readonly string[]): PostLimit[] {
  const question = notice.sections.flatMap(s => s.questions).find((q): q is Extract<Question, { kind: 'posts' }> => q.kind === 'posts')
  if (!question) return []
  const { groups, mostLoad, min, max, label } = question
  const live = { answers, closed: new Set<string>() }
  const limits = [
    limitOf('all', label, chosen.length, min, max),
    ...groups.filter(({ when }) => when === undefined || conditionHolds(when, live) === true).map(group =>
      limitOf('group', group.title, chosen.filter(post => group.posts.includes(post)).length, group.min, group.max ?? null)
    ),
  ]
  return mostLoad === undefined
    ? limits
    : [...limits,
      limitOf('load', label, chosen.reduce((sum, id) => sum + (notice.posts.find(post => post.id === id)?.load ?? 0), 0), 0, mostLoad)]
}

function limitOf(of: PostLimit['of'], title: string, chosen: number, min: number, max: number | null): PostLimit {
  return { of, title, chosen, min, max, fault: chosen < min ? 'too few' : max !== null && chosen > max ? 'too many' : null }
}

/**
 * Whether somebody asks to choose more posts than the bounds allow, and was not declined: the form goes in then, and the office decides.
 */
export const asksForMore = (notice: Notice, counted: Answers): boolean =>
  requestsMade(notice, counted).some(({ rule, word }) => rule.kind === 'limits' && word !== 'declined')
