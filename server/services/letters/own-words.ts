import { and, desc, eq } from 'drizzle-orm'
import { noticeIn } from '../../../core/notice/languages'
import { shortMessages } from '../../../core/letters/sms'
import type { LetterTrial, LetterTried } from '../../../shared/notice'
import { refusal } from '../../../shared/refusal'
import { application, message, principal } from '../../database/schema'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'

/** Letters in the office's own words, tried on somebody before they go out. */

/**
 * A letter as a person of the cycle would get it, with what they were told last about the same thing; nothing is sent.
 *
 * @throws ProblemError `application.unknown` for a number that nobody has there.
 */
export async function tryLetter(caller: Caller, cycleCode: string, { letter, number }: LetterTrial): Promise<LetterTried> {
  const { db, language } = await caller.authorise('letters.announce', { cycle: cycleCode })
  const { notice } = await currentNotice(db, cycleCode)
  const [person] = await db.select({
    id: application.id,
    number: application.number,
    name: application.displayName,
    readsIn: principal.readsIn,
  }).from(application).leftJoin(principal, eq(principal.id, application.ownerId))
    .where(and(eq(application.cycle, cycleCode), eq(application.number, number)))
  if (!person) throw refusal('application.unknown')
  const [told] = await db.select({ parameters: message.parameters }).from(message)
    .where(and(eq(message.applicationId, person.id), eq(message.kind, letter.act))).orderBy(desc(message.at)).limit(1)
  const as = (toTelephone: boolean) =>
    language.letters.actLetter(
      noticeIn({ ...notice, letters: [letter] }, person.readsIn),
      letter.act,
      person,
      told?.parameters,
      toTelephone,
    )
  const toTelephone = as(true).body
  return { ...as(false), toTelephone, ...shortMessages(toTelephone), isTold: told !== undefined }
}
