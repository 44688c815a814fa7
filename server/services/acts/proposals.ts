import { and, desc, eq, inArray } from 'drizzle-orm'
import { isOnMany, settlePermission, type ProposedAct } from '../../../core/application/acts/table'
import type { ActId } from '../../../core/application/acts/rule'
import { refusal } from '../../../shared/refusal'
import type { ProposalView } from '../../../shared/acts'
import { roomsChangeSchema } from '../../../shared/places'
import type { Executor } from '../../database/client'
import { application, officeSetting, proposal, room, venue } from '../../database/schema'
import type { ApplicationRow } from '../applications/store'
import { log, type Caller, type Context } from '../context'
import { namesOf } from '../people/names'
import type { Given } from './given'

/** Name of the setting by which an office of one person has said, on record, what it does without a second one. */
export const withoutSecondPerson = 'without-second-person'

/** Whether an act has to wait for a second person now. Who began it cannot confirm it. */
export async function secondPersonWanted(tx: Executor, context: Context, act: string, subject: string, given: Given): Promise<boolean> {
  if (given.confirmed) {
    if (given.confirmed.by === context.principal.id) throw refusal('access.second-self')
    return false
  }
  const [setting] = await tx.select({ value: officeSetting.value }).from(officeSetting).where(eq(officeSetting.name, withoutSecondPerson))
  if (Array.isArray(setting?.value) && setting.value.includes(act)) return false
  const [waiting] = await tx.select({ by: proposal.by }).from(proposal)
    .where(and(eq(proposal.act, act as ActId), eq(proposal.subject, subject), eq(proposal.state, 'waiting')))
  if (waiting) throw refusal('act.proposed', { by: (await namesOf(tx, [waiting.by]))(waiting.by) })
  return true
}

/** Writes down an act that waits for a second person. */
export async function propose(
  tx: Executor,
  context: Context,
  act: ProposedAct,
  row: Pick<ApplicationRow, 'id' | 'cycle'>,
  given: Given,
): Promise<string> {
  const id = context.newId()
  await tx.insert(proposal).values({
    id,
    cycle: row.cycle,
    act,
    subject: row.id,
    reason: given.reason ?? '',
    outsideDates: given.outsideDates ?? false,
    input: given.input ?? {},
    by: context.principal.id,
    at: context.now(),
  })
  await log(tx, context, 'propose-act', {
    subject: { kind: 'proposal', id },
    cycle: row.cycle,
    reason: given.reason,
    after: { act, subject: row.id },
  })
  return id
}

/** Marks a proposal as confirmed, in the transaction that carries its act out. */
export async function settleProposal(tx: Executor, context: Context, id: string, state: 'confirmed' | 'withdrawn'): Promise<void> {
  const [settled] = await tx.update(proposal).set({ state, settledBy: context.principal.id, settledAt: context.now() })
    .where(and(eq(proposal.id, id), eq(proposal.state, 'waiting'))).returning()
  if (!settled) throw refusal('act.proposal-over', { state })
  await log(tx, context, state === 'confirmed' ? 'confirm-act' : 'withdraw-proposal', {
    subject: { kind: 'proposal', id },
    cycle: settled.cycle,
    after: { act: settled.act, subject: settled.subject },
  })
}

export async function readProposal(tx: Executor, id: string): Promise<typeof proposal.$inferSelect> {
  const [row] = await tx.select().from(proposal).where(eq(proposal.id, id))
  if (!row) throw refusal('act.proposal-unknown')
  if (row.state !== 'waiting') throw refusal('act.proposal-over', { state: row.state })
  return row
}

/** What waits for a second person in a cycle, the newest first. */
export async function listProposals(caller: Caller, cycle: string): Promise<ProposalView[]> {
  const { db, principal } = await caller.authorise('roster.read', { cycle })
  const rows = await db.select({ proposal, number: application.number, name: application.displayName }).from(proposal).leftJoin(
    application,
    eq(application.id, proposal.subject),
  ).where(and(eq(proposal.cycle, cycle), eq(proposal.state, 'waiting'))).orderBy(desc(proposal.at)).limit(200)
  const name = await namesOf(db, rows.map(row => row.proposal.by))
  const rooms = await roomsProposed(db, rows.map(row => row.proposal))
  return rows.map(({ proposal: one, number, name: person }) => ({
    address: addressOf(one),
    rooms: rooms(one),
    id: one.id,
    act: one.act,
    subject: one.subject,
    number,
    person,
    reason: one.reason,
    by: name(one.by),
    settledBy: settlePermission(one.act),
    isOwn: one.by === principal.id,
    at: one.at.toISOString(),
  }))
}

const addressOf = ({ act, input }: typeof proposal.$inferSelect) =>
  act === 'give-access' && typeof input.address === 'string' ? input.address : null

/** What of which rooms is proposed: a second person sees it before they confirm. */
async function roomsProposed(
  db: Executor,
  rows: readonly (typeof proposal.$inferSelect)[],
): Promise<(row: typeof proposal.$inferSelect) => ProposalView['rooms']> {
  const wanted = ({ act, input }: typeof proposal.$inferSelect) =>
    act === 'change-rooms' ? roomsChangeSchema.shape.rooms.parse(input.rooms) : []
  const codes = rows.flatMap(wanted).map(one => one.room)
  const titles = codes.length === 0
    ? []
    : await db.select({ code: room.code, room: room.title, venue: venue.title }).from(room).innerJoin(venue, eq(venue.code, room.venue))
      .where(inArray(room.code, codes))
  return row =>
    wanted(row).map(({ room: code, unusable, closedIn, ...one }) => {
      const { room: title, venue: at } = titles.find(known => known.code === code) ?? { room: code, venue: '' }
      return { ...one, room: title, venue: at, unusable: unusable.length, closedIn: closedIn.length }
    })
}

/** Takes back what one has proposed, or another's when one may do the act oneself. */
export async function withdrawProposal(caller: Caller, id: string): Promise<void> {
  const reading = await caller.authorise('roster.read')
  const found = await readProposal(reading.db, id)
  const context = found.by === caller.principal.id
    ? reading
    : await caller.authorise(settlePermission(found.act), isOnMany(found.act) ? null : { application: found.subject })
  await context.db.transaction(tx => settleProposal(tx, context, id, 'withdrawn'))
}

/** What of one application waits for a second person. */
export async function proposalsOf(tx: Executor, reader: string, applicationId: string): Promise<ProposalView[]> {
  const rows = await tx.select().from(proposal).where(and(eq(proposal.subject, applicationId), eq(proposal.state, 'waiting')))
  const name = await namesOf(tx, rows.map(row => row.by))
  return rows.map(one => ({
    address: addressOf(one),
    rooms: [],
    id: one.id,
    act: one.act,
    subject: one.subject,
    number: null,
    person: null,
    reason: one.reason,
    by: name(one.by),
    settledBy: settlePermission(one.act),
    isOwn: one.by === reader,
    at: one.at.toISOString(),
  }))
}
