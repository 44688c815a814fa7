import { and, desc, eq, type SQL } from 'drizzle-orm'
import { payingCosts } from '../../../core/fees/channel'
import { isPaidFirst, lastToPay } from '../../../core/fees/order'
import type { Notice } from '../../../core/notice/schema'
import { togetherAtMost } from '../../../shared/acts'
import type { OwnApplication, OwnLetter, OwnView, PaidTogether } from '../../../shared/candidates'
import type { Executor } from '../../database/client'
import { application, contact, letter, principal as principalRow } from '../../database/schema'
import { currentAssessment } from '../fees/assessments'
import { receivedFor } from '../fees/received'
import { isNews, tellsOf } from '../letters/seen'
import { listExaminations } from '../notice/examinations'
import type { Caller } from '../context'

const lettersShown = 50

/** Those of one examination that can be paid in one payment now. */
function togetherOf(notice: Notice, applications: readonly OwnApplication[], unpaid: ReadonlySet<string>, at: Date): PaidTogether[] {
  const some = applications.filter(one =>
    one.cycle === notice.code && unpaid.has(one.id) && (one.due ?? 0) > 0 && one.form !== 'withdrawn' && one.form !== 'lapsed'
  ).slice(0, togetherAtMost)
  if (some.length < 2 || at >= new Date(notice.keyDates.lastPayment)) return []
  const due = some.reduce((sum, one) => sum + (one.due ?? 0), 0)
  return [{
    cycle: notice.code,
    title: notice.title,
    applications: some.map(one => one.id),
    numbers: some.map(one => one.number),
    due,
    currency: notice.body.currency,
    costs: payingCosts(notice.fees, due),
  }]
}

/** All that a candidate has here: applications, examinations that can be applied for, proved addresses, letters. */
export async function readOwn(caller: Caller): Promise<OwnView> {
  const { db, principal, now } = await caller.authorise('own.read')
  const examinations = await listExaminations(caller)
  const rows = await db.select().from(application).where(eq(application.ownerId, principal.id)).orderBy(desc(application.createdAt))
    .limit(200)
  const applications: OwnView['applications'] = []
  for (const row of rows) {
    const notice = examinations.find(e => e.notice.code === row.cycle)?.notice
    const assessed = await currentAssessment(db, row.id)
    // A form that is filled in again after it was handed in is paid once it is handed in anew.
    const isPayable = assessed && !(row.form === 'drafting' && notice && !isPaidFirst(notice))
    const due = isPayable ? assessed.assessment.total - await receivedFor(db, row.id) : null
    applications.push({
      id: row.id,
      number: row.number,
      name: row.displayName,
      cycle: row.cycle,
      title: notice?.title ?? row.cycle,
      headline: row.headline,
      since: row.headlineSince.toISOString(),
      form: row.form,
      due,
      payer: assessed?.assessment.payer?.title ?? null,
      currency: notice?.body.currency ?? null,
      zone: notice?.body.zone ?? null,
      closes: notice?.keyDates.closes ?? null,
      lastPayment: notice ? lastToPay(notice, row.form) : null,
      hasCard: row.card === 'issued' || row.card === 'replaced',
    })
  }
  const at = now()
  const together = examinations.flatMap(({ notice }) =>
    togetherOf(notice, applications, new Set(rows.filter(row => row.fee === 'due').map(row => row.id)), at)
  )
  const contacts = await db.select().from(contact).where(eq(contact.principalId, principal.id)).orderBy(contact.provedAt)
  const [reader] = await db.select({ readsIn: principalRow.readsIn }).from(principalRow).where(eq(principalRow.id, principal.id))
  return {
    applications,
    together,
    examinations: examinations.map(({ notice }) => ({
      code: notice.code,
      title: notice.title,
      opens: notice.keyDates.opens,
      closes: notice.keyDates.closes,
      zone: notice.body.zone,
      isOpen: at >= new Date(notice.keyDates.opens) && at < new Date(notice.keyDates.closes),
    })),
    contacts: contacts.map(({ channel, address }) => ({ channel, address })),
    letters: await lettersTo(db, principal.id),
    readsIn: reader?.readsIn ?? null,
  }
}

/** Letters to one's own account that tell of one application. */
export async function readLettersAbout(caller: Caller, applicationId: string): Promise<OwnLetter[]> {
  const { db, principal } = await caller.authorise('own.read')
  return lettersTo(db, principal.id, tellsOf(applicationId))
}

/** The newest first. */
async function lettersTo(db: Executor, principalId: string, which?: SQL): Promise<OwnLetter[]> {
  const rows = await db.select({ row: letter, isNews }).from(letter).where(and(eq(letter.principalId, principalId), which))
    .orderBy(desc(letter.at)).limit(lettersShown)
  return rows.map(({ row: { id, channel, subject, body, at, state }, isNews: isUnread }) => ({
    isUnread,
    id,
    channel,
    subject,
    body,
    at: at.toISOString(),
    state,
  }))
}
