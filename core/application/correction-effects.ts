import { cardContent, codeContent, type CardWords } from '../admit-card/content'
import { evaluatePosts, type PostVerdict } from '../eligibility/evaluate'
import { assessFee, type CorrectionCharge, type FeeExtras } from '../fees/assess'
import type { CorrectionRule, Notice } from '../notice/schema'
import type { Sitting } from '../seating/sittings'
import { testPapersOf } from './timetable'
import { listAnswer, type Answers } from './answers'
import { needsStepFree, openRequests } from './requests'

/** What a correction would do, listed before it takes effect. */
export interface CorrectionEffects {
  /** Posts whose verdict changes. */
  verdicts: { post: string, title: string, before: PostVerdict['verdict'], after: PostVerdict['verdict'], isChosen: boolean }[]
  /** Totals in minor units; `after` has the charge in it. Null where no fee can be told. */
  fee: { before: number | null, after: number | null, charge: number }
  /** What becomes of a seat, and why it is given up. */
  seat: 'none' | 'kept' | 'given up'
  seatWhy: 'step-free' | 'city' | 'papers' | null
  /** What a card that was issued would say otherwise; void while a request that it brings waits for the office. */
  card: 'none' | 'as it is' | 'made anew' | 'void'
}

/** What a correction is weighed with. `before` and `after` are answers that count; amounts are in minor units. */
export interface CorrectionCase {
  number: string
  before: Answers
  after: Answers
  /** The notice by whose schedule the fee is assessed: an amendment may have let it stay as it was. */
  schedule: Notice
  /** The moment that the fee is assessed for. */
  at: Date
  extras: FeeExtras
  charge: CorrectionCharge | null
  /** The seats that are held; none while nobody was placed. */
  sittings: readonly Sitting[]
  roll: string
  hasCard: boolean
  /** A photograph or signature is corrected. */
  hasNewPicture: boolean
}

/** Verdicts, fee, seat and card as a correction would change them. */
export function correctionEffects(notice: Notice, asked: CorrectionCase, words: CardWords): CorrectionEffects {
  const { before, after, extras, charge, at, schedule } = asked
  const withCharge = charge ? { ...extras, correctionCharges: [...extras.correctionCharges, charge] } : extras
  const [old, fresh] = [evaluatePosts(notice, before), evaluatePosts(notice, after)]
  const chosen = listAnswer(after, 'posts')
  const verdicts = fresh.flatMap((verdict) => {
    const was = old.find(one => one.post === verdict.post)?.verdict ?? 'unsure'
    return was === verdict.verdict
      ? []
      : [{ post: verdict.post, title: verdict.title, before: was, after: verdict.verdict, isChosen: chosen.includes(verdict.post) }]
  })
  const fee = {
    before: assessFee(schedule, before, at, extras)?.total ?? null,
    after: assessFee(schedule, after, at, withCharge)?.total ?? null,
    charge: charge?.amount ?? 0,
  }
  const [first] = asked.sittings
  const seatWhy = first ? whyNoSeat(notice, before, after, asked.sittings, first.city) : null
  const seat = !first ? 'none' : seatWhy ? 'given up' : 'kept'
  const isReprinted = asked.hasNewPicture
    || (first !== undefined && printed(notice, asked, before, words) !== printed(notice, asked, after, words))
  return {
    verdicts,
    fee,
    seat,
    seatWhy,
    card: !asked.hasCard
      ? 'none'
      : openRequests(notice, after).length > 0
      ? 'void'
      : seat === 'given up' || isReprinted
      ? 'made anew'
      : 'as it is',
  }
}

/** Whether it may take effect without a look: nothing that somebody decided on, and no money, hangs on it. */
export const needsNoLook = (rules: readonly CorrectionRule[], { verdicts, seat }: CorrectionEffects): boolean =>
  rules.length > 0 && rules.every(rule => rule.takesEffect === 'handed in') && verdicts.length === 0 && seat !== 'given up'

// A seat is given up only where the person could not sit there any more, or asks for other cities and it lies in none of them.
function whyNoSeat(
  notice: Notice,
  before: Answers,
  after: Answers,
  sittings: readonly Sitting[],
  city: string,
): CorrectionEffects['seatWhy'] {
  if (needsStepFree(notice, after) && sittings.some(seat => !seat.accessible)) return 'step-free'
  if (
    notice.testPapers.length > 0
    && testPapersOf(notice, listAnswer(after, 'posts')).map(paper => paper.id).join() !== sittings.map(seat => seat.paper).join()
  ) return 'papers'
  const cities = (answers: Answers) =>
    notice.sections.flatMap(s => s.questions).filter(q => q.kind === 'cities').flatMap(q => listAnswer(answers, q.id))
  const wanted = cities(after)
  return wanted.join() !== cities(before).join() && !wanted.includes(city) ? 'city' : null
}

function printed(notice: Notice, { number, sittings, roll }: CorrectionCase, answers: Answers, words: CardWords): string {
  if (sittings.length === 0) return ''
  const subject = { number, answers, sittings, roll, version: 1 }
  return JSON.stringify([cardContent(notice, subject, words), codeContent(notice, subject, '', words)])
}
