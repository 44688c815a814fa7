import { and, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import { isFormEditable } from '../../../core/application/acts/guards'
import { openMatters, type Desk, type OpenMatter, type Standing } from '../../../core/application/open-matters'
import { grouped } from '../../../shared/grouped'
import { sheetFaults } from '../../../core/application/sheet'
import type { Tracks } from '../../../core/application/tracks'
import { dateInZone } from '../../../core/calendar/zone'
import type { Notice } from '../../../core/notice/schema'
import type { Executor } from '../../database/client'
import { asked, keptAbout } from '../../database/kept-statements'
import { application, image, openMatter } from '../../database/schema'
import { asJson, inserting, rowsOfJson, together, type Write } from '../../database/together'
import { decidedAnswers, tracksOf, type ApplicationRow, type StandingRow } from '../applications/store'
import type { Context } from '../context'
import { barHolds } from '../barred/holds'
import { currentNotice } from '../notice/notices'
import { currentImages, currentImagesOfMany, type ImageRow } from '../images/current'

/** What counts of the files: by slot, what was found in them. */
export type FoundInFiles = Partial<Record<string, Pick<ImageRow, 'findings'>>>

/** What is open on an application by its tracks, answers and files as they are now. `read`: what was read already. */
export async function mattersNow(
  tx: Executor,
  context: Pick<Context, 'now'>,
  row: ApplicationRow,
  notice: Notice,
  read: Partial<FoundBeside> = {},
): Promise<OpenMatter[]> {
  return mattersOf(
    context,
    row,
    notice,
    read.files ?? await currentImages(tx, row.id),
    read.outside ? outsideOf(row, read.outside) : (await askedOfMany(tx, [row])).get(row.id),
  )
}

/**
 * What hangs on the application besides its own row, and that its matters follow from: files, what others must settle, and the matters that
 * are kept as open.
 */
export interface FoundBeside {
  files: FoundInFiles
  outside: FoundOutside
  kept: (typeof openMatter.$inferSelect)[]
}

/** The same as columns of a statement that reads more of one application. */
export const besideColumns = (): SQL =>
  sql`
  ${
    asJson(sql`select distinct on (kind) * from image where application_id = ${asked.id} and state <> 'refused' and correction_id is null order by kind, version desc`)
  } as files,
  (select to_jsonb(found) from (${outsideSelect(sql`(select ${asked.id} as id)`)}) as found) as outside,
  ${asJson(sql`select * from open_matter where application_id = ${asked.id} and cleared_at is null`)} as kept`

const besideAbout = keptAbout(() => sql`select ${besideColumns()}`)

export interface BesideRow extends Record<string, unknown> {
  files: Record<string, unknown>[]
  outside: FoundOutside
  kept: Record<string, unknown>[]
}

export const besideOf = ({ files, outside, kept }: BesideRow): FoundBeside & { images: Partial<Record<string, ImageRow>> } => {
  const images = Object.fromEntries(rowsOfJson(image, files).map(row => [row.kind, row]))
  return { images, files: images, outside, kept: rowsOfJson(openMatter, kept) }
}

/** What others must settle before scrutiny can decide. */
type Outside = Pick<Standing, 'referral' | 'likelyPairs' | 'correction' | 'isChargedBack' | 'isBarred' | 'isBounced' | 'isSlipWaiting'>
export interface FoundOutside extends Record<string, unknown> {
  id: string
  desk: Desk | null
  until: string | null
  pairs: string | number
  correction: 'unpaid' | 'waiting' | null
  correct_until: string | null
  back: boolean
  barred: boolean
  bounced: boolean
  slip: boolean
}

/** Questions to desks, likely pairs and corrections of those among some applications that were submitted. */
async function askedOfMany(tx: Executor, rows: readonly Pick<ApplicationRow, 'id' | 'submittedAt'>[]): Promise<Map<string, Outside>> {
  const submitted = rows.filter(row => row.submittedAt !== null)
  if (submitted.length === 0) return new Map()
  const { rows: found } = await tx.execute<FoundOutside>(outsideSelect(sql`unnest(${sql.param(submitted.map(row => row.id))}::uuid[])`))
  return new Map(submitted.flatMap((row) => {
    const own = found.find(one => one.id === row.id)
    return own ? [[row.id, outsideOf(row, own)]] : []
  }))
}

/** Of some ids, what others must settle. */
const outsideSelect = (ids: SQL): SQL =>
  sql`select one.id, r.desk, r.until, (select count(*) from likely_pair p where p.state = 'open' and (p.first = one.id or p.second = one.id)) as pairs, c.state as correction, c.until as correct_until,
      exists (select 1 from ledger_transaction t where t.application_id = one.id and t.kind = 'charge-back') as back, ${
    barHolds(sql`one.id`)
  } as barred,
      exists (select 1 from application a join contact k on k.principal_id = a.owner_id where a.id = one.id and (${newestLetter}) = 'refused') as bounced,
      exists (select 1 from deposit_slip s where s.application_id = one.id and s.state = 'waiting') as slip
    from ${ids} as one(id) left join referral r on r.application_id = one.id and r.answered_at is null left join correction c on c.application_id = one.id and c.state in ('unpaid', 'waiting')`

/** Of one that was never submitted others have nothing to settle. */
function outsideOf(
  { submittedAt }: Pick<ApplicationRow, 'submittedAt'>,
  { desk, until, pairs, correction, correct_until: correctUntil, back, barred, bounced, slip }: FoundOutside,
): Outside {
  if (submittedAt === null) return {}
  return {
    isChargedBack: back,
    isBarred: barred,
    isBounced: bounced,
    isSlipWaiting: slip,
    referral: desk && { desk, until: iso(until) },
    likelyPairs: Number(pairs),
    correction: correction && { state: correction, until: iso(correctUntil) },
  }
}

// What became of the newest letter to an address that somebody has proved.
const newestLetter =
  sql`select l.state from letter l where l.principal_id = k.principal_id and l.address = k.address and l.state <> 'waiting' order by l.at desc, l.id desc limit 1`

const iso = (instant: string | null) => instant === null ? null : new Date(instant).toISOString()

function mattersOf(
  context: Pick<Context, 'now'>,
  row: ApplicationRow,
  notice: Notice,
  files: FoundInFiles,
  outside: Outside = {},
): OpenMatter[] {
  const sheetFindings = isFormEditable(row)
    ? sheetFaults(notice, decidedAnswers(notice, row), dateInZone(context.now(), notice.body.zone))
    : []
  return openMatters({
    notice,
    tracks: tracksOf(row),
    sheetFindings,
    answers: decidedAnswers(notice, row),
    endorsed: row.endorsed,
    keying: row.keying,
    openUntil: row.openUntil,
    ...outside,
    files: Object.fromEntries(Object.entries(files).map(([slot, file]) => [slot, file?.findings])),
  })
}

/** Opens what has come up and clears what is gone, in the transaction of the act that brought it about. */
export async function settleMatters(tx: Executor, context: Context, row: ApplicationRow, notice: Notice): Promise<void> {
  const { rows: [found] } = await tx.execute<BesideRow>(besideAbout({ id: row.id }))
  if (found) await together(tx, settlingMatters(tx, context, row, notice, besideOf(found)))
}

/** The same as writes that are still to be carried out, of an application whose matters were read. */
export function settlingMatters(
  tx: Executor,
  context: Context,
  row: ApplicationRow,
  notice: Notice,
  { files, outside, kept }: FoundBeside,
): Write[] {
  return writesOf(tx, context, [{ row, ...changeOf(kept, mattersOf(context, row, notice, files, outsideOf(row, outside))) }])
}

/** The same for many of one cycle, in a few statements. */
export async function settleMattersOfMany(tx: Executor, context: Context, rows: readonly ApplicationRow[], notice: Notice): Promise<void> {
  const ids = rows.map(row => row.id)
  const files = await currentImagesOfMany(tx, ids)
  const outside = await askedOfMany(tx, rows)
  const kept = grouped(
    await tx.select().from(openMatter).where(and(inArray(openMatter.applicationId, ids), isNull(openMatter.clearedAt))),
    matter => matter.applicationId,
  )
  const changes = rows.map(row => ({
    row,
    ...changeOf(kept.get(row.id) ?? [], mattersOf(context, row, notice, files.get(row.id) ?? {}, outside.get(row.id))),
  }))
  await together(tx, writesOf(tx, context, changes))
}

function writesOf(tx: Executor, context: Context, changes: readonly (ReturnType<typeof changeOf> & { row: ApplicationRow })[]): Write[] {
  const gone = changes.flatMap(change => change.gone)
  const fresh = changes.flatMap(({ row, fresh: opened }) => opened.map(matter => matterRow(context, row, matter)))
  return [
    ...gone.length > 0
      ? [tx.update(openMatter).set({ clearedAt: context.now(), clearedBy: context.principal.id }).where(inArray(openMatter.id, gone))]
      : [],
    ...fresh.length > 0 ? [inserting(openMatter, fresh)] : [],
    ...changes.flatMap(change => change.changed).map(({ id, matter: { about, owner, holds, parameters, ...matter } }) =>
      tx.update(openMatter).set({ about, owner, holds, parameters, until: untilOf(matter) }).where(eq(openMatter.id, id))
    ),
  ]
}

/** What differs between the matters that are kept as open and those that are. */
function changeOf(
  kept: readonly (typeof openMatter.$inferSelect)[],
  now: readonly OpenMatter[],
): { gone: string[], fresh: OpenMatter[], changed: { id: string, matter: OpenMatter }[] } {
  const key = ({ kind, about }: Pick<OpenMatter, 'kind' | 'about'>) => `${kind}/${kind === 'gaps' || kind === 'keying' ? '' : about}`
  const wanted = new Map(now.map(matter => [key(matter), matter]))
  const held = new Map(kept.map(matter => [key(matter), matter]))
  return {
    gone: kept.filter(matter => !wanted.has(key(matter))).map(matter => matter.id),
    fresh: now.filter(matter => !held.has(key(matter))),
    changed: now.flatMap((matter) => {
      const before = held.get(key(matter))
      return before && differs(before, matter) ? [{ id: before.id, matter }] : []
    }),
  }
}

const untilOf = (matter: Pick<OpenMatter, 'until'>) => matter.until === null ? null : new Date(matter.until)

function differs(before: typeof openMatter.$inferSelect, matter: OpenMatter): boolean {
  return before.about !== matter.about || before.owner !== matter.owner || before.holds !== matter.holds
    || (before.until?.toISOString() ?? null) !== matter.until || JSON.stringify(before.parameters) !== JSON.stringify(matter.parameters)
}

export function matterRow(
  context: Pick<Context, 'now' | 'newId'>,
  row: Pick<StandingRow, 'id' | 'cycle'>,
  matter: OpenMatter,
): typeof openMatter.$inferInsert {
  const { kind, about, owner, holds, parameters } = matter
  return {
    id: context.newId(),
    applicationId: row.id,
    cycle: row.cycle,
    kind,
    about,
    owner,
    holds,
    parameters,
    since: context.now(),
    until: untilOf(matter),
  }
}

/** Opens many matters at once: as one JSON parameter, since thousands of rows of parameters of their own take most of the time. */
export async function openMany(tx: Executor, matters: readonly (typeof openMatter.$inferInsert)[]): Promise<void> {
  if (matters.length > 0) await tx.execute(inserting(openMatter, matters))
}

// Between acceptance and card what is open follows from the tracks alone.
const afterAcceptance = ['placement', 'publication', 'card', 'card-withheld'] as const

/** The same for many that stand alike between acceptance and card, or that have left the flow, in a few statements. */
export async function settleMattersOfAlike(
  tx: Executor,
  context: Context,
  group: readonly StandingRow[],
  tracks: Tracks,
  notice: Notice,
): Promise<void> {
  const matters = openMatters({
    notice: { ...notice, documents: [] },
    tracks,
    sheetFindings: [],
    answers: {},
    openUntil: null,
    files: { photograph: [], signature: [], thumb: [] },
  }).filter(matter => afterAcceptance.some(kind => kind === matter.kind))
  const isOver = tracks.form === 'withdrawn' || tracks.form === 'lapsed'
  const now = context.now().toISOString()
  for (let from = 0; from < group.length; from += 5000) {
    const part = group.slice(from, from + 5000)
    const ids = sql.param(part.map(row => row.id))
    await tx.execute(sql`update open_matter set cleared_at = ${now}::timestamptz, cleared_by = ${context.principal.id}::uuid
      where application_id = any(${ids}::uuid[]) and cleared_at is null ${
      isOver ? sql`` : sql`and kind = any(${sql.param([...afterAcceptance])}::text[])`
    }`)
    for (const { kind, about, owner, holds } of matters) {
      await tx.execute(sql`insert into open_matter (id, application_id, cycle, kind, about, owner, holds, parameters, since)
        select gen_random_uuid(), id, ${notice.code}, ${kind}, ${about}, ${owner}, ${holds}, '{}'::jsonb, ${now}::timestamptz from unnest(${ids}::uuid[]) as id`)
    }
  }
}

/** Opens or clears what hangs on letters to somebody, on each of their applications. */
export async function settleMattersOfOwner(tx: Executor, context: Context, owner: string): Promise<void> {
  const rows = await tx.select().from(application).where(eq(application.ownerId, owner)).orderBy(application.id).for('update')
  for (const row of rows) await settleMatters(tx, context, row, (await currentNotice(tx, row.cycle)).notice)
}
