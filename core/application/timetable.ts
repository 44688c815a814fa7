import type { Notice, TestPaper } from '../notice/schema'
import type { Session } from '../notice/centre-schema'
import type { Answers } from './answers'
import { clockAfter, extraMinutes, requestsMade } from './requests'

/** The test papers that some posts want, each once, in the notice's order. */
export function testPapersOf({ posts, testPapers }: Pick<Notice, 'posts' | 'testPapers'>, chosen: readonly string[]): TestPaper[] {
  const wanted = new Set(posts.filter(post => chosen.includes(post.id)).flatMap(post => post.testPapers))
  return testPapers.filter(paper => wanted.has(paper.id))
}

/**
 * Whether nobody can sit two sessions: they are one and the same, or, on one day, the gate of the one closes before the other is over.
 * Sessions that overlap in time always collide. Common practice, no source.
 *
 * @param anHour minutes more for each hour, of somebody who has compensatory time.
 */
export function collide(a: Session, b: Session, anHour = 0): boolean {
  if (a.id === b.id) return true
  const over = (session: Session) => clockAfter(session.ends, extraMinutes(session, anHour))
  return a.date === b.date && a.gateCloses < over(b) && b.gateCloses < over(a)
}

/** More ways than this are not looked at: nobody needs them, and they multiply. */
const mostWays = 64

/**
 * The ways to sit some test papers: for each paper, in their order, one of its sessions, no two of which collide. Empty when nobody can sit
 * them all; one empty way for no papers. At most 64 ways, in the order of the papers' sessions.
 */
export function waysToSit({ sessions }: Pick<Notice, 'sessions'>, papers: readonly TestPaper[], anHour = 0): Session[][] {
  const byId = new Map(sessions.map(session => [session.id, session]))
  const ways: Session[][] = []
  const chosen: Session[] = []
  const go = (at: number): void => {
    const paper = papers[at]
    if (!paper) {
      ways.push([...chosen])
      return
    }
    for (const id of paper.sessions) {
      const session = byId.get(id)
      if (ways.length === mostWays || !session || chosen.some(other => collide(session, other, anHour))) continue
      chosen.push(session)
      go(at + 1)
      chosen.pop()
    }
  }
  go(0)
  return ways
}

/** Whether one person can sit all test papers of some posts. */
export const canSit = (notice: Pick<Notice, 'posts' | 'testPapers' | 'sessions'>, posts: readonly string[], anHour = 0): boolean =>
  waysToSit(notice, testPapersOf(notice, posts), anHour).length > 0

/** Minutes more for each hour that somebody asks for, and was not declined: with them a session may run into the next. */
export const minutesAskedFor = (notice: Notice, answers: Answers): number =>
  Math.max(
    0,
    ...requestsMade(notice, answers).map(({ rule, word }) => rule.kind === 'time' && word !== 'declined' ? rule.minutesAnHour : 0),
  )

/**
 * Which of the chosen posts cannot be sat by one person: each pair, or, where every pair can, all together; by their ids in the order of
 * choice.
 */
export function collisionsAmong(notice: Notice, answers: Answers, chosen: readonly string[]): string[][] {
  if (notice.testPapers.length === 0) return []
  const anHour = minutesAskedFor(notice, answers)
  if (canSit(notice, chosen, anHour)) return []
  const pairs = chosen.flatMap((first, i) =>
    chosen.slice(i + 1).filter(second => !canSit(notice, [first, second], anHour)).map(second => [first, second])
  )
  return pairs.length > 0 ? pairs : [[...chosen]]
}

/** A chosen test paper on the timetable: when it may be sat. */
export interface PaperTime {
  paper: TestPaper
  /** Titles of the posts that want it. */
  posts: string[]
  sessions: Session[]
}

/** The test papers of the chosen posts with their sessions, in order of time. */
export function timetableOf(notice: Notice, chosen: readonly string[]): PaperTime[] {
  const times = testPapersOf(notice, chosen).map(paper => ({
    paper,
    posts: notice.posts.filter(post => chosen.includes(post.id) && post.testPapers.includes(paper.id)).map(post => post.title),
    sessions: notice.sessions.filter(session => paper.sessions.includes(session.id)).sort((a, b) => startOf(a).localeCompare(startOf(b))),
  }))
  return times.sort((a, b) => startOf(a.sessions[0]).localeCompare(startOf(b.sessions[0])))
}

/** When a session starts, as text that sorts by time; empty for none. */
export const startOf = (session: Session | undefined) => session ? `${session.date} ${session.starts}` : ''

/** The first of the chosen posts that cannot be sat together with another; null when all can. */
export function inTheWay(
  notice: Pick<Notice, 'posts' | 'testPapers' | 'sessions'>,
  chosen: readonly string[],
  other: string,
): string | null {
  if (notice.testPapers.length === 0 || chosen.includes(other)) return null
  const met = chosen.find(post => !canSit(notice, [post, other]))
  return notice.posts.find(post => post.id === met)?.title ?? null
}
