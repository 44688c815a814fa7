import { and, asc, count, eq, gt, sql } from 'drizzle-orm'
import type { Finding } from '../../../core/finding/finding'
import type { RefusalCode } from '../../../core/refusal/codes'
import { referenceIn } from '../../../core/roll/judge'
import { formatMessage } from '../../../core/words/message'
import type { TextRead } from '../../../shared/acts'
import type { RollLeft } from '../../../shared/rolls'
import { ProblemError, type Problem } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import { csvOf } from '../../../tables/write'
import { auditEvent, rollEntry } from '../../database/schema'
import type { Given } from '../acts/given'
import { refuseIncomplete, submitApplication } from '../applications/form'
import type { ApplicationRow } from '../applications/store'
import { textsOnPaper } from '../applications/texts'
import type { Caller, Context } from '../context'
import { currentImagesOfMany } from '../images/current'
import { currentNotice } from '../notice/notices'
import { countDrafts, drafts, isDraftOf, rollOf, type Sender } from './rolls'

/** Handing in what rolls have brought: what is complete goes on as if somebody had pressed the button at each, the rest stays a draft. */

const pageLength = 200

interface Looked {
  key: string
  row: ApplicationRow
  /** What its sender has on paper that the candidate accepts. */
  texts: TextRead[]
  /** Why it cannot be handed in as it stands; null where nothing lacks. */
  problem: Problem | null
}

/** All of them by what tells them apart, each with what it lacks. */
async function* lookedThrough(context: Context, of: Sender): AsyncGenerator<Looked> {
  for (let after = '';;) {
    const { notice } = await currentNotice(context.db, of.cycle)
    const page = await drafts(context.db).where(and(isDraftOf(of), gt(rollEntry.key, after))).orderBy(asc(rollEntry.key)).limit(pageLength)
    const images = await currentImagesOfMany(context.db, page.map(one => one.row.id))
    for (const { key, row } of page) {
      yield {
        key,
        row,
        texts: textsOnPaper(notice),
        problem: problemIn(() => refuseIncomplete({ context, row, notice }, images.get(row.id) ?? {})),
      }
    }
    if (page.length < pageLength) return
    after = page.at(-1)?.key ?? ''
  }
}

function problemIn(look: () => unknown): Problem | null {
  try {
    look()
    return null
  } catch (error) {
    if (error instanceof ProblemError) return error.problem
    throw error
  }
}

const groups: Partial<Record<string, RollLeft>> = {
  'sheet.incomplete': 'answers',
  'sheet.files-missing': 'files',
  'sheet.files-waiting': 'waiting',
  'sheet.posts-shut': 'shut',
}

/**
 * Hands in every complete draft that a sender's rolls have brought, one after the other, each an act of its own; gives how many were handed
 * in and what the others lack. Run again it goes on with what is left. Outside the dates of the notice only with a reason.
 */
export async function handInRoll(
  caller: Caller,
  id: string,
  tell: (done: number, total: number) => Promise<boolean>,
  reason: string | null,
): Promise<Record<RollLeft | 'handedIn', number> & { roll: string }> {
  const context = await caller.authorise('rolls.enter')
  const { locale, screens } = context.language
  const found = await rollOf(context.db, id)
  const declared = formatMessage(locale, screens.rolls.declaredBy, { sender: found.sender })
  const given: Given = { reason: [declared, reason].filter(Boolean).join(' '), outsideDates: reason !== null }
  const counts = { handedIn: await handedInBefore(context, found), answers: 0, files: 0, waiting: 0, shut: 0, otherwise: 0 }
  const total = await countDrafts(context.db, found)
  let done = 0
  for await (const { row, texts, problem } of lookedThrough(context, found)) {
    const left = problem ?? await handedIn(caller, row, texts, given)
    counts[left ? groups[left.code] ?? 'otherwise' : 'handedIn'] += 1
    done += 1
    if (done % 20 === 0 && !await tell(done, Math.max(done, total))) throw refusal('roll.hand-in-stopped')
  }
  return { ...counts, roll: id }
}

/** What the same work has handed in before its process died: it goes on counting there. */
async function handedInBefore({ db, requestId }: Context, { cycle, sender }: Sender): Promise<number> {
  const isOfWork = and(
    eq(auditEvent.subject, sql`${rollEntry.applicationId}::text`),
    eq(auditEvent.act, 'submit'),
    eq(auditEvent.requestId, requestId),
  )
  const [row] = await db.select({ n: count() }).from(rollEntry).innerJoin(auditEvent, isOfWork)
    .where(and(eq(rollEntry.cycle, cycle), eq(rollEntry.sender, sender)))
  return row?.n ?? 0
}

async function handedIn(caller: Caller, { id, revision }: ApplicationRow, texts: TextRead[], given: Given): Promise<Problem | null> {
  try {
    await submitApplication(caller, id, { revision, declared: true, texts }, given)
    return null
  } catch (error) {
    if (error instanceof ProblemError && error.problem.kind !== 'fault') return error.problem
    throw error
  }
}

/** Those that are drafts still, with what each lacks, as a table for the sender. */
export async function draftRows(caller: Caller, id: string): Promise<AsyncGenerator<string>> {
  const context = await caller.authorise('rolls.enter')
  return pagesOfDrafts(context, await rollOf(context.db, id))
}

async function* pagesOfDrafts(context: Context, of: Sender): AsyncGenerator<string> {
  const { screens: { rolls, roster }, findings, refusals } = context.language
  // Spreadsheets take a file for UTF-8 by its mark.
  yield `\uFEFF${csvOf([[roster.number, rolls.reference, roster.name, rolls.reasons]])}`
  for await (const { key, row, problem } of lookedThrough(context, of)) {
    const faults = problem?.code === 'sheet.incomplete' ? problem.data as Finding[] : []
    const why = problem && faults.length === 0
      ? refusals.refusalText(problem.code as RefusalCode, problem.parameters)
      : faults.map(one => findings.findingWords(one).title).join(' | ')
    yield csvOf([[row.number, referenceIn(key), row.displayName, why]])
  }
}
