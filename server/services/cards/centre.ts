import { and, asc, eq, gt, inArray, isNull, sql } from 'drizzle-orm'
import { Readable } from 'node:stream'
import { spellInstant } from '../../../core/calendar/zone'
import type { CentreCardsQuery } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { admitCard, application, seat } from '../../database/schema'
import { pagesOf } from '../../paper/document'
import { untagged } from '../../paper/tags'
import type { Caller } from '../context'
import { readFile } from '../files/bytes'
import { currentNotice } from '../notice/notices'
import { drawCard } from './pdf'

/** Cards that are read at once. */
const pageSize = 25

/** All cards in force of a venue as one file, in the order of its rooms, sessions and seats, drawn while it is being sent. */
export async function centreCards(caller: Caller, cycle: string, { venue }: CentreCardsQuery): Promise<{ name: string, pdf: Readable }> {
  const { db, now } = await caller.authorise('cards.read')
  const { notice } = await currentNotice(db, cycle)
  const first = await nextCards(db, cycle, venue)
  if (first.length === 0) throw refusal('cards.none-here', { venue })
  const at = now()
  const about = { title: `${notice.card.title} ${venue}, ${spellInstant(at, notice.body.zone)}`, author: notice.body.name, at }
  return { name: `cards-${venue}.pdf`, pdf: Readable.from(pagesOf(about, drawings(db, cycle, venue, first))) }
}

type Drawing = (doc: PDFKit.PDFDocument) => void

async function* drawings(
  db: Executor,
  cycle: string,
  venue: string,
  first: Awaited<ReturnType<typeof nextCards>>,
): AsyncGenerator<Drawing> {
  for (let page = first; page.length > 0; page = await nextCards(db, cycle, venue, page.at(-1)?.seat)) {
    for (const { card } of page) {
      const [photograph, signature] = [await readFile(db, card.photographSha256), await readFile(db, card.signatureSha256)]
      yield doc => drawCard({ doc, tags: untagged }, { content: card.content, code: card.code, photograph, signature, issuedAt: card.at })
    }
  }
}

/** The next cards in force of a venue, after a seat; somebody who sits several papers there has one, at the first of them. */
async function nextCards(db: Executor, cycle: string, venue: string, after?: typeof seat.$inferSelect) {
  return db.select({ card: admitCard, seat }).from(seat).innerJoin(application, eq(application.id, seat.applicationId)).innerJoin(
    admitCard,
    and(eq(admitCard.applicationId, seat.applicationId), isNull(admitCard.voidAt)),
  ).where(and(
    eq(seat.cycle, cycle),
    eq(seat.venue, venue),
    eq(seat.ordinal, 0),
    inArray(application.card, ['issued', 'replaced']),
    after && gt(sql`(${seat.room}, ${seat.session}, ${seat.seat})`, sql`(${after.room}, ${after.session}, ${after.seat})`),
  )).orderBy(asc(seat.room), asc(seat.session), asc(seat.seat)).limit(pageSize)
}
