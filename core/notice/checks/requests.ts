import { clockAfter, extraMinutes } from '../../application/requests'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice, RequestRule } from '../schema'

/** Requests that name nothing of the notice, come too late, or run into the next session. */
export function requestFindings(notice: Notice): NoticeFinding[] {
  const questions = new Set(notice.sections.flatMap(s => s.questions).map(q => q.id))
  const documents = new Set(notice.documents.map(d => d.id))
  return notice.requests.flatMap((rule, i) => {
    const at = (...steps: (string | number)[]) => pointer('requests', i, ...steps)
    const unknown = (list: readonly string[], known: ReadonlySet<string>, of: string, part: string) =>
      list.flatMap((value, k) => known.has(value) ? [] : [found('member.unknown', at(part, k), { value, of })])
    return [
      ...notice.requests.findIndex(one => one.id === rule.id) < i ? [found('id.twice', at('id'), { id: rule.id })] : [],
      ...unknown(rule.about, questions, 'questions', 'about'),
      ...unknown(rule.papers, documents, 'documents', 'papers'),
      ...rule.kind === 'late proof'
        ? [...unknown(rule.follow, documents, 'documents', 'follow'), ...lateFindings(notice, rule, at('until'))]
        : [],
      ...rule.kind === 'exception' ? clauseFindings(notice, rule, i) : [],
      ...rule.kind === 'time' ? timeFindings(notice, rule, at('minutesAnHour')) : [],
    ]
  })
}

function clauseFindings({ posts }: Notice, { clauses }: Extract<RequestRule, { kind: 'exception' }>, i: number): NoticeFinding[] {
  return clauses.flatMap(({ post, clause }, k) => {
    const named = posts.find(one => one.id === post)
    if (!named) return [found('member.unknown', pointer('requests', i, 'clauses', k, 'post'), { value: post, of: 'posts' })]
    return named.clauses.some(one => one.code === clause)
      ? []
      : [found('member.unknown', pointer('requests', i, 'clauses', k, 'clause'), { value: clause, of: 'clauses' })]
  })
}

// Nobody is accepted without the paper: one that comes after cards go out keeps its person from a card.
const lateFindings = ({ keyDates }: Notice, { until }: Extract<RequestRule, { kind: 'late proof' }>, at: string): NoticeFinding[] =>
  Date.parse(until) > Date.parse(keyDates.cardsFrom)
    ? [found('dates.order', at, { earlier: 'until', later: 'cardsFrom', before: until, after: keyDates.cardsFrom })]
    : []

// Whoever has more time still writes while the next session reports.
function timeFindings({ sessions }: Notice, { title, minutesAnHour }: Extract<RequestRule, { kind: 'time' }>, at: string): NoticeFinding[] {
  return sessions.flatMap((session) => {
    const ends = clockAfter(session.ends, extraMinutes(session, minutesAnHour))
    const next = sessions.find(other => other.date === session.date && other.starts > session.starts && other.reporting < ends)
    return next ? [found('request.overlap', at, { title, session: session.title, ends, next: next.title, reporting: next.reporting })] : []
  })
}
