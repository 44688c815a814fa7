import { and, desc, eq, inArray } from 'drizzle-orm'
import { answerUntil, periodRefusal } from '../../../core/application/acts/dates'
import { openedBy } from '../../../core/application/acts/opened'
import { listAnswer } from '../../../core/application/answers'
import { endorsementsLacking } from '../../../core/application/endorsements'
import { decisionsThatHold } from '../../../core/application/requests'
import { sheetFaults } from '../../../core/application/sheet'
import { emptySlots, slotsOf } from '../../../core/application/slots'
import { isFeeClear, type Tracks } from '../../../core/application/tracks'
import { dateInZone } from '../../../core/calendar/zone'
import { evaluatePosts, type PostVerdict } from '../../../core/eligibility/evaluate'
import { isPaidFirst } from '../../../core/fees/order'
import type { Notice } from '../../../core/notice/schema'
import type { TextRead } from '../../../shared/acts'
import { refusal } from '../../../shared/refusal'
import { answerChange, auditEvent, postVerdict } from '../../database/schema'
import { carryOut, type ActByRow, type Acting, type Carried, type Effect } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { refuseSecondOf } from '../scrutiny/one-person'
import { unseat } from '../centres/seats'
import type { Caller } from '../context'
import { keepingVerdicts } from '../eligibility/verdicts'
import { feeStateOf, reassess, reassessing } from '../fees/assessments'
import { giveUpDues, isOwedBack } from '../fees/reliefs'
import type { ImageRow } from '../images/current'
import { conflict } from './answers'
import { refusePostsOutOfTime } from './post-days'
import { countedAnswers, decidedAnswers, tracksOf, type ApplicationRow } from './store'
import { acceptingAll } from './texts'

export interface Submission {
  revision: number
  declared: boolean
  /** The texts that were read and are accepted with it. */
  texts?: readonly TextRead[]
}

/**
 * Submits a complete sheet with its declaration, or hands a correction in: freezes the answers, assesses the fee, judges eligibility, puts
 * the case in the queue once the fee is clear. Submitting again changes nothing.
 *
 * @throws ProblemError with the findings when something is missing, wrong, or a chosen post is not open.
 */
export async function submitApplication(caller: Caller, id: string, asked: Submission, given: Given = {}): Promise<Carried<null>> {
  return carryOut(caller, handingIn, id, given, async (acting) => {
    const { tx, context, row, notice, beside } = acting
    if (row.revision !== asked.revision) throw await conflict(tx, row, { revision: asked.revision, changes: {} })
    if (!asked.declared) throw refusal('sheet.declaration')
    const act = handingIn.of(row) === 'hand-in-correction' ? 'hand-in-correction' : 'submit'
    const accepted = acceptingAll(acting, act, asked.texts ?? [])
    const verdicts = refuseIncomplete(acting, beside.images)
    const isOutsideDates = await refusePostsOutOfTime(acting, given)
    const submittedAt = row.submittedAt ?? row.receivedAt ?? context.arrived()
    const isUnchanged = act === 'hand-in-correction' && await judgedAsBefore(acting, verdicts)
    const { fee, writes, logged } = await reassessing(acting, { ...row, submittedAt })
    if (act === 'submit' && isPaidFirst(notice) && !isFeeClear(fee)) throw refusal('sheet.unpaid', { number: row.number })
    return {
      result: null,
      logged,
      isOutsideDates,
      outcome: { fee, isUnchanged },
      writes: [...keepingVerdicts(context, row, acting, verdicts), ...writes, ...accepted.writes],
      columns: {
        ...accepted.columns,
        submittedAt,
        requests: decisionsThatHold(notice, row.answers, row.requests),
        openUntil: null,
        openedItems: null,
        openedAt: null,
      },
    }
  }, row => Promise.resolve(row.form === 'submitted' ? null : undefined))
}

const handingIn: ActByRow = { permission: 'applications.write', of: row => row.form === 'correcting' ? 'hand-in-correction' : 'submit' }

/** What an application lacks to be handed in, as a refusal; what was judged of its posts where it lacks nothing. */
export function refuseIncomplete(
  { context, row, notice }: Pick<Acting, 'context' | 'row' | 'notice'>,
  images: Partial<Record<string, ImageRow>>,
): PostVerdict[] {
  const faults = sheetFaults(notice, decidedAnswers(notice, row), dateInZone(context.now(), notice.body.zone))
  if (faults.length > 0) {
    throw refusal('sheet.incomplete', {
      count: faults.length,
      first: faults[0] ? context.language.findings.findingWords(faults[0]).title : '',
    }, faults)
  }
  const titles = (slots: { title: string }[]) => slots.map(slot => slot.title).join(' and ')
  const lacking = emptySlots(notice, decidedAnswers(notice, row), images, context.now())
  if (lacking.length > 0) throw refusal('sheet.files-missing', { titles: titles(lacking) })
  const waiting = slotsOf(notice, decidedAnswers(notice, row)).filter(({ id }) => images[id]?.state === 'waiting')
  if (waiting.length > 0) throw refusal('sheet.files-waiting', { titles: titles(waiting) })
  const awaited = endorsementsLacking(notice, decidedAnswers(notice, row), row.endorsed, 'submission')
  if (awaited.length > 0) throw refusal('sheet.endorsements-missing', { titles: awaited.map(({ rule }) => rule.title).join(', ') })
  const verdicts = evaluatePosts(notice, countedAnswers(notice, row))
  const shut = shutPosts(row, verdicts)
  if (shut.length > 0) throw refusal('sheet.posts-shut', { posts: shut.map(v => v.title).join(', ') }, shut.flatMap(v => v.findings))
  return verdicts
}

/** Posts that an application chose and that its facts shut. */
export function shutPosts(row: Pick<ApplicationRow, 'answers'>, verdicts: readonly PostVerdict[]): PostVerdict[] {
  const chosen = listAnswer(row.answers, 'posts')
  return verdicts.filter(v => chosen.includes(v.post) && v.verdict === 'fail')
}

// An acceptance outlives a correction only where all that scrutiny compared is as it was: no answer but those that nobody judges by.
async function judgedAsBefore({ tx, row, notice, beside }: Acting, verdicts: readonly PostVerdict[]): Promise<boolean> {
  if (row.scrutiny !== 'accepted' || !row.openedAt) return false
  const kept = await tx.select().from(postVerdict).where(eq(postVerdict.applicationId, row.id))
  if (!verdicts.every(v => kept.find(k => k.post === v.post)?.verdict === v.verdict)) return false
  const changed = await tx.select({ question: answerChange.question, before: answerChange.before, at: answerChange.at }).from(answerChange)
    .where(eq(answerChange.applicationId, row.id))
  const since = row.openedAt
  const compared = changed.filter(c => c.at > since).some(c => isCompared(notice, c.question))
  return !compared && !Object.values(beside.images).some(file => file && file.at > since)
}

// Where people are reached is compared with no paper.
const reachedBy = new Set(['email', 'mobile'])
function isCompared(notice: Notice, id: string): boolean {
  const question = notice.sections.flatMap(s => s.questions).find(q => q.id === id)
  return !(question && reachedBy.has(question.kind)) && id !== 'address'
}

/** Opens a submitted form again, while nobody has decided on it and nothing was paid. */
export function takeBackSubmission(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(
    caller,
    'take-back-submission',
    id,
    given,
    async ({ tx, context, row }) => ({ result: null, outcome: { fee: await feeStateOf(tx, context, row.id) } }),
  )
}

/** Takes an application out of the flow. Its seat is free and its card void; money that came in stays in the ledger. */
export function withdrawApplication(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'withdraw', id, given, async ({ tx, context, row, notice }) => {
    await unseat(tx, context, [row.id])
    return {
      result: null,
      outcome: {
        fee: (await giveUpDues(tx, context, [row.id], isOwedBack(notice, row))).get(row.id) ?? await feeStateOf(tx, context, row.id),
      },
    }
  })
}

/** Brings an application back that was withdrawn or has lapsed: form and scrutiny as they were, no seat, no card. */
export function bringBack(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'bring-back', id, given, broughtBack)
}

/** What bringing back does to an application that is held. */
export async function broughtBack(acting: Acting): Promise<Effect<null>> {
  const { tx, context, row, notice } = acting
  const [left] = await tx.select({ before: auditEvent.before }).from(auditEvent)
    .where(and(eq(auditEvent.subject, row.id), inArray(auditEvent.act, ['withdraw', 'lapse', 'set-aside']))).orderBy(desc(auditEvent.id))
    .limit(1)
  const former = { ...tracksOf(row), ...(left?.before as Partial<Tracks> | undefined) }
  if (former.scrutiny === 'accepted') await refuseSecondOf(tx, row)
  // What was open when it was left is open again, for as long as an answer to a return is given.
  const isLate = periodRefusal(notice, 'applications', context.now()) !== null
  // What was given up when it left is due again.
  const feeReliefs = row.feeReliefs.filter(one => one.kind !== 'given up')
  const fee = feeReliefs.length < row.feeReliefs.length
    ? await reassess(acting, { ...row, feeReliefs })
    : await feeStateOf(tx, context, row.id)
  const needsTime = former.form === 'correcting' || (isLate && (former.form === 'drafting' || fee === 'due'))
  return {
    result: null,
    outcome: { former, fee },
    columns: { feeReliefs, ...needsTime ? { openUntil: answerUntil(notice, context.now()) } : {} },
  }
}

/** Opens named items of a submitted form for correction. */
export function openForCorrection(caller: Caller, id: string, items: readonly string[], given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'open-for-correction', id, given, async ({ context, notice }) => {
    const openUntil = answerUntil(notice, context.now())
    const openedItems = openedBy(notice, items)
    return {
      result: null,
      columns: { openedItems, openedAt: context.now(), openUntil },
      before: { form: 'submitted' },
      after: { form: 'correcting', items: openedItems, until: openUntil.toISOString() },
      tell: { until: openUntil.toISOString() },
    }
  })
}

/** Ends a correction in which nothing was changed. */
export function closeCorrection(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(
    caller,
    'close-correction',
    id,
    given,
    async () => ({ result: null, columns: { openUntil: null, openedItems: null, openedAt: null } }),
  )
}
