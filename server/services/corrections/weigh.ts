import { eq } from 'drizzle-orm'
import { may } from '../../../core/access/permissions'
import { postsOutOfTime } from '../../../core/application/acts/dates'
import { reasonLeast } from '../../../core/application/acts/judge'
import { listAnswer, type Answers } from '../../../core/application/answers'
import { correctionEffects, needsNoLook, type CorrectionEffects } from '../../../core/application/correction-effects'
import { correctionsOpen, rulesOfItems } from '../../../core/application/corrections'
import { isProof, proofSlot } from '../../../core/application/proof-slot'
import { decisionsThatHold } from '../../../core/application/requests'
import { sheetFaults } from '../../../core/application/sheet'
import { emptySlots, slotsOf } from '../../../core/application/slots'
import { dateInZone, spellInstant } from '../../../core/calendar/zone'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import type { CorrectionCharge } from '../../../core/fees/assess'
import type { Finding } from '../../../core/finding/finding'
import { imageKinds } from '../../../core/notice/image-rules'
import type { CorrectionRule, Notice } from '../../../core/notice/schema'
import { seat } from '../../database/schema'
import type { Acting } from '../acts/carry-out'
import { shutPosts } from '../applications/form'
import { countedAnswers, decidedAnswers, type ApplicationRow } from '../applications/store'
import { currentAssessment } from '../fees/assessments'
import { scheduleFor } from '../notice/in-force'
import { currentImages, type ImageRow } from '../images/current'
import { correctedAnswers, filesOfCorrection, type CorrectionRow } from './store'

/** A correction and all that hangs on it, as things stand now. */
export interface Weighed {
  /** The application as it would be. */
  corrected: ApplicationRow
  items: string[]
  files: Partial<Record<string, ImageRow>>
  /** The rules that it goes by, and items that none of them opens. */
  used: CorrectionRule[]
  closed: string[]
  charge: CorrectionCharge | null
  effects: CorrectionEffects
  /** What keeps it from being handed in: findings on the sheet as it would be, and titles of files that lack. */
  faults: Finding[]
  lacks: string[]
  /** Titles of files that are not measured yet. */
  unmeasured: string[]
  takesEffectAtOnce: boolean
  /** Money wanted beyond the fee in force. */
  holds: number
}

/** Weighs a correction with the rules that were open when it was handed in, or that are open now. */
export async function weigh(
  { tx, context, row, notice, version, facts }: Pick<Acting, 'tx' | 'context' | 'row' | 'notice' | 'version' | 'facts'>,
  asked: CorrectionRow,
): Promise<Weighed> {
  const files = await filesOfCorrection(tx, asked)
  const answers = correctedAnswers(row.answers, asked)
  const corrected = { ...row, answers, requests: decisionsThatHold(notice, answers, row.requests, Object.keys(files)) }
  const items = [...Object.keys(asked.changes), ...Object.keys(files).filter(slot => !isProof(slot))]
  const open = asked.handedAt
    ? notice.corrections.filter(rule => asked.rules.includes(rule.id))
    : correctionsOpen(notice, context.principal, context.now())
  const { used, closed } = rulesOfItems(notice, open, items)
  const charge = chargeOf(asked, used)
  const sittings = await tx.select().from(seat).where(eq(seat.applicationId, row.id)).orderBy(seat.ordinal)
  const after = countedAnswers(notice, corrected)
  const assessed = await currentAssessment(tx, row.id)
  const schedule = (await scheduleFor(tx, { notice, version }, assessed?.noticeVersion ?? null)).notice
  const effects = correctionEffects(notice, {
    number: row.number,
    before: countedAnswers(notice, row),
    after,
    schedule,
    at: row.submittedAt ?? context.now(),
    extras: row,
    charge,
    sittings,
    roll: sittings[0]?.roll ?? '',
    hasCard: facts.hasCard,
    hasNewPicture: items.some(item => imageKinds.some(kind => kind === item)),
  }, context.language)
  const current = { ...await currentImages(tx, row.id), ...files }
  return {
    corrected,
    items,
    files,
    used,
    closed,
    charge,
    effects,
    ...lacking(context, notice, corrected, current, used, addedOutOfTime({ context, notice, row }, answers, asked)),
    takesEffectAtOnce: closed.length === 0 && needsNoLook(used, effects)
      && effects.fee.after === (effects.fee.before ?? 0) + effects.fee.charge,
    holds: Math.max(0, (effects.fee.after ?? 0) - (effects.fee.before ?? 0)),
  }
}

function chargeOf({ id }: CorrectionRow, used: readonly CorrectionRule[]): CorrectionCharge | null {
  const amount = used.reduce((sum, rule) => sum + rule.charge, 0)
  return amount === 0 ? null : { correction: id, title: used.filter(rule => rule.charge > 0).map(rule => rule.title).join(', '), amount }
}

/**
 * Posts that a correction adds before their own opening or after their own close. Whoever may go beyond the dates says why when they hand
 * it in.
 */
function addedOutOfTime(
  { context, notice, row }: Pick<Acting, 'context' | 'notice' | 'row'>,
  answers: Answers,
  asked: CorrectionRow,
): Finding[] {
  const at = asked.handedAt ?? context.now()
  if (!asked.handedAt && may(context.principal, 'dates.override') && asked.reason.trim().length >= reasonLeast) return []
  const had = listAnswer(row.answers, 'posts')
  const spell = (moment = '') => spellInstant(moment, notice.body.zone)
  return postsOutOfTime(notice, listAnswer(answers, 'posts').filter(post => !had.includes(post)), at).map(({ post, when }) => ({
    code: when === 'not yet' ? 'sheet.postEarly' : 'sheet.postClosed',
    about: 'posts',
    verdict: 'fail',
    value: null,
    unit: 'none',
    bound: null,
    parameters: { post: post.title, ...(when === 'not yet' ? { opens: spell(post.opens) } : { closes: spell(post.closes) }) },
  }))
}

function lacking(
  context: Acting['context'],
  notice: Notice,
  corrected: ApplicationRow,
  files: Partial<Record<string, ImageRow>>,
  used: readonly CorrectionRule[],
  late: readonly Finding[],
): Pick<Weighed, 'faults' | 'lacks' | 'unmeasured'> {
  const shut = shutPosts(corrected, evaluatePosts(notice, countedAnswers(notice, corrected))).flatMap(verdict => verdict.findings)
  const proofs = used.flatMap(rule => rule.proof && !files[proofSlot(rule)] ? [rule.proof.title] : [])
  return {
    faults: [...sheetFaults(notice, decidedAnswers(notice, corrected), dateInZone(context.now(), notice.body.zone)), ...late,
      ...shut.filter(f => f.verdict === 'fail')],
    lacks: [...emptySlots(notice, decidedAnswers(notice, corrected), files, context.now()).map(slot => slot.title), ...proofs],
    unmeasured: [...slotsOf(notice, decidedAnswers(notice, corrected)),
      ...used.map(rule => ({ id: proofSlot(rule), title: rule.proof?.title ?? '' }))].filter(({ id }) => files[id]?.state === 'waiting')
      .map(({ title }) => title),
  }
}
