import { desc, eq } from 'drizzle-orm'
import type { OwnView } from '../../../shared/candidates'
import { application, contact, letter } from '../../database/schema'
import { currentAssessment } from '../fees/assessments'
import { receivedFor } from '../fees/received'
import { listExaminations } from '../notice/examinations'
import type { Caller } from '../context'

const lettersShown = 50

/** All that a candidate has here: applications, examinations that can be applied for, proved addresses, letters. */
export async function readOwn(caller: Caller): Promise<OwnView> {
  const { db, principal, now } = await caller.authorise('own.read')
  const examinations = await listExaminations(caller)
  const rows = await db.select().from(application).where(eq(application.ownerId, principal.id)).orderBy(desc(application.createdAt)).limit(200)
  const applications: OwnView['applications'] = []
  for (const row of rows) {
    const notice = examinations.find(e => e.notice.code === row.cycle)?.notice
    const assessed = await currentAssessment(db, row.id)
    const due = assessed ? assessed.assessment.total - await receivedFor(db, row.id) : null
    applications.push({
      id: row.id, number: row.number, name: row.displayName, cycle: row.cycle, title: notice?.title ?? row.cycle, headline: row.headline, since: row.headlineSince.toISOString(), form: row.form, due,
      currency: notice?.body.currency ?? null, zone: notice?.body.zone ?? null, closes: notice?.keyDates.closes ?? null, lastPayment: notice?.keyDates.lastPayment ?? null, hasCard: row.card === 'issued' || row.card === 'replaced',
    })
  }
  const at = now()
  const contacts = await db.select().from(contact).where(eq(contact.principalId, principal.id)).orderBy(contact.provedAt)
  const letters = await db.select().from(letter).where(eq(letter.principalId, principal.id)).orderBy(desc(letter.at)).limit(lettersShown)
  return {
    applications,
    examinations: examinations.map(({ notice }) => ({ code: notice.code, title: notice.title, opens: notice.keyDates.opens, closes: notice.keyDates.closes, zone: notice.body.zone, isOpen: at >= new Date(notice.keyDates.opens) && at < new Date(notice.keyDates.closes) })),
    contacts: contacts.map(({ channel, address }) => ({ channel, address })),
    letters: letters.map(one => ({ id: one.id, channel: one.channel, subject: one.subject, body: one.body, at: one.at.toISOString(), state: one.state })),
  }
}
