import { desc, eq, sql } from 'drizzle-orm'
import { filledIn } from '../../../core/application/announcement'
import { announcementSchema, type AnnouncementInput, type AnnouncementView } from '../../../shared/announcements'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { announcement } from '../../database/schema'
import { defineWork } from '../../jobs/define'
import { log, type Caller, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'
import { askedOf } from '../roster/filter'
import { keysOf } from '../roster/page'
import { countsUnder } from '../roster/tally'

const pageSize = 2000

/**
 * A letter to everybody who matches a question to the roster: tried, which writes nothing and tells whom it would reach and what the first
 * of them would read; or sent. Each application is written to once, however often the work begins again; whoever has proved no address is
 * counted.
 */
export async function announce(
  caller: Caller,
  cycle: string,
  asked: AnnouncementInput,
  tell: (done: number, total: number) => Promise<boolean>,
): Promise<Record<string, string | number>> {
  const context = await caller.authorise('letters.announce', { cycle })
  const { id, filter, mode } = asked
  const { notice } = await currentNotice(context.db, cycle)
  if (mode === 'do') await begin(context, cycle, asked)
  let [people, reached] = [0, 0]
  let first: { name: string, number: string } | undefined
  for (let after: string | undefined;;) {
    const keys = await keysOf(context.db, askedOf(cycle, filter), { sort: 'number', after, limit: pageSize })
    const page = keys.slice(0, pageSize)
    const found = mode === 'do'
      ? await writeTo(context, cycle, id, page.map(key => key.id))
      : await reachable(context.db, page.map(key => key.id))
    people += page.length
    reached += found.n
    first ??= found.first
    after = page.at(-1)?.number
    if (keys.length <= pageSize || !await tell(people, people + pageSize)) break
  }
  if (mode === 'do') {
    await context.db.update(announcement).set({ reached, without: people - reached, isWhole: true }).where(eq(announcement.id, id))
  }
  const sample = (text: string) => first ? filledIn(text, { ...first, examination: notice.title }) : ''
  return { people, reached, without: people - reached, subject: sample(asked.subject), text: sample(asked.text) }
}

async function begin(context: Context, cycle: string, { id, filter, subject, text }: AnnouncementInput): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [made] = await tx.insert(announcement).values({ id, cycle, subject, text, filter, by: context.principal.id, at: context.now() })
      .onConflictDoNothing().returning()
    if (made) {
      return log(tx, context, 'announce', {
        subject: { kind: 'cycle', id: cycle },
        cycle,
        after: { announcement: id, subject, text, filter },
      })
    }
    const [before] = await tx.select().from(announcement).where(eq(announcement.id, id))
    if (before?.subject !== subject || before.text !== text || before.cycle !== cycle) {
      throw refusal('letter.announced', { subject: before?.subject ?? '' })
    }
  })
}

interface Found {
  n: number
  first: { name: string, number: string } | undefined
}

const withAddress = (ids: readonly string[]) =>
  sql`application a where a.id = any(${sql.param([...ids])}::uuid[]) and exists (select 1 from contact c where c.principal_id = a.owner_id)`

async function reachable(db: Executor, ids: readonly string[]): Promise<Found> {
  const { rows } = await db.execute<
    { n: string, name: string, number: string }
  >(sql`select a.display_name as name, a.number, count(*) over () as n from ${withAddress(ids)} order by a.number limit 1`)
  const [first] = rows
  return { n: Number(first?.n ?? 0), first: first && { name: first.name, number: first.number } }
}

async function writeTo(context: Context, cycle: string, id: string, ids: readonly string[]): Promise<Found> {
  await context.db.execute(sql`
    insert into message (id, application_id, cycle, kind, parameters, at, announcement_id, unseen)
    select gen_random_uuid(), a.id, ${cycle}, 'announce', '{}', ${context.now().toISOString()}::timestamptz, ${id}, true from ${
    withAddress(ids)
  } on conflict do nothing`)
  return reachable(context.db, ids)
}

/** Letters that went to many, the newest first. */
export async function listAnnouncements(caller: Caller, cycle: string): Promise<AnnouncementView[]> {
  const { db } = await caller.authorise('letters.read', { cycle })
  const unsent = sql<string>`(select count(*) from message m where m.announcement_id = ${announcement.id} and m.sent_at is null)`
  const rows = await db.select({ row: announcement, unsent }).from(announcement).where(eq(announcement.cycle, cycle))
    .orderBy(desc(announcement.at)).limit(50)
  const name = await namesOf(db, rows.map(({ row }) => row.by))
  const unread = await countsUnder(db, cycle, 'unread-letter:')
  return rows.map(({ row: { id, subject, text, by, at, reached, without, isWhole }, unsent: open }) => ({
    id,
    subject,
    text,
    by: name(by),
    at: at.toISOString(),
    reached,
    without,
    isWhole,
    unsent: Number(open),
    unread: unread.get(id) ?? 0,
  }))
}

/** The same as long work. */
export const announceWork = defineWork({
  kind: 'announce',
  permission: 'letters.announce',
  input: announcementSchema,
  run: (caller, { cycle, input, tell }) => announce(caller, cycle, input, tell),
})
