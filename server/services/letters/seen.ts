import { and, desc, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import type { ToldView } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { announcement, letter, message } from '../../database/schema'
import type { Caller, Context } from '../context'

/**
 * Who has read what they were told. What counts is that somebody opened the letter, or the application that it is about, here: whether mail
 * was read elsewhere cannot be known, and no picture in it asks.
 */

/** Candidates that open an application read there what was done to it; a letter to many stands elsewhere. */
export async function seeApplication(caller: Caller, id: string): Promise<void> {
  const context = await caller.authorise('letters.see', { application: id })
  await see(context, and(eq(message.applicationId, id), isNull(message.announcementId)))
}

/** One's own letter is opened. @throws ProblemError `letter.unknown` for somebody else's. */
export async function seeLetter(caller: Caller, id: string): Promise<void> {
  const context = await caller.authorise('own.read')
  const [row] = await context.db.select({ tells: letter.tells }).from(letter)
    .where(and(eq(letter.id, id), eq(letter.principalId, context.principal.id)))
  if (!row) throw refusal('letter.unknown')
  await see(context, inArray(message.id, row.tells))
}

async function see({ db, now }: Context, which: SQL | undefined): Promise<void> {
  await db.update(message).set({ unseen: false, seenAt: now() }).where(and(which, message.unseen))
}

/** Whether a letter tells something that its reader has not looked at. */
export const isNews = sql<boolean>`exists (select 1 from message m where m.id = any(${letter.tells}) and m.unseen)`

/** Letters that tell of one application. */
export const tellsOf = (applicationId: string) =>
  sql`exists (select 1 from message m where m.id = any(${letter.tells}) and m.application_id = ${applicationId})`

const shownAtMost = 50

/** What the people of an application were told, the newest first. */
export async function toldOf(db: Executor, id: string): Promise<ToldView[]> {
  const rows = await db.select({ row: message, subject: announcement.subject }).from(message).leftJoin(
    announcement,
    eq(announcement.id, message.announcementId),
  ).where(eq(message.applicationId, id)).orderBy(desc(message.at)).limit(shownAtMost)
  return rows.map(({ row: { kind, at, sentAt, unseen, seenAt }, subject }) => ({
    kind,
    subject,
    at: at.toISOString(),
    isWritten: sentAt !== null,
    isUnread: unseen,
    seenAt: seenAt?.toISOString() ?? null,
  }))
}
