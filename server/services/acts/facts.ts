import { sql } from 'drizzle-orm'
import type { ActFacts } from '../../../core/application/acts/table'
import type { Executor } from '../../database/client'
import { tracksOf, type ApplicationRow, type StandingRow } from '../applications/store'
import { receivedOf } from '../fees/received'

interface Found extends Record<string, unknown> { answered: boolean, filed: boolean, decided: boolean, paying: boolean, corrected: boolean, card: boolean, received: string }

/** With the money that came in for it, in minor units. */
export type FoundFacts = ActFacts & { received: number }

/** What the rules of acts ask of one application, read inside the transaction that holds it. */
export async function factsOf(tx: Executor, row: ApplicationRow): Promise<FoundFacts> {
  const since = row.openedAt?.toISOString() ?? null
  const { rows: [found] } = await tx.execute<Found>(sql`select
    exists (select 1 from answer_change where application_id = ${row.id}) as answered,
    exists (select 1 from image where application_id = ${row.id}) as filed,
    exists (select 1 from scrutiny_decision where application_id = ${row.id}) as decided,
    exists (select 1 from payment where application_id = ${row.id} and state = 'open') as paying,
    ${since}::timestamptz is not null and (exists (select 1 from answer_change where application_id = ${row.id} and at > ${since}::timestamptz)
      or exists (select 1 from image where application_id = ${row.id} and at > ${since}::timestamptz and state <> 'refused')) as corrected,
    exists (select 1 from admit_card where application_id = ${row.id} and void_at is null) as card, ${receivedOf(row.id)} as received`)
  const received = Number(found?.received ?? 0)
  return {
    ...factsOfTracks(row), openUntil: row.openUntil,
    isEmpty: !found?.answered && !found?.filed && Object.keys(row.answers).length === 0, isDecided: found?.decided ?? false, isPaid: received > 0, received,
    hasOpenPayment: found?.paying ?? false, isCorrected: found?.corrected ?? false, hasCard: found?.card ?? false,
  }
}

/** The same of a row alone, for acts on many at once whose rules ask for no more than the tracks. */
export function factsOfTracks(row: StandingRow): ActFacts {
  return {
    number: row.number, tracks: tracksOf(row), headline: row.headline, openUntil: null,
    isEmpty: false, isDecided: true, isPaid: true, hasOpenPayment: row.fee === 'confirming', isCorrected: false, hasCard: row.card === 'issued' || row.card === 'replaced',
  }
}
