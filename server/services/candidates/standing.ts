import { eq } from 'drizzle-orm'
import { textAnswer } from '../../../core/application/answers'
import type { OpenMatter } from '../../../core/application/open-matters'
import type { Tracks } from '../../../core/application/tracks'
import { readDates } from '../../../core/calendar/read-date'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/refusal'
import { application } from '../../database/schema'
import { mattersNow } from '../acts/matters'
import { tracksOf } from '../applications/store'
import { log, type Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { countTry } from '../people/pace'

/** What somebody without an account may know of one application: no name, no answer, no amount. */
export interface PublicStanding {
  number: string
  notice: Notice
  tracks: Tracks
  submittedAt: Date | null
  now: Date
  next: OpenMatter | null
}

/**
 * Where an application stands, for whoever knows its number and the date of birth or the e-mail address in it. Guessing is slowed down by
 * network and by number; a look that succeeds is logged.
 *
 * @throws ProblemError `standing.unknown`, the same whether there is no such number or the rest does not fit.
 */
export async function lookUpStanding(caller: Caller, given: { number: string, proof: string }, network: string): Promise<PublicStanding> {
  const context = await caller.authorise('examinations.read')
  const number = given.number.trim().toUpperCase()
  await countTry(context, [{ key: `standing:${network}`, free: 20, forget: 10, most: 60 }, {
    key: `standing-of:${number.slice(0, 20)}`,
    free: 6,
    forget: 600,
    most: 900,
  }])
  const [row] = await context.db.select().from(application).where(eq(application.number, number))
  const proof = given.proof.trim()
  const [bornOn, email] = row ? [textAnswer(row.answers, 'bornOn'), textAnswer(row.answers, 'email').trim().toLowerCase()] : ['', '']
  const fits = proof.includes('@') ? email !== '' && proof.toLowerCase() === email : bornOn !== '' && readDates(proof).includes(bornOn)
  if (!row || !fits) throw refusal('standing.unknown')
  const { notice } = await currentNotice(context.db, row.cycle)
  const matters = await mattersNow(context.db, context, row, notice)
  // What the office asks itself about somebody is never told.
  const [next] = matters.filter(matter => matter.kind !== 'likely-duplicate' && matter.kind !== 'barred')
  await log(context.db, context, 'look-up-standing', {
    subject: { kind: 'application', id: row.id },
    cycle: row.cycle,
    after: { by: proof.includes('@') ? 'email' : 'bornOn' },
  })
  return { number, notice, tracks: tracksOf(row), submittedAt: row.submittedAt, now: context.now(), next: next ?? null }
}
