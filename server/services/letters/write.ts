import { eq, inArray, isNull, sql } from 'drizzle-orm'
import { filledIn } from '../../../core/application/announcement'
import { afterQuiet } from '../../../core/letters/quiet'
import { noticeIn } from '../../../core/notice/languages'
import type { Notice } from '../../../core/notice/schema'
import { grouped } from '../../../shared/grouped'
import { alone, type Executor } from '../../database/client'
import { announcement, application, contact, message, principal } from '../../database/schema'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { postLetter } from './outbox'

const atOnce = 500
/** From so many of one account on, what is told of its applications at one time comes as one letter; common practice, no source. */
const groupFrom = 3

/**
 * Turns what acts owe to candidates into letters to the addresses that they have proved. What nobody can be told of is done with, too: the
 * office reads it in the application.
 */
export async function writeLetters(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'letters', () =>
    context.db.transaction(async (tx) => {
      const owed = await owedNow(tx)
      if (owed.length === 0) return 0
      const contacts = grouped(
        await tx.select().from(contact).where(inArray(contact.principalId, owed.flatMap(({ owner }) => owner ?? []))),
        one => one.principalId,
      )
      const notices = new Map<string, Notice>()
      for (const code of new Set(owed.map(row => row.cycle))) notices.set(code, (await currentNotice(tx, code)).notice)
      const read = new Map<string, Notice>()
      const announced = new Map((await tx.select().from(announcement).where(inArray(
        announcement.id,
        owed.flatMap(row => row.announcement ?? []),
      ))).map(row => [row.id, row]))
      // What one act, or one letter to many, tells of several applications of one account.
      const groups = grouped(owed, ({ id, owner, cycle, kind, announcement: of }) => owner === null ? id : [owner, cycle, kind, of].join())
      for (const group of groups.values()) {
        const [first] = group
        const written = first && notices.get(first.cycle)
        if (!written) continue
        // All of one account in the language in which it reads.
        const place = `${first.cycle} ${first.readsIn ?? ''}`
        const notice = read.get(place) ?? noticeIn(written, first.readsIn)
        read.set(place, notice)
        for (const to of contacts.get(first.owner ?? '') ?? []) {
          const notBefore = to.channel === 'mobile' ? afterQuiet(context.now(), notice.body.zone, notice.body.quietHours) : null
          const texts = textsOf(context, notice, group, to.channel === 'mobile', announced.get(first.announcement ?? ''))
          for (const text of texts) {
            await postLetter(tx, context, {
              principalId: to.principalId,
              channel: to.channel,
              address: to.address,
              notBefore,
              isOfMany: first.announcement !== null,
              ...text,
            })
          }
        }
      }
      await tx.update(message).set({ sentAt: context.now() }).where(inArray(message.id, owed.map(row => row.id)))
      return owed.length
    }))
  return done?.result ?? 0
}

const owedNow = (tx: Executor) =>
  tx.select({
    id: message.id,
    cycle: message.cycle,
    kind: message.kind,
    number: application.number,
    name: application.displayName,
    owner: application.ownerId,
    readsIn: principal.readsIn,
    told: message.parameters,
    announcement: message.announcementId,
  }).from(message).innerJoin(application, eq(application.id, message.applicationId)).leftJoin(
    principal,
    eq(principal.id, application.ownerId),
  ).where(isNull(message.sentAt)).orderBy(
    sql`${message.announcementId} is not null`,
    message.at,
  ).limit(atOnce)
type Owed = Awaited<ReturnType<typeof owedNow>>[number]

/**
 * The letters to one address about some applications of one account: one of them all from `groupFrom` on. A letter to many that says the
 * same of each is sent once however few they are.
 */
function textsOf(
  context: Context,
  notice: Notice,
  group: readonly Owed[],
  toTelephone: boolean,
  many?: { subject: string, text: string },
): { subject: string, body: string, tells: string[] }[] {
  const { actLetter, groupLetter } = context.language.letters
  if (many) {
    const all = group.map(({ id, name, number }) => {
      const fill = (text: string) => filledIn(text, { name, number, examination: notice.title })
      return { id, subject: fill(many.subject), body: fill(many.text) }
    })
    return [...grouped(all, ({ subject, body }) => JSON.stringify([subject, body])).values()].flatMap(same =>
      same.slice(0, 1).map(({ subject, body }) => ({ subject, body, tells: same.map(one => one.id) }))
    )
  }
  const all = group.flatMap(({ id, kind, number, name, told }) =>
    kind === 'announce' ? [] : [{ id, number, name, ...actLetter(notice, kind, { number, name }, told, toTelephone) }]
  )
  return all.length < groupFrom
    ? all.map(({ id, subject, body }) => ({ subject, body, tells: [id] }))
    : [{ ...groupLetter(notice, all, toTelephone), tells: all.map(one => one.id) }]
}
