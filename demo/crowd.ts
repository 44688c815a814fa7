import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import type { Notice } from '../core/notice/schema'
import { applicationNumber } from '../core/identity/check-digit'
import { nameKey } from '../core/identity/names'
import { inTheWay } from '../core/application/timetable'
import { headline, type Tracks } from '../core/application/tracks'
import { textAnswer } from '../core/application/answers'
import type { Database } from '../server/database/client'
import { application, cycle, headlineChange, openMatter } from '../server/database/schema'
import { makePerson } from './people'
import { Random } from './random'

/**
 * Many made-up people at once, without pictures: applied over the last weeks, more each day, and accepted. Written in one sweep and
 * not through the services, which would take an hour.
 */
export async function loadCrowd(db: Database, notice: Notice, people: number, now: Date, seed = 1): Promise<void> {
  const opened = new Date(notice.keyDates.opens).getTime()
  const end = Math.min(now.getTime(), new Date(notice.keyDates.closes).getTime())
  const accepted: Tracks = { form: 'submitted', fee: 'nothing due', scrutiny: 'accepted', placement: 'unplaced', card: 'not issued' }
  const [row] = await db.select().from(cycle).where(eq(cycle.code, notice.code))
  const before = row?.lastSerial ?? 0
  for (let from = 0; from < people; from += 500) {
    const rows = Array.from({ length: Math.min(500, people - from) }, (_, i) => {
      const random = new Random(seed * 1_000_003 + from + i)
      const { answers } = makePerson(random, notice, from + i)
      const paper = random.pick(notice.posts).id
      // Where there are test papers some sit a second one that does not collide.
      const second = notice.posts.filter(post => post.id !== paper && inTheWay(notice, [paper], post.id) === null)
      answers.posts = notice.testPapers.length > 0 && second.length > 0 && random.chance(0.4) ? [paper, random.pick(second).id] : [paper]
      // More people come the nearer the close: the square root bends an even draw that way.
      const submittedAt = new Date(opened + (end - opened) * Math.sqrt(random.between(0.02, 0.99)))
      return {
        id: randomUUID(),
        cycle: notice.code,
        number: applicationNumber(notice.code, before + from + i + 1),
        answers,
        ...accepted,
        headline: headline(accepted),
        nameKey: nameKey(textAnswer(answers, 'certificateName')),
        mobileKey: textAnswer(answers, 'mobile'),
        displayName: textAnswer(answers, 'certificateName'),
        headlineSince: submittedAt,
        createdAt: new Date(submittedAt.getTime() - 3_600_000),
        submittedAt,
        updatedAt: submittedAt,
      }
    })
    await db.insert(application).values(rows)
    await db.insert(openMatter).values(rows.map(r => ({
      id: randomUUID(),
      applicationId: r.id,
      cycle: notice.code,
      kind: 'placement' as const,
      about: '',
      owner: 'officer' as const,
      holds: 'seat' as const,
      parameters: {},
      since: r.submittedAt,
    })))
    await db.insert(headlineChange).values(rows.map(r => ({
      id: randomUUID(),
      applicationId: r.id,
      cycle: notice.code,
      from: 'in scrutiny' as const,
      to: 'accepted' as const,
      at: r.submittedAt,
    })))
  }
  await db.update(cycle).set({ lastSerial: sql`${cycle.lastSerial} + ${people}` }).where(eq(cycle.code, notice.code))
}
