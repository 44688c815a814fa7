import { and, asc, eq, sql } from 'drizzle-orm'
import { may } from '../../../core/access/permissions'
import { correctionPeriod, correctionsOpen } from '../../../core/application/corrections'
import { slotsOf } from '../../../core/application/slots'
import { isOpened } from '../../../core/application/acts/opened'
import type { CorrectionRule, Notice } from '../../../core/notice/schema'
import type { CorrectionPage, CorrectionView, OpenRule } from '../../../shared/corrections'
import { application, correction } from '../../database/schema'
import { factsOf } from '../acts/facts'
import type { Acting } from '../acts/carry-out'
import { decidedAnswers, readApplication, type ApplicationRow } from '../applications/store'
import { relationsTo, type Caller, type Context } from '../context'
import { moneyOf } from '../fees/received'
import { viewsOfCorrection } from '../images/views'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'
import { newestCorrectionOf, type CorrectionRow } from './store'
import { weigh } from './weigh'

type Read = Pick<Acting, 'tx' | 'context' | 'row' | 'notice' | 'version' | 'facts'>

/** The correction of an application under way, or the last one, and what may be corrected now. */
export async function readCorrection(caller: Caller, id: string): Promise<CorrectionView> {
  const context = await caller.authorise('applications.read', { application: id })
  return readOf(context, await readApplication(context.db, id))
}

async function readOf(context: Context, row: ApplicationRow): Promise<CorrectionView> {
  const { db } = context
  return viewOf({
    tx: db,
    context,
    row,
    ...await currentNotice(db, row.cycle),
    facts: await factsOf(db, row, (await currentNotice(db, row.cycle)).notice),
  }, await newestCorrectionOf(db, row.id))
}

/** A correction as it stands now. */
export async function viewOf(read: Read, asked: CorrectionRow | null): Promise<CorrectionView> {
  const { tx, context, row, notice } = read
  const open = correctionsOpen(notice, context.principal, context.now())
  const rules = open.map(rule => ruleView(notice, rule))
  const none: CorrectionView = {
    id: null,
    state: null,
    rules,
    openItems: may(context.principal, 'dates.override') ? null : openItems(notice, open, row),
    changes: [],
    files: {},
    reason: '',
    until: null,
    owes: { total: 0, open: 0, charge: 0 },
    effects: null,
    faults: [],
    lacks: [],
    handed: null,
    decided: null,
  }
  if (!asked) return none
  const isOpen = asked.state === 'drafting' || asked.state === 'unpaid' || asked.state === 'waiting'
  const weighed = isOpen ? await weigh(read, asked) : null
  const money = (await moneyOf(tx, context, [row.id])).get(row.id)
  const total = asked.state === 'drafting' ? weighed?.holds ?? 0 : asked.holds
  const name = await namesOf(tx, [asked.handedBy, asked.decidedBy])
  // Candidates are told what the office has decided, not who of it.
  const by = (who: string | null) => context.principal.kind === 'staff' || who === context.principal.id ? name(who) : notice.body.name
  const used = asked.state === 'drafting'
    ? rules
    : notice.corrections.filter(rule => asked.rules.includes(rule.id)).map(rule => ruleView(notice, rule))
  return {
    ...none,
    id: asked.id,
    state: asked.state,
    rules: used,
    openItems: none.openItems && weighed ? openItems(notice, open, weighed.corrected) : none.openItems,
    changes: Object.entries(asked.changes).map(([item, change]) => ({ item, ...change })),
    files: may(context.principal, 'files.read', relationsTo(context.principal, row)) ? await viewsOfCorrection(tx, asked.id) : {},
    reason: asked.reason,
    until: asked.until?.toISOString() ?? null,
    owes: {
      total,
      open: Math.max(0, total - Math.max(0, (money?.received ?? 0) - (money?.assessed ?? 0))),
      charge: asked.charge?.amount ?? weighed?.charge?.amount ?? 0,
    },
    effects: weighed?.effects ?? asked.effects ?? null,
    faults: weighed?.faults ?? [],
    lacks: weighed?.lacks ?? [],
    handed: asked.handedAt && { by: by(asked.handedBy), at: asked.handedAt.toISOString(), isOwn: asked.handedBy === context.principal.id },
    decided: asked.decidedAt && asked.handedAt
      && { by: by(asked.decidedBy), at: asked.decidedAt.toISOString(), reason: asked.decision ?? '' },
  }
}

function ruleView(notice: Notice, rule: CorrectionRule): OpenRule {
  return {
    id: rule.id,
    title: rule.title,
    items: rule.items,
    closes: correctionPeriod(notice, rule).closes.toISOString(),
    charge: rule.charge,
    proof: rule.proof?.title ?? null,
    takesEffect: rule.takesEffect,
  }
}

/** Everything that the open rules let somebody change on a sheet with these answers. */
function openItems(notice: Notice, rules: readonly CorrectionRule[], row: Pick<ApplicationRow, 'answers' | 'requests'>): string[] {
  const items = [...notice.sections.flatMap(s => s.questions).map(q => q.id),
    ...slotsOf(notice, decidedAnswers(notice, row)).map(slot => slot.id)]
  return items.filter(item => rules.some(rule => isOpened(notice, rule.items, item)))
}

/** Corrections of a cycle that wait for the office, those first that have waited longest. */
export async function listCorrections(caller: Caller, cycle: string, after?: string): Promise<CorrectionPage> {
  const context = await caller.authorise('scrutiny.read', { cycle })
  const limit = 20
  const [at, last] = after?.split('~') ?? []
  const found = await context.db.select({ correction, application }).from(correction).innerJoin(
    application,
    eq(application.id, correction.applicationId),
  ).where(and(
    eq(correction.cycle, cycle),
    eq(correction.state, 'waiting'),
    at && last ? sql`(${correction.handedAt}, ${correction.id}) > (${at}::timestamptz, ${last}::uuid)` : undefined,
  )).orderBy(asc(correction.handedAt), asc(correction.id)).limit(limit + 1)
  const page = found.slice(0, limit)
  const end = page.at(-1)?.correction
  const rows = []
  for (const { correction: asked, application: row } of page) {
    const view = await readOf(context, row)
    rows.push({
      applicationId: row.id,
      number: row.number,
      name: row.displayName,
      headline: row.headline,
      handedAt: asked.handedAt?.toISOString() ?? '',
      view,
    })
  }
  return { rows, next: found.length > limit && end?.handedAt ? `${end.handedAt.toISOString()}~${end.id}` : null }
}
