import { sql, type SQL } from 'drizzle-orm'
import type { ActFacts, ActId } from '../../../core/application/acts/rule'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, feeAssessment } from '../../database/schema'
import { asked, keptAbout } from '../../database/kept-statements'
import { asJson, rowsOfJson } from '../../database/together'
import type { OpenCorrectionState } from '../../../core/application/corrections'
import { isPaidFirst } from '../../../core/fees/order'
import { endorsementsLacking } from '../../../core/application/endorsements'
import { openRequests } from '../../../core/application/requests'
import type { Notice } from '../../../core/notice/schema'
import {
  applicationStatement,
  applicationUnder,
  decidedAnswers,
  tracksOf,
  type ApplicationRow,
  type StandingRow,
} from '../applications/store'
import { barHolds } from '../barred/holds'
import { receivedOf } from '../fees/received'
import type { CurrentNotice } from '../notice/notices'
import { besideColumns, besideOf, type BesideRow } from './matters'

interface Found extends Record<string, unknown> {
  answered: boolean
  filed: boolean
  decided: boolean
  paying: boolean
  corrected: boolean
  card: boolean
  received: string
  attempted: boolean
  ruled: boolean
  seated: boolean
  carded: boolean
  repeated: boolean
  questioned: boolean
  asked: boolean
  paired: boolean
  barred: boolean
  correction: { state: OpenCorrectionState, by: string, holds: number } | null
  slip: 'waiting' | 'confirmed' | null
}

/** A request to act, by its number. */
export interface Asked {
  act: ActId
  requestId: string
}

/** What else is known of an application once its facts are: money that came in, in minor units, and what there is no need to ask for. */
export type FoundFacts = ActFacts & {
  received: number,
  hasPayments: boolean,
  hasRulings: boolean,
  hasSeat: boolean,
  hasQuestions: boolean,
  everHadCard: boolean,
  /** Money held for a correction, in minor units. */
  held: number,
  /** The request asked was carried out already. */
  isRepeated: boolean,
}

const factsAbout = keptAbout(() => sql`select ${factColumns(asked.since)}`)
/** What the rules of acts ask of one application, read inside the transaction that holds it. */
export async function factsOf(tx: Executor, row: ApplicationRow, notice: Notice): Promise<FoundFacts> {
  const { rows: [found] } = await tx.execute<Found>(factsAbout({ id: row.id, since: row.openedAt }))
  return factsIn(tx, row, notice, found)
}

/** All that is known of one application besides its own row. */
export interface Known {
  facts: FoundFacts
  beside: ReturnType<typeof besideOf>
  /** The newest assessment. */
  assessed: typeof feeAssessment.$inferSelect | null
}

const knownAbout = keptAbout(() => sql`select ${knownColumns(asked.since)}`)
/** The same in one statement with everything else that an act, or a page about one application, looks at. */
export async function knownOf(tx: Executor, row: ApplicationRow, notice: Notice, request: Asked | null = null): Promise<Known> {
  const { rows: [found] } = await tx.execute<FoundOfOne>(knownAbout({ id: row.id, since: row.openedAt, ...request }))
  if (!found) throw refusal('application.unknown')
  return knownIn(tx, row, notice, found)
}

/** A statement that reads the same with the application itself, which is not held, and other columns. */
export const knownWith = (more: () => SQL) =>
  keptAbout(() => applicationStatement(sql`, ${knownColumns(sql`${application.openedAt}`)}, ${more()}`))
export async function applicationKnown<More extends Record<string, unknown>>(
  tx: Executor,
  id: string,
  about: ReturnType<typeof knownWith>,
): Promise<Known & CurrentNotice & { row: ApplicationRow, more: More }> {
  const read = await applicationUnder<FoundOfOne & More>(tx, about({ id }))
  return { ...read, ...await knownIn(tx, read.row, read.notice, read.more) }
}

type FoundOfOne = Found & BesideRow & { assessed: Record<string, unknown>[] }

const knownColumns = (since: SQL): SQL =>
  sql`${factColumns(since)}, ${besideColumns()},
  ${asJson(sql`select * from fee_assessment where application_id = ${asked.id} order by version desc limit 1`)} as assessed`

async function knownIn(tx: Executor, row: ApplicationRow, notice: Notice, found: FoundOfOne): Promise<Known> {
  const [assessed] = rowsOfJson(feeAssessment, found.assessed)
  return { facts: await factsIn(tx, row, notice, found), beside: besideOf(found), assessed: assessed ?? null }
}

function factColumns(since: SQL): SQL {
  return sql`
    exists (select 1 from answer_change where application_id = ${asked.id}) as answered,
    exists (select 1 from image where application_id = ${asked.id}) as filed,
    exists (select 1 from scrutiny_decision where application_id = ${asked.id}) as decided,
    exists (select 1 from payment where application_id = ${asked.id} and state = 'open') as paying,
    ${since} is not null and (exists (select 1 from answer_change where application_id = ${asked.id} and at > ${since})
      or exists (select 1 from image where application_id = ${asked.id} and at > ${since} and state <> 'refused' and correction_id is null)) as corrected,
    exists (select 1 from admit_card where application_id = ${asked.id} and void_at is null) as card, ${receivedOf(asked.id)} as received,
    exists (select 1 from payment where application_id = ${asked.id}) as attempted,
    exists (select 1 from claim_ruling where application_id = ${asked.id}) as ruled,
    exists (select 1 from seat where application_id = ${asked.id}) as seated,
    exists (select 1 from admit_card where application_id = ${asked.id}) as carded,
    exists (select 1 from office_question where application_id = ${asked.id}) as questioned,
    exists (select 1 from referral where application_id = ${asked.id} and answered_at is null) as asked,
    exists (select 1 from likely_pair where state = 'open' and (first = ${asked.id} or second = ${asked.id})) as paired,
    ${barHolds(asked.id)} as barred,
    (select jsonb_build_object('state', state, 'by', coalesce(handed_by, by), 'holds', holds) from correction where application_id = ${asked.id} and state in ('drafting', 'unpaid', 'waiting')) as correction,
    (select state from deposit_slip where application_id = ${asked.id} and (state = 'waiting' or (state = 'confirmed' and arrived < amount)) order by state desc limit 1) as slip,
    exists (select 1 from audit_event where subject = ${asked.id}::text and act = ${asked.act} and request_id = ${asked.requestId}) as repeated`
}

async function factsIn(tx: Executor, row: ApplicationRow, notice: Notice, found: Found | undefined): Promise<FoundFacts> {
  const received = Number(found?.received ?? 0)
  const keying = row.keying === null || row.keying === 'agreed' ? null : await keyingOf(tx, row.id, row.keying)
  return {
    ...factsOfTracks(row),
    openUntil: row.openUntil,
    keying,
    receivedAt: row.receivedAt,
    isSaid: row.ownerId !== null || row.keying === 'agreed',
    isOwned: row.ownerId !== null,
    isReleased: row.erasingSince !== null,
    isEmpty: !found?.answered && !found?.filed && !found?.questioned && Object.keys(row.answers).length === 0
      && Object.keys(row.endorsed).length === 0,
    isDecided: found?.decided ?? false,
    isPaid: received > 0,
    received,
    hasOpenPayment: found?.paying ?? false,
    isCorrected: found?.corrected ?? false,
    hasCard: found?.card ?? false,
    heldBy: found?.asked ? 'referred' : found?.barred ? 'barred' : found?.paired ? 'likely-duplicate' : null,
    isPaidFirst: isPaidFirst(notice),
    hasPayments: found?.attempted ?? false,
    hasRulings: found?.ruled ?? false,
    hasSeat: found?.seated ?? false,
    hasQuestions: found?.questioned ?? false,
    everHadCard: found?.carded ?? false,
    correction: found?.correction ?? null,
    slip: found?.slip ?? null,
    isAsking: openRequests(notice, decidedAnswers(notice, row)).some(rule => rule.holds === 'decision'),
    isAwaited: endorsementsLacking(notice, decidedAnswers(notice, row), row.endorsed, 'decision').length > 0,
    isRelieved: row.feeReliefs.some(one => one.kind !== 'given up'),
    held: found?.correction?.holds ?? 0,
    isRepeated: found?.repeated ?? false,
  }
}

/** Who has a paper form's keying in hand. */
async function keyingOf(tx: Executor, id: string, state: NonNullable<ActFacts['keying']>['state']): Promise<ActFacts['keying']> {
  const { rows: [found] } = await tx.execute<
    { first: string[], second: string | null }
  >(sql`select array(select distinct by from answer_change where application_id = ${id})::text[] as first, second_by as second from paper_form where application_id = ${id}`)
  return { state, first: found?.first ?? [], second: found?.second ?? null }
}

/** The same of a row alone, for acts on many at once whose rules ask for no more than the tracks. */
export function factsOfTracks(row: StandingRow): ActFacts {
  return {
    number: row.number,
    tracks: tracksOf(row),
    headline: row.headline,
    openUntil: null,
    isEmpty: false,
    isDecided: true,
    isPaid: true,
    hasOpenPayment: row.fee === 'confirming',
    isCorrected: false,
    hasCard: row.card === 'issued' || row.card === 'replaced',
    heldBy: null,
    correction: null,
    slip: null,
    isAsking: false,
    isAwaited: false,
    isRelieved: false,
    isPaidFirst: false,
    keying: null,
    receivedAt: null,
    isSaid: false,
    isOwned: false,
    isReleased: false,
  }
}
