import { and, eq } from 'drizzle-orm'
import { inFours } from '../../../core/bank/check-digits'
import { referenceOf } from '../../../core/bank/references'
import { spellInstant } from '../../../core/calendar/zone'
import { lastToPay } from '../../../core/fees/order'
import { formatMessage, type MessageParameters } from '../../../core/words/message'
import { application, billPart } from '../../database/schema'
import { documentOf } from '../../paper/document'
import { Flow } from '../../paper/flow'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { depositAccount, spelledIn } from './accounts'
import { billOf } from './bills'

/**
 * A bill on paper: who pays, how much, to which account, with which reference, and for whom. What has been paid since it was made is not
 * asked for again.
 */
export async function billPaper(caller: Caller, id: string): Promise<{ name: string, pdf: Buffer }> {
  const { context, row, now } = await billOf(caller, id)
  const { db, language } = context
  const { notice } = await currentNotice(db, row.cycle)
  const account = await depositAccount(db, row.currency)
  const { billTexts } = language.papers
  const say = (text: keyof typeof billTexts, parameters: MessageParameters = {}) =>
    formatMessage(language.locale, billTexts[text], parameters)
  const amount = (minor: number) => spelledIn(row.currency, minor)
  const reference = referenceOf(row.number)
  // One of them whose form waits for the fee is enough to make it urgent for all.
  const [drafting] = await db.select({ form: application.form }).from(billPart).innerJoin(
    application,
    eq(application.id, billPart.applicationId),
  ).where(and(eq(billPart.billId, row.id), eq(application.form, 'drafting'))).limit(1)
  const pdf = await documentOf(
    { title: say('title', { number: row.number }), author: notice.body.name, at: context.now(), hasFoot: true },
    (doc) => {
      const flow = new Flow(doc)
      flow.title(say('heading', { number: row.number }))
      flow.paragraph(say('how', { title: notice.title, office: notice.body.name }))
      if (row.withdrawnAt) flow.heading(say('withdrawn'))
      flow.row(say('payer'), row.payer, true)
      flow.row(say('amount'), amount(row.withdrawnAt ? 0 : now.due), true)
      flow.row(say('lastDay'), spellInstant(lastToPay(notice, drafting?.form ?? 'submitted'), notice.body.zone))
      flow.row(say('holder'), account.holder)
      flow.row(say('bank'), account.bank)
      flow.row(say('account'), inFours(account.number))
      if (account.bic !== '') flow.row(say('bic'), account.bic)
      flow.row(say('reference'), inFours(reference), true)
      if (!row.withdrawnAt && now.due > 0) flow.code([reference, row.currency + String(now.due), account.number].join('\n'), say('machine'))
      flow.paragraph(say('one'))
      flow.heading(say('whom', { count: now.dues.length }))
      for (const due of now.dues) flow.entry(due.number, due.name, due.isOver ? say('left') : due.due > 0 ? amount(due.due) : say('paid'))
      flow.foot(({ page, pages }) => say('foot', { number: row.number, at: spellInstant(context.now(), notice.body.zone), page, pages }))
    },
  )
  return { name: `${row.number}-bill.pdf`, pdf }
}
