import { and, desc, eq, gt, ne, sql } from 'drizzle-orm'
import { dateInZone } from '../../../core/calendar/zone'
import { may } from '../../../core/access/permissions'
import { judgeActs } from '../../../core/application/acts/judge'
import { isFormEditable } from '../../../core/application/acts/guards'
import { sheetDoubts, sheetFaults } from '../../../core/application/sheet'
import { weighClaims } from '../../../core/eligibility/claims'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import { assessFee } from '../../../core/fees/assess'
import type { Dossier } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { asked } from '../../database/kept-statements'
import { allocationRun, answerChange, application, auditEvent, payment, runPlacement, scrutinyDecision, seat } from '../../database/schema'
import { relationsTo, type Caller, type Context } from '../context'
import { currentCard } from '../cards/store'
import { applicationKnown, knownWith, type FoundFacts } from '../acts/facts'
import { mattersNow } from '../acts/matters'
import { proposalsOf } from '../acts/proposals'
import { namesOf } from '../people/names'
import { handOf } from '../scrutiny/queue'
import { requestViews } from '../scrutiny/requests'
import { readingsOf } from '../scrutiny/readings'
import { referralsOf } from '../scrutiny/referrals'
import { seenBeside, viewsOf } from '../images/views'
import { toldOf } from '../letters/seen'
import { rulingsOf } from '../eligibility/claims'
import { hasTextsFirst } from './texts'
import { countedAnswers, decidedAnswers, tracksOf, type ApplicationRow } from './store'

/** Everything there is to say about one application, computed now by the same core as the browser's. */
export async function readDossier(caller: Caller, id: string): Promise<Dossier> {
  const context = await caller.authorise('applications.read', { application: id })
  const { db, principal } = context
  const { row, notice, facts, beside, assessed, more } = await applicationKnown<Shown>(db, id, shownAbout)
  const counted = countedAnswers(notice, row)
  const relations = relationsTo(principal, row)
  const seesFiles = may(principal, 'files.read', relations)
  const isStaff = principal.kind === 'staff'
  const files = seesFiles ? viewsOf(beside.images, more.seen) : {}
  const today = dateInZone(context.now(), notice.body.zone)
  const faults = isFormEditable(row) ? sheetFaults(notice, decidedAnswers(notice, row), today) : []
  // Whoever keys a paper form a second time does it from the paper.
  if (facts.keying?.state === 'second' && facts.keying.second === principal.id) throw refusal('keying.blind', { number: row.number })
  const decided = facts.isDecided
    ? await db.select().from(scrutinyDecision).where(eq(scrutinyDecision.applicationId, id)).orderBy(desc(scrutinyDecision.at))
    : []
  const dossier: Dossier = {
    id,
    cycle: row.cycle,
    number: row.number,
    name: row.displayName,
    revision: row.revision,
    answers: row.answers,
    tracks: tracksOf(row),
    headline: row.headline,
    since: row.headlineSince.toISOString(),
    submittedAt: row.submittedAt?.toISOString() ?? null,
    changedAt: String(row.updatedAt.getTime()),
    files,
    faults,
    doubts: sheetDoubts(row.answers),
    verdicts: evaluatePosts(notice, counted),
    counted,
    decided: row.requests,
    endorsed: row.endorsed,
    hasTextsFirst: hasTextsFirst(notice, row),
    requests: await requestViews(db, notice, row),
    claims: weighClaims(notice, decidedAnswers(notice, row), row.falseClaims, row.submittedAt ?? context.now()),
    rulings: facts.hasRulings ? await rulingsOf(db, notice, id) : [],
    changed: await changedSince(db, id, decided[0]?.at),
    assessment: assessed?.assessment ?? assessFee(notice, counted, context.now()),
    assessed: assessed !== null,
    received: facts.received,
    hasQuestions: facts.hasQuestions,
    payments: facts.hasPayments ? await paymentsOf(db, id) : [],
    decisions: await decisionViews(db, decided),
    matters: await mattersNow(db, context, row, notice, beside),
    acts: judgeActs(principal, relations, facts, notice, context.now()),
    openUntil: row.openUntil?.toISOString() ?? null,
    openedItems: row.openedItems,
    cardHold: row.cardHold,
    seesFiles,
    placement: facts.hasSeat ? await placementOf(db, id) : null,
    card: facts.everHadCard ? await currentCard(db, id) : null,
    hasAccount: row.ownerId !== null,
    correction: facts.correction?.state ?? null,
    ...principal.kind === 'candidate' ? ofAccount(row, more) : { ownOthers: [], hasEarlier: false, hasNews: false },
    ...isStaff ? await officeSide(context, row, facts) : ofNobody,
  }
  return isStaff ? dossier : withoutNames(dossier, notice.body.name)
}

/** What else the account of a candidate has. */
const ofAccount = (
  { form }: ApplicationRow,
  { others, earlier, news }: Shown,
): Pick<Dossier, 'ownOthers' | 'hasEarlier' | 'hasNews'> => ({
  ownOthers: others,
  hasEarlier: form === 'drafting' && earlier,
  hasNews: news,
})

/** How a paper form is keyed is the office's work, whoever has the application since. */
function keyingView({ keying: state, receivedAt }: ApplicationRow, facts: FoundFacts, reader: string): Dossier['keying'] {
  if (!state || !receivedAt) return null
  return { state, isOwnFirst: facts.keying?.first.includes(reader) ?? false, receivedAt: receivedAt.toISOString() }
}

type OfficeSide = Pick<Dossier, 'keying' | 'history' | 'told' | 'proposals' | 'hand' | 'referrals' | 'readings'>
const ofNobody: OfficeSide = { keying: null, history: [], told: [], proposals: [], hand: null, referrals: [], readings: [] }

/**
 * What only the office reads: how it is keyed, what was done and told, what waits for a second person, who has the case, and what a machine
 * reads on its papers.
 */
async function officeSide(context: Context, row: ApplicationRow, facts: FoundFacts): Promise<OfficeSide> {
  const { db, principal } = context
  const { id, answers } = row
  return {
    keying: keyingView(row, facts, principal.id),
    history: await historyOf(db, id),
    told: await toldOf(db, id),
    proposals: await proposalsOf(db, principal.id, id),
    hand: await handOf(context, id),
    referrals: await referralsOf(db, id),
    readings: await readingsOf(db, id, answers),
  }
}

/** As candidates read it: decisions are the office's, and who of its people did what stays inside. */
function withoutNames(dossier: Dossier, office: string): Dossier {
  const { decisions, rulings, requests, changed, matters } = dossier
  // Whether somebody else has applied under the same name or number, or is barred, is never told.
  return {
    ...dossier,
    matters: matters.filter(matter => matter.kind !== 'likely-duplicate' && matter.kind !== 'barred'),
    decisions: decisions.map(d => ({ ...d, by: office })),
    rulings: rulings.map(r => ({ ...r, by: office })),
    requests: requests.map(one => ({ ...one, decisions: one.decisions.map(d => ({ ...d, by: office })) })),
    changed: changed.map(c => ({ ...c, by: '' })),
  }
}

/**
 * What else a dossier tells: of the files, the numbers of other applications in the flow that its account has in the cycle, whether it has
 * handed in any anywhere, and whether something was told that was not looked at.
 */
interface Shown extends Record<string, unknown> {
  seen: Parameters<typeof viewsOf>[1]
  others: string[]
  earlier: boolean
  news: boolean
}

const shownAbout = knownWith(() =>
  sql`${seenBeside} as seen,
  array(select other.number from application other where other.owner_id = ${application.ownerId} and other.cycle = ${application.cycle}
    and other.id <> ${asked.id} and other.form not in ('withdrawn', 'lapsed') order by other.number) as others,
  exists(select 1 from application former where former.owner_id = ${application.ownerId} and former.submitted_at is not null
    and former.id <> ${asked.id} and former.erased_at is null) as earlier,
  exists(select 1 from message m where m.application_id = ${asked.id} and m.unseen and m.announcement_id is null) as news`
)

async function paymentsOf(db: Executor, id: string): Promise<Dossier['payments']> {
  const deliveries = sql<string>`(select coalesce(sum(e.deliveries), 0) from gateway_event e where e.gateway_order = payment.gateway_order)`
  const others = sql<
    string
  >`(select count(*) from payment other where other.gateway_order = payment.gateway_order and other.application_id <> payment.application_id)`
  const rows = await db.select({ payment, deliveries, others }).from(payment).where(eq(payment.applicationId, id))
    .orderBy(desc(payment.openedAt))
  return rows.map(({ payment: p, deliveries: n, others: more }) => ({
    id: p.id,
    amount: p.amount,
    state: p.state,
    order: p.gatewayOrder,
    openedAt: p.openedAt.toISOString(),
    expiresAt: p.expiresAt.toISOString(),
    deliveries: Number(n),
    others: Number(more),
  }))
}

async function decisionViews(db: Executor, rows: readonly (typeof scrutinyDecision.$inferSelect)[]): Promise<Dossier['decisions']> {
  const name = await namesOf(db, rows.map(d => d.by))
  return rows.map(d => ({
    decision: d.decision,
    reasons: d.reasons,
    answerUntil: d.answerUntil?.toISOString() ?? null,
    by: name(d.by),
    at: d.at.toISOString(),
  }))
}

/** What of the sheet was changed after the newest decision, so that whoever looks again sees where: the answer as it was then. */
async function changedSince(db: Executor, id: string, decision: Date | undefined): Promise<Dossier['changed']> {
  if (!decision) return []
  const rows = await db.select().from(answerChange).where(and(eq(answerChange.applicationId, id), gt(answerChange.at, decision)))
    .orderBy(answerChange.revision)
  const name = await namesOf(db, rows.map(change => change.by))
  const first = new Map<string, Dossier['changed'][number]>()
  for (const change of rows) {
    const known = first.get(change.question)
    first.set(change.question, {
      question: change.question,
      before: known ? known.before : change.before ?? '',
      by: name(change.by),
      at: change.at.toISOString(),
    })
  }
  return [...first.values()]
}

async function placementOf(db: Executor, id: string): Promise<Dossier['placement']> {
  const rows = await db.select().from(seat).innerJoin(allocationRun, eq(allocationRun.id, seat.runId)).innerJoin(
    runPlacement,
    and(eq(runPlacement.runId, seat.runId), eq(runPlacement.applicationId, seat.applicationId)),
  ).where(eq(seat.applicationId, id)).orderBy(seat.ordinal)
  const [row] = rows
  if (!row) return null
  const sittings = rows.map(({ seat: { city, venue, room, session, seat: number, accessible, paper } }) => ({
    city,
    venue,
    room,
    session,
    seat: number,
    accessible,
    paper,
  }))
  return { sittings, roll: row.seat.roll, choice: row.run_placement.choice, run: row.allocation_run.serial, runId: row.allocation_run.id }
}

async function historyOf(db: Executor, id: string): Promise<Dossier['history']> {
  const rows = await db.select().from(auditEvent).where(and(eq(auditEvent.subject, id), ne(auditEvent.act, 'read-paper')))
    .orderBy(desc(auditEvent.id)).limit(100)
  const name = await namesOf(db, rows.map(e => e.actor))
  return rows.map(e => ({
    at: e.at.toISOString(),
    actor: name(e.actor),
    act: e.act,
    reason: e.reason,
    outsideDates: e.outsideDates,
    before: e.before,
    after: e.after,
    noticeVersion: e.noticeVersion,
  }))
}
