import { randomBytes } from 'node:crypto'
import { and, count, eq } from 'drizzle-orm'
import {
  asksAtMost,
  endorsedAfter,
  endorsementsWanted,
  isEndorsementOpen,
  type WantedEndorsement,
} from '../../../core/application/endorsements'
import { spellInstant } from '../../../core/calendar/zone'
import type { Channel } from '../../../core/identity/address'
import { afterQuiet } from '../../../core/letters/quiet'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { contact, endorsement, endorsementLink } from '../../database/schema'
import { publicAddress } from '../../messages/public-address'
import { carryOut, type Acting } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { decidedAnswers, type ApplicationRow } from '../applications/store'
import type { Caller, Context } from '../context'
import { checkedAddress } from '../letters/addresses'
import { postLetter } from '../letters/outbox'
import type { CurrentNotice } from '../notice/notices'
import { sha256 } from '../people/passwords'
import { waitFor } from '../people/pace'

export type EndorsementRow = typeof endorsement.$inferSelect

interface Asked {
  rule: string
  name: string
  channel: Channel
  address: string
}

/**
 * Asks somebody, by a letter with a link.
 *
 * @throws ProblemError `endorsement.enough` where as many were asked as are wanted, `endorsement.own-address` for a recommendation from the
 * candidate's own address.
 */
export async function askEndorsement(
  caller: Caller,
  applicationId: string,
  { rule: id, name, channel, address: typed, ...given }: Asked & Given,
): Promise<void> {
  await slowDown(await caller.authorise('applications.write', { application: applicationId }))
  await carryOut(caller, 'ask-endorsement', applicationId, { ...given, again: { result: null } }, async (acting) => {
    const { tx, context, row, version } = acting
    const { rule, unasked } = openWanted(acting, id)
    // A letter from a number says nothing to whoever gets it.
    if (row.displayName === '') throw refusal('endorsement.no-name')
    const address = await checkedAddress(tx, channel, typed)
    const rows = await tx.select().from(endorsement).where(and(eq(endorsement.applicationId, row.id), eq(endorsement.rule, id)))
    if (rows.some(one => one.state !== 'taken back' && one.channel === channel && one.address === address)) {
      throw refusal('endorsement.asked', { address })
    }
    if (unasked === 0) throw refusal('endorsement.enough', { title: rule.title, count: rule.count })
    if (rows.length >= asksAtMost) throw refusal('endorsement.too-many', { most: asksAtMost })
    if (rule.kind === 'recommendation' && await isOwnAddress(tx, row, channel, address)) {
      throw refusal('endorsement.own-address', { address })
    }
    const one: EndorsementRow = {
      id: context.newId(),
      applicationId: row.id,
      cycle: row.cycle,
      rule: id,
      noticeVersion: version,
      name,
      channel,
      address,
      askedBy: context.principal.id,
      askedAt: context.now(),
      remindedAt: null,
      state: 'asked',
      said: null,
      signed: null,
      settledAt: null,
    }
    await tx.insert(endorsement).values(one)
    await sendLink(tx, context, acting, row, one)
    return { result: null, columns: { endorsed: endorsedAfter(row.endorsed, id, null, 'asked') }, after: { endorsement: rule.title, name } }
  })
}

/** Letters to strangers that an account may have sent at once, in all its applications; one more every half hour. */
const lettersAtOnce = 20

async function slowDown(context: Context): Promise<void> {
  if (context.principal.kind !== 'candidate') return
  const seconds = await waitFor(context, [{ key: `endorsements:${context.principal.id}`, free: lettersAtOnce, forget: 1800, most: 3600 }])
  if (seconds > 0) throw refusal('endorsement.slow', { minutes: Math.ceil(seconds / 60) })
}

/** Takes back what nobody has given yet; the links that were sent lead nowhere then. */
export async function takeBackEndorsement(caller: Caller, applicationId: string, id: string, given: Given = {}): Promise<void> {
  await carryOut(
    caller,
    'take-back-endorsement',
    applicationId,
    { ...given, again: { result: null } },
    async ({ tx, context, row, notice }) => {
      const [one] = await tx.select().from(endorsement).where(and(eq(endorsement.id, id), eq(endorsement.applicationId, row.id)))
      if (!one) throw refusal('endorsement.unknown')
      if (one.state === 'taken back') return { result: null, isRepeated: true }
      if (one.state === 'given') throw refusal('endorsement.given', { name: one.name })
      await tx.update(endorsement).set({ state: 'taken back', settledAt: context.now() }).where(eq(endorsement.id, id))
      return {
        result: null,
        columns: { endorsed: endorsedAfter(row.endorsed, one.rule, one.state, 'taken back') },
        after: { endorsement: titleOf(notice, one.rule), name: one.name },
      }
    },
  )
}

/** Records what came on paper. The reason says what was seen. */
export async function recordEndorsement(
  caller: Caller,
  applicationId: string,
  { rule: id, name, word, ...given }: { rule: string, name: string, word: 'given' | 'declined' } & Given,
): Promise<void> {
  await carryOut(
    caller,
    'record-endorsement',
    applicationId,
    { ...given, again: { result: null } },
    async ({ tx, context, row, notice, version }) => {
      const { rule, lacking } = wantedOf({ row, notice }, id)
      if (lacking === 0) throw refusal('endorsement.enough', { title: rule.title, count: rule.count })
      const at = context.now()
      await tx.insert(endorsement).values({
        id: context.newId(),
        applicationId: row.id,
        cycle: row.cycle,
        rule: id,
        noticeVersion: version,
        name,
        channel: null,
        address: null,
        askedBy: context.principal.id,
        askedAt: at,
        state: word,
        said: {},
        signed: name,
        settledAt: at,
      })
      return {
        result: null,
        columns: { endorsed: endorsedAfter(row.endorsed, id, null, word) },
        after: { endorsement: rule.title, name, word },
        tell: { request: rule.title, word },
      }
    },
  )
}

function wantedOf({ row, notice }: Pick<Acting, 'row' | 'notice'>, id: string): WantedEndorsement {
  const wanted = endorsementsWanted(notice, decidedAnswers(notice, row), row.endorsed).find(one => one.rule.id === id)
  if (!wanted) throw refusal('endorsement.not-wanted', { rule: id.slice(0, 60) })
  return wanted
}

function openWanted(acting: Acting, id: string): WantedEndorsement {
  const wanted = wantedOf(acting, id)
  if (!isEndorsementOpen(wanted.rule, acting.context.now())) {
    throw refusal('endorsement.over', { title: wanted.rule.title, until: spellInstant(wanted.rule.until ?? '', acting.notice.body.zone) })
  }
  return wanted
}

/** What the notice calls a rule; its id where the notice has it no more. */
export const titleOf = (notice: CurrentNotice['notice'], rule: string): string =>
  notice.endorsements?.find(one => one.id === rule)?.title ?? rule

async function isOwnAddress(tx: Executor, row: ApplicationRow, channel: Channel, address: string): Promise<boolean> {
  if (row.ownerId === null) return false
  const [own] = await tx.select({ n: count() }).from(contact)
    .where(and(eq(contact.principalId, row.ownerId), eq(contact.channel, channel), eq(contact.address, address)))
  return (own?.n ?? 0) > 0
}

/** Sends a link to somebody who was asked; one that was sent before stays good. */
export async function sendLink(
  tx: Executor,
  context: Context,
  { notice }: Pick<CurrentNotice, 'notice'>,
  row: Pick<ApplicationRow, 'number' | 'displayName'>,
  one: EndorsementRow,
  isReminder = false,
): Promise<void> {
  const rule = notice.endorsements?.find(each => each.id === one.rule)
  if (!rule || !one.channel || !one.address) return
  const token = randomBytes(18).toString('base64url')
  await tx.insert(endorsementLink).values({ tokenHash: sha256(token), endorsementId: one.id })
  const { endorsementLetter } = context.language.letters
  await postLetter(tx, context, {
    principalId: null,
    channel: one.channel,
    address: one.address,
    notBefore: one.channel === 'mobile' ? afterQuiet(context.now(), notice.body.zone, notice.body.quietHours) : null,
    ...endorsementLetter(notice, rule, {
      candidate: row.displayName,
      name: one.name,
      link: `${publicAddress()}/endorse#${token}`,
      isReminder,
    }),
  })
}
