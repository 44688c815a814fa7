import { createHash } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { Answers } from '../../../core/application/answers'
import { factsRead, factsText, rulesText } from '../../../core/eligibility/dependence'
import { evaluatePosts, type PostVerdict } from '../../../core/eligibility/evaluate'
import type { Notice } from '../../../core/notice/schema'
import type { Executor } from '../../database/client'
import { postVerdict } from '../../database/schema'
import { inserting, together, type Write } from '../../database/together'
import type { Context } from '../context'
import type { CurrentNotice } from '../notice/notices'
import { countedAnswers, type ApplicationRow } from '../applications/store'

export type VerdictRow = typeof postVerdict.$inferInsert

/** For one notice: what the verdict on each post is made from, as hashes. */
export class VerdictSources {
  readonly #posts: { id: string, questions: string[], rulesSha256: string }[]

  constructor(readonly notice: Notice) {
    this.#posts = notice.posts.map(post => ({
      id: post.id,
      questions: factsRead(notice, post),
      rulesSha256: sha256(rulesText(notice, post)),
    }))
  }

  /** By post, the hashes of the facts and of the rules. */
  of(answers: Answers): Map<string, { factsSha256: string, rulesSha256: string }> {
    return new Map(this.#posts.map(
      post => [post.id, { factsSha256: sha256(factsText(answers, post.questions)), rulesSha256: post.rulesSha256 }]
    ))
  }
}

function sha256(text: string): string {
  return createHash('sha256').update(text).digest('hex')
}

/** The places in the notice's text of the clauses that refuse, or leave open, a post. */
export function clausesBehind(verdict: PostVerdict): string {
  return verdict.findings.filter(f => f.verdict === verdict.verdict && f.verdict !== 'pass').map(f => f.origin?.clause ?? '').join(', ')
}

// A notice never changes, and its rules are long: they are made into hashes once.
const known = new WeakMap<Notice, VerdictSources>()

/** Judges one application now, unless that was done for these very answers, and keeps the verdicts as those in force. */
export async function keepVerdicts(tx: Executor, context: Context, row: ApplicationRow, under: CurrentNotice): Promise<PostVerdict[]> {
  const verdicts = evaluatePosts(under.notice, countedAnswers(under.notice, row))
  await together(tx, keepingVerdicts(context, row, under, verdicts))
  return verdicts
}

/** The same of verdicts that were made, as writes that are still to be carried out. */
export function keepingVerdicts(
  context: Context,
  row: ApplicationRow,
  { notice, version }: CurrentNotice,
  verdicts: readonly PostVerdict[],
): Write[] {
  const answers = countedAnswers(notice, row)
  const made = known.get(notice) ?? new VerdictSources(notice)
  known.set(notice, made)
  const sources = made.of(answers)
  const rows: VerdictRow[] = verdicts.map(v => ({
    applicationId: row.id,
    post: v.post,
    verdict: v.verdict,
    clauses: clausesBehind(v),
    at: context.now(),
    noticeVersion: version,
    ...(sources.get(v.post) ?? { factsSha256: '', rulesSha256: '' }),
  }))
  return rows.length === 0 ? [] : [inserting(postVerdict, rows, inPlaceOfFormer)]
}

const inPlaceOfFormer = sql.raw(`on conflict (application_id, post) do update set
  (verdict, clauses, facts_sha256, rules_sha256, at, notice_version)
  = (excluded.verdict, excluded.clauses, excluded.facts_sha256, excluded.rules_sha256, excluded.at, excluded.notice_version)`)
