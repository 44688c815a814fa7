import { conditionLeaves } from '../notice/conditions'
import type { Notice } from '../notice/schema'
import { isFeeClear, type Tracks } from '../application/tracks'

/** Whether the fee has to be paid before a form can be handed in. */
export const isPaidFirst = ({ fees }: Pick<Notice, 'fees'>): boolean => fees.order !== 'after submission'

/** Whether somebody's questions and files wait until the fee is paid. */
export function isFormAfterFee({ fees }: Pick<Notice, 'fees'>, { form, fee }: Pick<Tracks, 'form' | 'fee'>): boolean {
  return fees.order === 'before the form' && form === 'drafting' && !isFeeClear(fee)
}

/**
 * The questions that are asked before anything is paid: what the fee hangs on, what those questions hang on in turn, and who somebody is
 * and how they are reached. The rest waits where the notice wants the fee first.
 */
export function feeQuestions(notice: Notice): ReadonlySet<string> {
  let known = ready.get(notice)
  if (!known) ready.set(notice, known = findQuestions(notice))
  return known
}

const ready = new WeakMap<Notice, ReadonlySet<string>>()

function findQuestions({ fees, sections }: Notice): ReadonlySet<string> {
  const questions = sections.flatMap(section => section.questions)
  const rows = [...fees.base, ...fees.posts, ...fees.waivers, ...fees.surcharges, ...fees.payers]
  const countsPosts = fees.posts.length > 0 || fees.further.length > 0
  const found = new Set(['certificateName', 'category', ...countsPosts ? ['posts'] : [],
    ...questions.filter(q => q.kind === 'email' || q.kind === 'mobile').map(q => q.id),
    ...rows.flatMap(row => conditionLeaves(row.when)).map(leaf => leaf.question)])
  // Conditions look at earlier questions only, so that one pass from the last to the first finds all.
  for (const question of [...questions].reverse()) {
    if (found.has(question.id)) { for (const leaf of conditionLeaves(question.when)) found.add(leaf.question) }
  }
  return found
}

/** Whether a question or a file waits for the fee. */
export const waitsForFee = (notice: Notice, tracks: Pick<Tracks, 'form' | 'fee'>, item: string): boolean =>
  isFormAfterFee(notice, tracks) && !feeQuestions(notice).has(item)

/**
 * The moment that decides which late period a fee lies in. Where the fee is paid first, what counts is when it was asked for last before it
 * was paid: what was typed since, or the day of the submission, makes nobody late.
 */
export function feeMoment(
  { feeMoment: asked, submittedAt, fee }: { feeMoment: Date | null, submittedAt: Date | null, fee: Tracks['fee'] },
  now: Date,
): Date {
  return asked && (submittedAt !== null || isFeeClear(fee) || fee === 'confirming') ? asked : submittedAt ?? now
}

/** What is still open once money was booked, as letters tell it: the form itself, a part of the fee, or nothing. */
export const openAfter = (fee: Tracks['fee'], form: Tracks['form']): 'yes' | 'draft' | 'no' =>
  !isFeeClear(fee) ? 'yes' : form === 'drafting' ? 'draft' : 'no'

/** Before when a fee has to be paid: a form that cannot be handed in before its fee is paid is paid before it closes. */
export const lastToPay = ({ keyDates }: Pick<Notice, 'keyDates'>, form: Tracks['form']): string =>
  form === 'drafting' ? keyDates.closes : keyDates.lastPayment
