import { and, desc, eq } from 'drizzle-orm'
import { claimLock, heldClaims } from '../../../core/eligibility/claims'
import { listAnswer } from '../../../core/application/answers'
import { isFeeClear } from '../../../core/application/tracks'
import type { PostVerdict } from '../../../core/eligibility/evaluate'
import type { Notice } from '../../../core/notice/schema'
import type { RulingInput, RulingView } from '../../../shared/eligibility'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, claimRuling, postVerdict } from '../../database/schema'
import { lockApplication, saveTracks, tracksOf, type ApplicationRow } from '../applications/store'
import { audit, demand, type Context } from '../context'
import { currentAssessment, reassess } from '../fees/assessments'
import { currentNotice } from '../notice/notices'
import { keepVerdicts } from './verdicts'

/**
 * Finds a claim false, or lets it stand after all. What was typed stays; the answers that count fall back as the notice
 * says, and verdicts, fee and place in the flow follow in the same transaction. The same ruling again changes nothing.
 *
 * @throws ProblemError `bad-input` for a claim that is not made, `not-now` before submission and after publication.
 */
export async function ruleOnClaim(context: Context, applicationId: string, claimId: string, given: RulingInput): Promise<void> {
  const actor = demand(context, 'scrutiny.decide')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    const { notice } = await currentNotice(tx, row.cycle)
    const claim = heldClaims(notice, row.answers).find(c => c.id === claimId)
    if (!claim) throw new ProblemError('bad-input', `${row.number} makes no claim "${claimId}". Load the case anew. Nothing was changed.`)
    refuseOutOfTime(row)
    const falseClaims = given.ruling === 'false' ? [...new Set([...row.falseClaims, claimId])].sort() : row.falseClaims.filter(id => id !== claimId)
    if (falseClaims.join() === row.falseClaims.join()) return
    const before = await state(tx, row)
    await tx.insert(claimRuling).values({ id: context.newId(), applicationId, claim: claimId, ruling: given.ruling, reason: given.reason, by: actor.name, at: context.now() })
    await tx.update(application).set({ falseClaims, updatedAt: context.now() }).where(eq(application.id, applicationId))
    const ruled = { ...row, falseClaims }
    const verdicts = await keepVerdicts(tx, context, ruled, notice)
    await followUp(tx, context, ruled, notice, verdicts)
    await audit(tx, context, given.ruling === 'false' ? 'find claim false' : 'let claim stand', `application:${row.number}`,
      before, { ...await state(tx, ruled), claim: claim.title, reason: given.reason })
  })
}

function refuseOutOfTime(row: ApplicationRow): void {
  const lock = claimLock(row)
  if (!lock) return
  throw new ProblemError('not-now', {
    form: `${row.number} is ${row.form}; claims are ruled on once the form is submitted. Nothing was changed.`,
    refused: `${row.number} is refused already. Nothing was changed.`,
    published: `${row.number} holds a published seat. Take the seat back first; nothing was changed.`,
  }[lock])
}

// The fee follows the answers that count. A case that was accepted comes back to scrutiny when money is due again or a
// post that it chose is no longer open.
async function followUp(tx: Executor, context: Context, row: ApplicationRow, notice: Notice, verdicts: PostVerdict[]): Promise<void> {
  const fee = await reassess(tx, context, row, notice)
  const chosen = listAnswer(row.answers, 'posts')
  const shut = verdicts.some(v => chosen.includes(v.post) && v.verdict === 'fail')
  const scrutiny = row.scrutiny === 'accepted' && (shut || !isFeeClear(fee)) ? 'waiting' as const : row.scrutiny
  await saveTracks(tx, context, row, { fee, scrutiny, placement: scrutiny === 'waiting' ? 'unplaced' : row.placement })
}

/** What the history shows before and after: verdicts, fee and tracks. */
async function state(tx: Executor, row: ApplicationRow): Promise<Record<string, unknown>> {
  const verdicts = await tx.select().from(postVerdict).where(eq(postVerdict.applicationId, row.id)).orderBy(postVerdict.post)
  const [now] = await tx.select().from(application).where(eq(application.id, row.id))
  return {
    verdicts: Object.fromEntries(verdicts.map(v => [v.post, v.verdict])), fee: (await currentAssessment(tx, row.id))?.assessment.total ?? null, ...(now ? tracksOf(now) : {}),
  }
}

/** All rulings on an application's claims, the newest first. */
export async function rulingsOf(db: Executor, notice: Notice, applicationId: string): Promise<RulingView[]> {
  const rows = await db.select().from(claimRuling).where(and(eq(claimRuling.applicationId, applicationId))).orderBy(desc(claimRuling.at))
  return rows.map(r => ({ claim: r.claim, title: notice.claims.find(c => c.id === r.claim)?.title ?? r.claim, ruling: r.ruling, reason: r.reason, by: r.by, at: r.at.toISOString() }))
}
