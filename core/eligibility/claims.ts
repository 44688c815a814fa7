import { conditionHolds, liveAnswers, type Answers } from '../application/answers'
import type { Tracks } from '../application/tracks'
import { assessFee } from '../fees/assess'
import type { Claim, Notice } from '../notice/schema'
import type { Verdict } from '../finding/finding'
import { evaluatePosts } from './evaluate'

/**
 * The answers that count after scrutiny: those of a claim found false fall back as the notice says. What was typed stays
 * in the sheet; a claim that the sheet does not make any more changes nothing.
 */
export function answersThatCount(notice: Notice, answers: Answers, foundFalse: readonly string[]): Answers {
  return heldClaims(notice, answers).filter(claim => foundFalse.includes(claim.id)).reduce<Answers>(
    (counted, claim) => ({ ...counted, ...claim.ifFalse }),
    answers,
  )
}

/** The claims that a sheet makes. */
export function heldClaims(notice: Notice, answers: Answers): Claim[] {
  const live = liveAnswers(notice, answers)
  return notice.claims.filter(claim => conditionHolds(claim.when, live) === true)
}

/** Why scrutiny cannot rule on claims now; null when it can. */
export function claimLock(tracks: Pick<Tracks, 'form' | 'scrutiny' | 'placement'>): 'form' | 'refused' | 'published' | null {
  if (tracks.form !== 'submitted') return 'form'
  if (tracks.scrutiny === 'refused') return 'refused'
  return tracks.placement === 'published' || tracks.placement === 'moved' ? 'published' : null
}

/** What hangs on one claim: the verdicts that change without it, and by how much the fee does, in minor units. */
export interface ClaimWeight {
  claim: string
  title: string
  proof: string
  foundFalse: boolean
  posts: { post: string, title: string, now: Verdict, without: Verdict }[]
  fee: number
}

/** Every claim of a sheet with what leans on it, whether found false or not. `at` is the moment the fee is assessed for. */
export function weighClaims(notice: Notice, answers: Answers, foundFalse: readonly string[], at: Date): ClaimWeight[] {
  return heldClaims(notice, answers).map((claim) => {
    const others = foundFalse.filter(id => id !== claim.id)
    const [held, fallen] = [answersThatCount(notice, answers, others), answersThatCount(notice, answers, [...others, claim.id])]
    const without = evaluatePosts(notice, fallen)
    return {
      claim: claim.id,
      title: claim.title,
      proof: claim.proof,
      foundFalse: foundFalse.includes(claim.id),
      posts: evaluatePosts(notice, held).flatMap((verdict, i) => {
        const other = without[i]?.verdict ?? verdict.verdict
        return other === verdict.verdict ? [] : [{ post: verdict.post, title: verdict.title, now: verdict.verdict, without: other }]
      }),
      fee: (assessFee(notice, fallen, at)?.total ?? 0) - (assessFee(notice, held, at)?.total ?? 0),
    }
  })
}
