import type { SittingKind } from '../allocation/instance'
import { waysWithKept } from '../allocation/kept'
import { listAnswer, type Answers } from '../application/answers'
import { minutesAnHour } from '../application/requests'
import { testPapersOf, waysToSit } from '../application/timetable'
import type { Notice } from '../notice/schema'

/**
 * People by what they sit: the test papers of their posts, the ways through the sessions that compensatory time leaves them, and the kept
 * seats that they may have. Without test papers everybody sits once, in whichever session.
 */
export class SittingKinds {
  readonly all: SittingKind[] = []
  private readonly places = new Map<string, number>()

  constructor(private readonly notice: Notice) {}

  /** Whether it matters what people sit: there are test papers, or seats are kept for some. */
  static matterIn({ testPapers, allocation }: Notice): boolean {
    return testPapers.length > 0 || allocation.kept.length > 0
  }

  /** The kind of somebody, by the answers that count and the kept seats that they may have; a new one when nobody before was of it. */
  kindOf(counted: Answers, kept: number): number {
    const { testPapers, sessions, allocation } = this.notice
    const once = testPapers.length === 0
    const anHour = once ? 0 : minutesAnHour(this.notice, counted)
    const papers = testPapersOf(this.notice, listAnswer(counted, 'posts'))
    const key = JSON.stringify([anHour, papers.map(paper => paper.id), kept])
    const known = this.places.get(key)
    if (known !== undefined) return known
    const at = (id: string) => sessions.findIndex(session => session.id === id)
    const ways = once
      ? sessions.map((_, session) => [session])
      : papers.length === 0
      ? []
      : waysToSit(this.notice, papers, anHour).map(way => way.map(session => at(session.id)))
    const place = this.all.push({
      papers: once ? [''] : papers.map(paper => paper.id),
      ways: waysWithKept(ways, sessions.length, allocation.kept.length, kept),
    }) - 1
    this.places.set(key, place)
    return place
  }
}
