import { and, desc, eq, isNotNull, isNull, ne } from 'drizzle-orm'
import { may } from '../../../core/access/permissions'
import { answersToTakeOver } from '../../../core/application/earlier'
import { slotOf } from '../../../core/application/slots'
import { dateInZone } from '../../../core/calendar/zone'
import type { Inspector } from '../../../pictures/inspect'
import type { ImageView } from '../../../shared/applications'
import type { EarlierFile, EarlierForm } from '../../../shared/earlier'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application } from '../../database/schema'
import { relationsTo, type Caller } from '../context'
import { readFile } from '../files/bytes'
import { currentImages } from '../images/current'
import { addImage } from '../images/store'
import { currentNotice } from '../notice/notices'
import { readApplication, type ApplicationRow } from './store'

/** What an account has given in an earlier form, for the draft that it writes now: looked through, and saved like what is typed. */

const shownAtMost = 5

const ofTheSame = (row: ApplicationRow) =>
  and(
    eq(application.ownerId, row.ownerId ?? row.id),
    ne(application.id, row.id),
    isNotNull(application.submittedAt),
    isNull(application.erasedAt),
  )

/** Earlier forms of whoever has a draft, the newest first; none where there is no draft, or nobody has it. */
export async function earlierForms(caller: Caller, id: string): Promise<EarlierForm[]> {
  const { db, principal, now } = await caller.authorise('applications.read', { application: id })
  const row = await readApplication(db, id)
  if (row.form !== 'drafting' || row.ownerId === null) return []
  const { notice } = await currentNotice(db, row.cycle)
  const today = dateInZone(now(), notice.body.zone)
  const earlier = await db.select().from(application).where(ofTheSame(row)).orderBy(desc(application.submittedAt)).limit(shownAtMost)
  return Promise.all(earlier.map(async (one) => {
    const { notice: then } = await currentNotice(db, one.cycle)
    const files = may(principal, 'files.read', relationsTo(principal, one)) ? await slotsFilled(db, one.id) : []
    return {
      id: one.id,
      number: one.number,
      name: one.displayName,
      title: then.title,
      submittedAt: one.submittedAt?.toISOString() ?? '',
      answers: answersToTakeOver(notice, { notice: then, answers: one.answers }, today),
      files: files.filter(slot => slotOf(notice, slot)?.as === slotOf(then, slot)?.as && slotOf(notice, slot) !== null),
    }
  }))
}

const slotsFilled = async (db: Executor, id: string): Promise<string[]> =>
  Object.values(await currentImages(db, id)).flatMap(one => one?.state === 'measured' ? [one.kind] : [])

/**
 * Adds a file of an earlier form of the same account: measured anew, by the rules of this notice.
 *
 * @throws ProblemError `earlier.unknown` where the form is nobody's of this account, or has no such file.
 */
export async function takeFileOver(caller: Caller, inspect: Inspector, id: string, { from, slot }: EarlierFile): Promise<ImageView> {
  const { db } = await caller.authorise('applications.write', { application: id })
  const row = await readApplication(db, id)
  const [earlier] = row.ownerId === null
    ? []
    : await db.select().from(application).where(and(ofTheSame(row), eq(application.id, from)))
  if (!earlier) throw refusal('earlier.unknown')
  await caller.authorise('files.read', { application: from })
  const file = (await currentImages(db, from))[slot]
  if (!file) throw refusal('earlier.unknown')
  return addImage(caller, inspect, id, slot, { bytes: await readFile(db, file.sha256), edits: file.edits })
}
