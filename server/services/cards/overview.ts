import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { cardBlockers } from '../../../core/admit-card/content'
import { periodRefusal } from '../../../core/application/acts/dates'
import { imageKinds, imageKindsOf } from '../../../core/notice/image-rules'
import type { CardsOverview } from '../../../shared/centres'
import type { Executor } from '../../database/client'
import { admitCard, application, image, seat } from '../../database/schema'
import { askedOf } from '../roster/filter'
import { keysOf } from '../roster/page'
import { countAt } from '../roster/tally'
import { tracksOf } from '../applications/store'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { withholding } from './withholding'

/** The cards' page: how many are out, how many could be issued now, whose is withheld and why. */
export async function cardsOverview(caller: Caller, cycleCode: string): Promise<CardsOverview> {
  const { db, now } = await caller.authorise('cards.read')
  const { notice } = await currentNotice(db, cycleCode)
  const held = await keysOf(db, askedOf(cycleCode, { is: ['card:withheld'] }), { sort: 'number', limit: 200 })
  const withheld = held.length === 0
    ? []
    : await db.select().from(application).where(inArray(application.id, held.slice(0, 200).map(key => key.id)))
      .orderBy(asc(application.number))
  const kinds = withheld.length === 0
    ? []
    : await db.selectDistinct({ id: image.applicationId, kind: image.kind }).from(image)
      .where(and(inArray(image.applicationId, withheld.map(w => w.id)), isNull(image.correctionId)))
  const newest = await db.select().from(admitCard).innerJoin(application, eq(application.id, admitCard.applicationId)).innerJoin(
    seat,
    and(eq(seat.applicationId, application.id), eq(seat.ordinal, 0)),
  ).where(and(eq(application.cycle, cycleCode), isNull(admitCard.voidAt))).orderBy(desc(admitCard.at), asc(application.number)).limit(200)
  const withCards = await venuesWithCards(db, cycleCode, notice.cities.flatMap(city => city.venues.map(venue => venue.id)))
  return {
    venues: notice.cities.flatMap(city =>
      city.venues.filter(venue => withCards.has(venue.id)).map(venue => ({ id: venue.id, title: venue.title, city: city.title }))
    ),
    issued: await countAt(db, cycleCode, 'card issued'),
    ready: await countAt(db, cycleCode, 'placed') - await placedAndWithheld(db, cycleCode),
    early: periodRefusal(notice, 'cards', now()),
    withheld: withheld.map((row) => {
      const present = Object
        .fromEntries(imageKinds.filter(kind => kinds.some(k => k.id === row.id && k.kind === kind)).map(kind => [kind, true]))
      const kept = withholding(notice, row)
      const blockers = cardBlockers(tracksOf(row), present, imageKindsOf(notice), kept)
      return { applicationId: row.id, number: row.number, name: row.displayName, blockers, held: row.cardHold, letters: kept.letters }
    }),
    newest: newest.map(n => ({
      applicationId: n.application.id,
      number: n.application.number,
      name: n.application.displayName,
      roll: n.seat.roll,
      city: notice.cities.find(c => c.id === n.seat.city)?.title ?? n.seat.city,
      version: n.admit_card.version,
      at: n.admit_card.at.toISOString(),
    })),
  }
}

/** Venues that at least one card in force is for; for each the first that is met is enough. */
async function venuesWithCards(db: Executor, cycle: string, venues: readonly string[]): Promise<Set<string>> {
  const { rows } = await db.execute<
    { venue: string }
  >(sql`select venue from unnest(${sql.param([...venues])}::text[]) as venue where exists (
    select 1 from seat join application on application.id = seat.application_id where seat.cycle = ${cycle} and seat.venue = venue and application.card in ('issued', 'replaced'))`)
  return new Set(rows.map(row => row.venue))
}

async function placedAndWithheld(db: Executor, cycle: string): Promise<number> {
  const { rows: [found] } = await db.execute<
    { n: string }
  >(sql`select count(*) as n from roster_entry where cycle = ${cycle} and tags @> array['card:withheld', 'at:placed']`)
  return Number(found?.n)
}
