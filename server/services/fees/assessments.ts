import { desc, eq } from 'drizzle-orm'
import { assessFee, type Assessment } from '../../../core/fees/assess'
import { feeMoment, feeQuestions } from '../../../core/fees/order'
import { assessmentLines, feeState } from '../../../core/fees/ledger'
import { sheetFaults } from '../../../core/application/sheet'
import type { Tracks } from '../../../core/application/tracks'
import { dateInZone } from '../../../core/calendar/zone'
import { isEqual } from '../../../core/notice/edit'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { feeAssessment } from '../../database/schema'
import { inserting, together, type Write } from '../../database/together'
import { logging, type Caller, type Context, type Logged } from '../context'
import { countedAnswers, type ApplicationRow } from '../applications/store'
import { scheduleFor } from '../notice/in-force'
import { carryOut, type Acting, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { book, bookAlone, booking, type Posting } from './book'
import { moneyOf, stateOfMoney } from './received'

export interface Assessed {
  version: number
  assessment: Assessment
  noticeVersion: number | null
}

/** The assessment in force; null before the first. */
export async function currentAssessment(tx: Executor, applicationId: string): Promise<Assessed | null> {
  const [row] = await tx.select().from(feeAssessment).where(eq(feeAssessment.applicationId, applicationId))
    .orderBy(desc(feeAssessment.version)).limit(1)
  return row ?? null
}

/**
 * Assesses the fee of an application that the transaction holds, books the difference, and gives the fee's new state. An amendment that let
 * fees stay does not touch it.
 */
export async function reassess(
  acting: Pick<Acting, 'tx' | 'context' | 'facts' | 'notice' | 'version'>,
  row: ApplicationRow,
): Promise<Tracks['fee']> {
  const { tx, context, facts } = acting
  const { fee, writes, logged, posting } = await assessingOn(acting, row, await currentAssessment(tx, row.id))
  if (logged.length > 0) await together(tx, [...writes, logging(context, logged)])
  // Where nothing came in, no credit can be left.
  if (posting) await (facts.received === 0 ? bookAlone : book)(tx, context, posting)
  return fee ?? feeStateOf(tx, context, row.id)
}

/** The same as writes that are still to be carried out, where nothing of the fee was written since the application was held. */
export async function reassessing(
  acting: Pick<Acting, 'tx' | 'context' | 'facts' | 'notice' | 'version' | 'assessed'>,
  row: ApplicationRow,
): Promise<{ fee: Tracks['fee'], writes: Write[], logged: Logged[] }> {
  const { tx, context, facts } = acting
  // Money that came in may have to move as well, or stand in a payment under way: that is read after it was booked.
  if (facts.received !== 0 || facts.hasOpenPayment || facts.slip === 'waiting') {
    return { fee: await reassess(acting, row), writes: [], logged: [] }
  }
  const { fee, writes, logged, posting } = await assessingOn(acting, row, acting.assessed)
  return { fee: fee ?? await feeStateOf(tx, context, row.id), logged, writes: posting ? [...writes, ...booking(context, posting)] : writes }
}

interface Assessing {
  /** Null where it is to be asked for when all is written. */ fee: Tracks['fee'] | null
  writes: Write[]
  logged: Logged[]
  posting: Posting | null
}

async function assessingOn(
  { tx, context, facts, ...under }: Pick<Acting, 'tx' | 'context' | 'facts' | 'notice' | 'version'>,
  row: ApplicationRow,
  old: Assessed | null,
): Promise<Assessing> {
  const schedule = await scheduleFor(tx, under, old?.noticeVersion ?? null)
  const assessment = assessFee(schedule.notice, countedAnswers(schedule.notice, row), feeMoment(row, context.now()), row)
  if (!assessment) throw refusal('fee.no-category', { number: row.number })
  // The act holds the application: nothing came in and no payment began since its facts were read.
  const fee = facts.hasOpenPayment || facts.slip === 'waiting' ? null : feeState(assessment.total, facts.received, false, facts.held)
  // The database gives the parts in an order of its own.
  if (isEqual(old?.assessment, assessment)) return { fee, writes: [], logged: [], posting: null }
  const version = (old?.version ?? 0) + 1
  const lines = assessmentLines(old?.assessment.items ?? [], assessment.items)
  return {
    fee,
    posting: lines.length > 0
      ? { applicationId: row.id, source: `assessment:${row.id}:${version}`, kind: 'assessment', currency: assessment.currency.code, lines }
      : null,
    writes: [
      inserting(feeAssessment, [{
        id: context.newId(),
        applicationId: row.id,
        version,
        assessment,
        at: context.now(),
        noticeVersion: schedule.version,
      }]),
    ],
    logged: [{
      act: 'assess-fee',
      entry: {
        subject: { kind: 'application', id: row.id },
        cycle: row.cycle,
        before: old?.assessment,
        after: assessment,
        noticeVersion: schedule.version,
      },
    }],
  }
}

/** Assesses the fee of a form that is still being filled in, for a notice by which it is paid before that is handed in. */
export function askForFee(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'ask-for-fee', id, given, async (acting) => {
    const { notice, row, context } = acting
    const asked = feeQuestions(notice)
    const faults = sheetFaults(notice, row.answers, dateInZone(context.now(), notice.body.zone)).filter(fault => asked.has(fault.about))
    if (faults.length > 0) {
      throw refusal('sheet.incomplete', {
        count: faults.length,
        first: faults[0] ? context.language.findings.findingWords(faults[0]).title : '',
      }, faults)
    }
    return { result: null, outcome: { fee: await reassess(acting, row) }, columns: { feeMoment: context.now() } }
  })
}

/**
 * What a fee that was asked for before the form is handed in comes to after something was typed; nothing where it was not asked for, or
 * cannot be told for now.
 */
export async function reassessDraft(acting: Acting, row: ApplicationRow): Promise<{ fee?: Tracks['fee'], columns: { feeMoment?: Date } }> {
  if (
    row.form !== 'drafting' || row.fee === 'not assessed'
    || !assessFee(acting.notice, countedAnswers(acting.notice, row), acting.context.now(), row)
  ) return { columns: {} }
  return { fee: await reassess(acting, row), columns: row.fee === 'due' && row.feeMoment ? { feeMoment: acting.context.now() } : {} }
}

/** Where the fee stands by assessment, ledger and payments under way. */
export async function feeStateOf(tx: Executor, context: Context, applicationId: string): Promise<Tracks['fee']> {
  return stateOfMoney((await moneyOf(tx, context, [applicationId])).get(applicationId))
}
