import { desc, eq } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { endorsedAfter, isEndorsementOpen } from '../../../core/application/endorsements'
import { spellInstant } from '../../../core/calendar/zone'
import { filledText } from '../../../core/notice/placeholders'
import type { EndorsementRule, Notice } from '../../../core/notice/schema'
import type { EndorsementAsked, EndorsementView, GivenEndorsement } from '../../../shared/endorsements'
import { refusal } from '../../../shared/refusal'
import type { Database, Executor } from '../../database/client'
import { endorsement, endorsementLink } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import { readApplication, type ApplicationRow } from '../applications/store'
import type { Caller } from '../context'
import { currentNotice, noticeOfVersion, type CurrentNotice } from '../notice/notices'
import { sha256 } from '../people/passwords'
import { countTry } from '../people/pace'
import type { EndorsementRow } from './ask'

/** What somebody without an account does who was sent a link: read what is asked, and answer it once. */

const triesOfANetwork = 60

/** What a link asks. @throws ProblemError `endorsement.link` for a link that leads nowhere. */
export async function readEndorsement(caller: Caller, token: string, network: string): Promise<EndorsementAsked> {
  const context = await caller.authorise('session.begin')
  await countTry(context, [{ key: `endorse:${network}`, free: triesOfANetwork, forget: 15, most: 60 }])
  return askedBy(context.db, token, context.now())
}

async function askedBy(db: Database, token: string, now: Date): Promise<EndorsementAsked> {
  const { one, row } = await byToken(db, token)
  const { notice, version } = await noticeReadBy(db, one, await currentNotice(db, row.cycle))
  const rule = ruleOf(notice, one)
  const { kind, title, questions, shownToCandidate } = rule
  return {
    office: notice.body.name,
    examination: notice.title,
    candidate: row.displayName || row.number,
    number: row.number,
    name: one.name,
    rule: { kind, title, questions, shownToCandidate, text: filledText(notice, rule.text) },
    version,
    until: rule.until ? spellInstant(rule.until, notice.body.zone) : null,
    state: one.state,
    isOpen: one.state === 'asked' && isUnderWay(row) && isEndorsementOpen(rule, now),
  }
}

/** The notice that somebody goes by: who has answered by the one that they read, anybody else by the one in force. */
const noticeReadBy = async (db: Executor, { cycle, state, noticeVersion }: EndorsementRow, now: CurrentNotice): Promise<CurrentNotice> =>
  (state === 'given' || state === 'declined') && noticeVersion !== now.version
    ? { notice: await noticeOfVersion(db, cycle, noticeVersion), version: noticeVersion }
    : now

const isUnderWay = ({ form, scrutiny }: Pick<ApplicationRow, 'form' | 'scrutiny'>) =>
  form !== 'withdrawn' && form !== 'lapsed' && scrutiny !== 'refused'

async function byToken(db: Executor, token: string): Promise<{ one: EndorsementRow, row: ApplicationRow }> {
  const [found] = await db.select({ one: endorsement }).from(endorsementLink).innerJoin(
    endorsement,
    eq(endorsement.id, endorsementLink.endorsementId),
  ).where(eq(endorsementLink.tokenHash, sha256(token)))
  if (!found || found.one.state === 'taken back') throw refusal('endorsement.link')
  return { one: found.one, row: await readApplication(db, found.one.applicationId) }
}

function ruleOf(notice: Notice, one: EndorsementRow): EndorsementRule {
  const rule = notice.endorsements?.find(each => each.id === one.rule)
  if (!rule) throw refusal('endorsement.link')
  return rule
}

/**
 * Takes an answer. The same again changes nothing, and another one is refused: the candidate asks anew.
 *
 * @throws ProblemError `endorsement.answer` naming a question that is not answered, `endorsement.changed` where the notice asks for
 * something else since it was read, `endorsement.settled`, `endorsement.over`.
 */
export async function giveEndorsement(
  caller: Caller,
  { token, version: read, word, signed, said }: GivenEndorsement,
  network: string,
): Promise<EndorsementAsked> {
  const context = await caller.authorise('session.begin')
  await countTry(context, [{ key: `endorse:${network}`, free: triesOfANetwork, forget: 15, most: 60 }])
  const { one: { id, applicationId } } = await byToken(context.db, token)
  await carryOut(caller.as(product), 'give-endorsement', applicationId, {}, async ({ tx, context: { now }, row, notice, version }) => {
    const [one] = await tx.select().from(endorsement).where(eq(endorsement.id, id)).for('update')
    if (!one || one.state === 'taken back') throw refusal('endorsement.link')
    const rule = ruleOf(notice, one)
    const answers = word === 'given' ? answersTo(rule, said) : {}
    if (one.state === word && one.signed === signed && isSame(one.said ?? {}, answers)) return { result: null, isRepeated: true }
    if (one.state !== 'asked') throw refusal('endorsement.settled')
    if (!isEndorsementOpen(rule, now())) {
      throw refusal('endorsement.over', { title: rule.title, until: spellInstant(rule.until ?? '', notice.body.zone) })
    }
    if (!await asksTheSame(tx, one, { notice, version }, read)) throw refusal('endorsement.changed', { title: rule.title })
    await tx.update(endorsement).set({ state: word, said: answers, signed, settledAt: now(), noticeVersion: version })
      .where(eq(endorsement.id, id))
    return {
      result: null,
      columns: { endorsed: endorsedAfter(row.endorsed, one.rule, 'asked', word) },
      after: { endorsement: rule.title, name: signed, word, version },
      tell: { request: rule.title, word },
    }
  })
  return askedBy(context.db, token, context.now())
}

/** Whether what somebody read under one version of the notice is what it asks now. */
async function asksTheSame(tx: Executor, one: EndorsementRow, { notice, version }: CurrentNotice, read: number): Promise<boolean> {
  if (read === version) return true
  const asked = (under: Notice) => {
    const { title, text, questions } = ruleOf(under, one)
    return JSON.stringify([title, filledText(under, text), questions])
  }
  return asked(await noticeOfVersion(tx, one.cycle, read)) === asked(notice)
}

const isSame = (a: Readonly<Record<string, string>>, b: Readonly<Record<string, string>>) =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every(key => a[key] === b[key])

/** The answers to a rule's questions. */
function answersTo({ questions }: EndorsementRule, said: Readonly<Record<string, string>>): Record<string, string> {
  const given = new Map(Object.entries(said))
  return Object.fromEntries(questions.flatMap((question) => {
    const answer = (given.get(question.id) ?? '').trim()
    if (answer === '' && question.required) throw refusal('endorsement.answer', { label: question.label })
    if (question.kind === 'text' && answer.length > question.maxLength) {
      throw refusal('endorsement.too-long', { label: question.label, length: answer.length, most: question.maxLength })
    }
    if (answer !== '' && question.kind === 'choice' && !question.options.some(option => option.id === answer)) {
      throw refusal('endorsement.answer', { label: question.label })
    }
    return answer === '' ? [] : [[question.id, answer]]
  }))
}

/** Who was asked about an application and what they said, the newest first. Candidates read answers only where the notice shows them. */
export async function endorsementsOf(caller: Caller, applicationId: string): Promise<EndorsementView[]> {
  const { db, principal } = await caller.authorise('applications.read', { application: applicationId })
  const now = await currentNotice(db, (await readApplication(db, applicationId)).cycle)
  const rows = await db.select().from(endorsement).where(eq(endorsement.applicationId, applicationId)).orderBy(
    desc(endorsement.askedAt),
    desc(endorsement.id),
  )
  return Promise.all(rows.map(async (one) => {
    const rule = now.notice.endorsements?.find(each => each.id === one.rule)
    const isSeen = principal.kind === 'staff' || rule?.shownToCandidate === true
    const { notice: then } = await noticeReadBy(db, one, now)
    const read = then.endorsements?.find(each => each.id === one.rule)
    const text = read ? filledText(then, read.text) : ''
    return {
      id: one.id,
      rule: one.rule,
      name: one.name,
      state: one.state,
      at: one.askedAt.toISOString(),
      settledAt: one.settledAt?.toISOString() ?? null,
      remindedAt: one.remindedAt?.toISOString() ?? null,
      channel: one.channel,
      address: one.address,
      signed: isSeen ? one.signed : null,
      said: isSeen && one.said ? saidIn(read, one.said) : null,
      version: one.noticeVersion,
      otherText: rule && text === filledText(now.notice, rule.text) ? null : text,
    }
  }))
}

/** What was said, in the order of the questions. One that the notice has dropped since is named by its id: what was said is never lost. */
function saidIn(rule: EndorsementRule | undefined, said: Readonly<Record<string, string>>): { label: string, answer: string }[] {
  const questions = rule?.questions ?? []
  const dropped = Object.entries(said).filter(([id]) => !questions.some(question => question.id === id)).map(([label, answer]) => ({
    label,
    answer,
  }))
  return [...questions.flatMap((question) => {
    const answer = said[question.id]
    if (answer === undefined) return []
    return [{
      label: question.label,
      answer: question.kind === 'choice' ? question.options.find(option => option.id === answer)?.title ?? answer : answer,
    }]
  }), ...dropped]
}
