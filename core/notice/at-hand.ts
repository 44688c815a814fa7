import type { Claim, Condition, Notice } from './schema'
import { imageKindsOf, imageRuleOf } from './image-rules'

/**
 * Something to have ready before the form is begun; of a claim, the proof of it. `when` tells for whom; `leadDays` how long getting it may
 * take.
 */
export interface AtHand {
  title: string
  detail: string
  claim: Claim | null
  when: Condition | null
  leadDays: number | null
}

/**
 * What the form will ask for that nobody knows by heart: proofs of what may be claimed, papers and pictures. What takes long to get comes
 * first.
 */
export function toHaveAtHand(notice: Notice): AtHand[] {
  const proofs = notice.claims.map((claim): AtHand => ({
    title: claim.title,
    detail: claim.proof,
    claim,
    when: claim.when,
    leadDays: claim.leadDays ?? null,
  }))
  const papers = notice.documents.map(({ title, shows, when }): AtHand => ({
    title,
    detail: shows,
    claim: null,
    when: when ?? null,
    leadDays: null,
  }))
  const pictures = imageKindsOf(notice).map((kind): AtHand => ({
    title: imageRuleOf(notice, kind).title,
    detail: '',
    claim: null,
    when: null,
    leadDays: null,
  }))
  return [...proofs, ...papers, ...pictures].sort((a, b) => (b.leadDays ?? 0) - (a.leadDays ?? 0))
}
