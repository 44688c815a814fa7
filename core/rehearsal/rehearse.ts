import { listAnswer, liveSheet, textAnswer, type Answers } from '../application/answers'
import { sheetFaults } from '../application/sheet'
import { documentsAsked } from '../application/slots'
import type { CalendarDate } from '../calendar/calendar-date'
import { assessFee } from '../fees/assess'
import type { Finding } from '../finding/finding'
import type { Notice } from '../notice/schema'
import { inventPerson, type Spread } from './invent'
import { places, type Places } from './places'
import { Random } from '../random'

/**
 * What some thousand invented people make of a notice; counts are of those people, but for cities, which are scaled to the numbers that the
 * body expects.
 */
export interface Rehearsal extends Places {
  people: number
  /** Whose form could be handed in: nothing missing or wrong, and no chosen post shut. */
  complete: number
  /** What could not be answered as it is asked, the most frequent first. */
  faults: { finding: Finding, n: number }[]
  /** Questions and papers that were asked of few or none, the rarest first. */
  rare: { id: string, title: string, n: number }[]
  posts: {
    id: string,
    title: string,
    open: number,
    unsure: number,
    shut: number,
    chosen: number,
    /** The clauses that shut it, by how many people. */
    why: { clause: string, text: string, n: number }[],
  }[]
  /** To whom no post at all was open. */
  noPost: number
  /** Of complete forms, in minor units. */
  fees: { total: number, least: number, most: number, payers: number, byCategory: { id: string, title: string, n: number, sum: number }[] }
  /** How many real people one invented stands for. */
  scale: number
}

const rareShown = 12

/**
 * Tries a notice with invented people, who are the same for the same seed, and places those whose form is whole as a run would.
 *
 * @param tell is told how many were tried so far; answers whether to go on.
 */
export function rehearse(
  notice: Notice,
  spread: Spread,
  today: CalendarDate,
  seed = 1,
  tell: (done: number) => boolean = () => true,
): Rehearsal {
  const random = new Random(seed)
  const seen = newTally(notice)
  for (let i = 0; i < spread.people && tell(i); i += 1) take(seen, notice, spread, random, today, (i + 0.5) / spread.people)
  const scale = notice.expected && seen.complete > 0 ? notice.expected.applicants / seen.complete : 1
  const titles = new Map([...notice.sections.flatMap(s => s.questions).map(q => [q.id, q.label] as const),
    ...notice.documents.map(d => [d.id, d.title] as const)])
  return {
    people: seen.people,
    complete: seen.complete,
    noPost: seen.noPost,
    scale,
    faults: [...seen.faults.values()].sort((a, b) => b.n - a.n),
    rare: [...titles].map(([id, title]) => ({ id, title, n: seen.asked.get(id) ?? 0 })).filter(one => one.n * 100 < seen.people).sort((
      a,
      b,
    ) => a.n - b.n).slice(0, rareShown),
    posts: [...seen.posts.values()].map(({ why, ...post }) => ({ ...post, why: [...why.values()].sort((a, b) => b.n - a.n) })),
    fees: {
      ...seen.fees,
      least: seen.fees.payers > 0 ? seen.fees.least : 0,
      byCategory: [...seen.categories.values()].filter(one => one.n > 0),
    },
    ...places(notice, seen.placed, scale),
  }
}

type PostTally = Omit<Rehearsal['posts'][number], 'why'> & { why: Map<string, { clause: string, text: string, n: number }> }
interface Tally {
  people: number
  complete: number
  noPost: number
  faults: Map<string, { finding: Finding, n: number }>
  asked: Map<string, number>
  posts: Map<string, PostTally>
  fees: Omit<Rehearsal['fees'], 'byCategory'>
  categories: Map<string, { id: string, title: string, n: number, sum: number }>
  /** Answers of those who could hand the form in. */
  placed: Answers[]
}

function newTally(notice: Notice): Tally {
  return {
    people: 0,
    complete: 0,
    noPost: 0,
    faults: new Map(),
    asked: new Map(),
    placed: [],
    fees: { total: 0, least: Infinity, most: 0, payers: 0 },
    posts: new Map(notice.posts.map(({ id, title }) => [id, { id, title, open: 0, unsure: 0, shut: 0, chosen: 0, why: new Map() }])),
    categories: new Map(notice.categories.map(({ id, title }) => [id, { id, title, n: 0, sum: 0 }])),
  }
}

/** `share` is the part of the days between opening and close that was over when somebody handed the form in: they come evenly. */
function take(seen: Tally, notice: Notice, spread: Spread, random: Random, today: CalendarDate, share: number): void {
  const { answers, verdicts } = inventPerson(notice, spread, random, today)
  seen.people += 1
  const count = (id: string) => seen.asked.set(id, (seen.asked.get(id) ?? 0) + 1)
  for (const question of liveSheet(notice, answers).asked) count(question.id)
  for (const paper of documentsAsked(notice, answers)) count(paper.id)
  const chosen = listAnswer(answers, 'posts')
  for (const { post, verdict, findings } of verdicts) {
    const tally = seen.posts.get(post)
    if (!tally) continue
    if (chosen.includes(post)) tally.chosen += 1
    tally[verdict === 'pass' ? 'open' : verdict === 'fail' ? 'shut' : 'unsure'] += 1
    for (
      const clause of new Set(findings.flatMap(finding => finding.verdict === 'fail' && finding.origin ? [finding.origin.clause] : []))
    ) {
      const text = notice.posts.find(one => one.id === post)?.clauses.find(one => one.clause === clause)?.text ?? ''
      tally.why.set(clause, { clause, text, n: (tally.why.get(clause)?.n ?? 0) + 1 })
    }
  }
  if (verdicts.every(({ verdict }) => verdict === 'fail')) seen.noPost += 1
  const faults = sheetFaults(notice, answers, today)
  for (const finding of faults) {
    const key = `${finding.about} ${finding.code}`
    seen.faults.set(key, { finding, n: (seen.faults.get(key)?.n ?? 0) + 1 })
  }
  if (faults.length > 0 || verdicts.some(({ post, verdict }) => verdict === 'fail' && chosen.includes(post))) return
  seen.complete += 1
  seen.placed.push(answers)
  const [opens, closes] = [Date.parse(notice.keyDates.opens), Date.parse(notice.keyDates.closes)]
  const total = assessFee(notice, answers, new Date(opens + share * (closes - opens)))?.total
  if (total === undefined) return
  const { fees } = seen
  seen.fees = { total: fees.total + total, least: Math.min(fees.least, total), most: Math.max(fees.most, total), payers: fees.payers + 1 }
  const category = seen.categories.get(textAnswer(answers, 'category'))
  if (!category) return
  category.n += 1
  category.sum += total
}
