import { and, desc, eq, inArray, isNull, lt, or, sql } from 'drizzle-orm'
import { filledIn } from '../../../core/application/announcement'
import type { Channel } from '../../../core/identity/address'
import type { Notice } from '../../../core/notice/schema'
import type { LetterPage } from '../../../shared/candidates'
import { alone, type Executor } from '../../database/client'
import { announcement, application, contact, letter, message } from '../../database/schema'
import type { MessageGateway } from '../../standins/messages'
import type { Caller, Context } from '../context'
import { settleMattersOfOwner } from '../acts/matters'
import { currentNotice } from '../notice/notices'

/** What goes out of the house: letters laid down in the transaction that owes them, and carried to the gateway afterwards. */

export interface Letter { principalId: string | null, channel: Channel, address: string, subject: string, body: string, isOfMany?: boolean }

/** Lays a letter down to be carried. */
export async function postLetter(tx: Executor, context: Context, given: Letter): Promise<void> {
  await tx.insert(letter).values({ id: context.newId(), ...given, at: context.now() })
}

const atOnce = 500

/** Turns what acts owe to candidates into letters to the addresses that they have proved. What nobody can be told of is done with, too: the office reads it in the application. */
export async function writeLetters(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'letters', () => context.db.transaction(async (tx) => {
    const owed = await tx.select({ id: message.id, cycle: message.cycle, kind: message.kind, number: application.number, name: application.displayName, owner: application.ownerId, told: message.parameters, announcement: message.announcementId }).from(message)
      .innerJoin(application, eq(application.id, message.applicationId)).where(isNull(message.sentAt)).orderBy(sql`${message.announcementId} is not null`, message.at).limit(atOnce)
    if (owed.length === 0) return 0
    const contacts = await tx.select().from(contact).where(inArray(contact.principalId, owed.flatMap(({ owner }) => owner ?? [])))
    const notices = new Map<string, Notice>()
    for (const code of new Set(owed.map(row => row.cycle))) notices.set(code, (await currentNotice(tx, code)).notice)
    const announced = new Map((await tx.select().from(announcement).where(inArray(announcement.id, owed.flatMap(row => row.announcement ?? [])))).map(row => [row.id, row]))
    const { actLetter } = context.language.letters
    for (const { cycle, kind, number, name, owner, told, announcement: of } of owed) {
      const notice = notices.get(cycle)
      for (const { principalId, channel, address } of contacts.filter(c => c.principalId === owner)) {
        if (!notice) continue
        const many = of === null ? undefined : announced.get(of)
        const fill = (text: string) => filledIn(text, { name, number, examination: notice.title })
        if (many) await postLetter(tx, context, { principalId, channel, address, subject: fill(many.subject), body: fill(many.text), isOfMany: true })
        else if (kind !== 'announce') await postLetter(tx, context, { principalId, channel, address, ...actLetter(notice, kind, number, told) })
      }
    }
    await tx.update(message).set({ sentAt: context.now() }).where(inArray(message.id, owed.map(row => row.id)))
    return owed.length
  }))
  return done?.result ?? 0
}

/** Carries waiting letters to the gateway, each under its own id, so that one that is carried twice arrives once. */
export async function carryLetters(caller: Caller, gateway: MessageGateway): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'carrying letters', async () => {
    const waiting = await context.db.select().from(letter).where(eq(letter.state, 'waiting')).orderBy(letter.isOfMany, letter.at).limit(atOnce)
    for (const { id, principalId, channel, address, subject, body } of waiting) {
      const taken = await gateway.take({ id, channel, address, subject, body })
      await context.db.transaction(async (tx) => {
        await tx.update(letter).set({ state: taken ? 'delivered' : 'refused', settledAt: context.now() }).where(and(eq(letter.id, id), eq(letter.state, 'waiting')))
        if (principalId !== null && (!taken || await isMissed(tx, principalId))) await settleMattersOfOwner(tx, context, principalId)
      })
    }
    return waiting.length
  })
  return done?.result ?? 0
}

/** Whether the office knows that somebody was not reached. */
async function isMissed(tx: Executor, owner: string): Promise<boolean> {
  const { rows } = await tx.execute(sql`select 1 from application a join open_matter m on m.application_id = a.id where a.owner_id = ${owner} and m.kind = 'message-bounced' and m.cleared_at is null limit 1`)
  return rows.length > 0
}

const pageSize = 50

/** The outbox for staff, the newest first; `after` is the last of the page before, as "moment id". */
export async function readOutbox(caller: Caller, search: string, after?: { at: string, id: string }): Promise<LetterPage> {
  const { db } = await caller.authorise('letters.read')
  const found = search.trim() === '' ? undefined : sql`position(lower(${search.trim()}) in lower(${letter.address})) > 0`
  const before = after ? or(lt(letter.at, new Date(after.at)), and(eq(letter.at, new Date(after.at)), lt(letter.id, after.id))) : undefined
  const rows = await db.select().from(letter).where(and(found, before)).orderBy(desc(letter.at), desc(letter.id)).limit(pageSize)
  return {
    rows: rows.map(({ id, channel, address, subject, body, at, state }) => ({ id, channel, address, subject, body, at: at.toISOString(), state })),
    next: rows.length === pageSize ? { at: rows.at(-1)?.at.toISOString() ?? '', id: rows.at(-1)?.id ?? '' } : null,
  }
}
