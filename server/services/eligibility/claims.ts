import { and, desc, eq } from 'drizzle-orm'
import { heldClaims } from '../../../core/eligibility/claims'
import type { Notice } from '../../../core/notice/schema'
import type { RulingInput, RulingView } from '../../../shared/eligibility'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { claimRuling, postVerdict } from '../../database/schema'
import { carryOut, type Acting } from '../acts/carry-out'
import { shutPosts } from '../applications/form'
import type { ApplicationRow } from '../applications/store'
import type { Caller } from '../context'
import { currentAssessment, reassess } from '../fees/assessments'
import { namesOf } from '../people/names'
import { keepVerdicts } from './verdicts'

/**
 * Finds a claim false, or lets it stand after all. What was typed stays; the answers that count fall back as the notice
 * says, and verdicts, fee and place in the flow follow in the same transaction. The same ruling again changes nothing.
 *
 * @throws ProblemError `claim.none` for a claim that is not made, `claim.form` before submission and `claim.published` after publication.
 */
export async function ruleOnClaim(caller: Caller, applicationId: string, claimId: string, given: RulingInput): Promise<void> {
  await carryOut(caller, 'rule-on-claim', applicationId, { reason: given.reason }, async (acting) => {
    const { tx, context, row, notice } = acting
    const claim = heldClaims(notice, row.answers).find(c => c.id === claimId)
    if (!claim) throw refusal('claim.none', { number: row.number, claim: claimId })
    const falseClaims = given.ruling === 'false'
      ? [...new Set([...row.falseClaims, claimId])].sort()
      : row.falseClaims.filter(id => id !== claimId)
    if (falseClaims.join() === row.falseClaims.join()) return { result: null, isRepeated: true }
    const before = await state(acting, row)
    await tx.insert(claimRuling).values({
      id: context.newId(),
      applicationId,
      claim: claimId,
      ruling: given.ruling,
      reason: given.reason,
      by: context.principal.id,
      at: context.now(),
    })
    const ruled = { ...row, falseClaims }
    const isUnchanged = shutPosts(row, await keepVerdicts(tx, context, ruled, acting)).length === 0
    const fee = await reassess(acting, ruled)
    return {
      result: null,
      outcome: { fee, isUnchanged },
      columns: { falseClaims },
      before,
      after: { ...await state(acting, ruled), claim: claim.title, ruling: given.ruling },
    }
  })
}

/** What the history shows before and after: verdicts, fee and the claims that do not count. */
async function state({ tx }: Acting, row: ApplicationRow): Promise<Record<string, unknown>> {
  const verdicts = await tx.select().from(postVerdict).where(eq(postVerdict.applicationId, row.id)).orderBy(postVerdict.post)
  return {
    verdicts: Object.fromEntries(verdicts.map(v => [v.post, v.verdict])),
    fee: (await currentAssessment(tx, row.id))?.assessment.total ?? null,
    falseClaims: row.falseClaims,
  }
}

/** All rulings on an application's claims, the newest first. */
export async function rulingsOf(db: Executor, notice: Notice, applicationId: string): Promise<RulingView[]> {
  const rows = await db.select().from(claimRuling).where(and(eq(claimRuling.applicationId, applicationId))).orderBy(desc(claimRuling.at))
  const name = await namesOf(db, rows.map(r => r.by))
  return rows.map(r => ({
    claim: r.claim,
    title: notice.claims.find(c => c.id === r.claim)?.title ?? r.claim,
    ruling: r.ruling,
    reason: r.reason,
    by: name(r.by),
    at: r.at.toISOString(),
  }))
}
