import { actInputs, type ActInput, type NamedAct } from '../../../shared/acts'
import { refusal } from '../../../shared/refusal'
import { confirmSlip, refuseSlip, takeSlipBack } from '../bank/paid-slips'
import { deleteDraft } from '../applications/begin'
import {
  bringBack,
  closeCorrection,
  openForCorrection,
  submitApplication,
  takeBackSubmission,
  withdrawApplication,
} from '../applications/form'
import { acceptTexts } from '../applications/texts'
import { giveAccess } from '../candidates/give-access'
import { issueCard, letCardGo, replaceCard, voidCard, withholdCard } from '../cards/issue'
import { takeSeatBack } from '../centres/seats'
import { acceptCorrection } from '../corrections/effect'
import { askCorrection, refuseCorrection, takeBackCorrection } from '../corrections/hand-in'
import type { Caller } from '../context'
import { finishKeying, finishSecondKeying, takeBackKeying } from '../keying/second'
import { settleKeying } from '../keying/settle'
import { askForFee } from '../fees/assessments'
import { claimAgain, giveUp } from '../fees/reliefs'
import { keepData, releaseData } from '../records/one-person'
import { acceptApplication, refuseApplication, returnApplication, undoDecision } from '../scrutiny/decisions'
import { decideRequest } from '../scrutiny/requests'
import { answerReferral, refer } from '../scrutiny/referrals'
import type { Carried } from './carry-out'
import type { Given } from './given'
import { isOnMany } from '../../../core/application/acts/table'
import { readProposal } from './proposals'

type Perform<A extends NamedAct> = (caller: Caller, id: string, input: ActInput<A>, given: Given) => Promise<Carried<unknown>>
const done = async (work: Promise<unknown>): Promise<Carried<unknown>> => ({ isDone: true, result: await work })

/** Every act that is asked for by its name, with the service that carries it out. */
const performers: { [A in NamedAct]: Perform<A> } = {
  'delete-draft': (caller, id, _, given) => done(deleteDraft(caller, id, given)),
  'submit': (caller, id, input, given) => submitApplication(caller, id, input, given),
  'take-back-submission': (caller, id, _, given) => takeBackSubmission(caller, id, given),
  'withdraw': (caller, id, _, given) => withdrawApplication(caller, id, given),
  'bring-back': (caller, id, _, given) => bringBack(caller, id, given),
  'open-for-correction': (caller, id, input, given) => openForCorrection(caller, id, input.items, given),
  'close-correction': (caller, id, _, given) => closeCorrection(caller, id, given),
  'accept': (caller, id, input, given) => acceptApplication(caller, id, input.reasons, given),
  'return': (caller, id, input, given) => returnApplication(caller, id, input.reasons, given),
  'refuse': (caller, id, input, given) => refuseApplication(caller, id, input.reasons, given),
  'take-back-acceptance': (caller, id, _, given) => undoDecision(caller, 'take-back-acceptance', id, given),
  'recall-return': (caller, id, _, given) => undoDecision(caller, 'recall-return', id, given),
  'take-back-refusal': (caller, id, _, given) => undoDecision(caller, 'take-back-refusal', id, given),
  'reopen': (caller, id, _, given) => undoDecision(caller, 'reopen', id, given),
  'refer': (caller, id, input, given) => refer(caller, id, input, given),
  'answer-referral': (caller, id, _, given) => answerReferral(caller, id, given),
  'ask-for-fee': (caller, id, _, given) => askForFee(caller, id, given),
  'take-back-slip': (caller, id, _, given) => takeSlipBack(caller, id, given),
  'confirm-slip': (caller, id, _, given) => confirmSlip(caller, id, given),
  'refuse-slip': (caller, id, _, given) => refuseSlip(caller, id, given),
  'decide-request': (caller, id, input, given) => decideRequest(caller, id, input, given),
  'waive-fee': (caller, id, input, given) => giveUp(caller, 'waive-fee', id, input.amount, given),
  'write-off-fee': (caller, id, input, given) => giveUp(caller, 'write-off-fee', id, input.amount, given),
  'claim-fee-again': (caller, id, _, given) => claimAgain(caller, id, given),
  'accept-texts': (caller, id, input, given) => acceptTexts(caller, id, input.texts, given),
  'give-access': (caller, id, input, given) => giveAccess(caller, id, input, given),
  'finish-keying': (caller, id, _, given) => finishKeying(caller, id, given),
  'take-back-keying': (caller, id, _, given) => takeBackKeying(caller, id, given),
  'finish-second-keying': (caller, id, _, given) => finishSecondKeying(caller, id, given),
  'settle-keying': (caller, id, input, given) => settleKeying(caller, id, input.settlements, given),
  'ask-correction': (caller, id, _, given) => askCorrection(caller, id, given),
  'take-back-correction': (caller, id, _, given) => takeBackCorrection(caller, id, given),
  'accept-correction': (caller, id, _, given) => acceptCorrection(caller, id, given),
  'refuse-correction': (caller, id, _, given) => refuseCorrection(caller, id, given),
  'take-seat-back': (caller, id, _, given) => takeSeatBack(caller, id, given),
  'issue-card': (caller, id, _, given) => done(issueCard(caller, id, given)),
  'replace-card': (caller, id, _, given) => replaceCard(caller, id, given),
  'void-card': (caller, id, _, given) => voidCard(caller, id, given),
  'withhold-card': (caller, id, _, given) => withholdCard(caller, id, given),
  'release-data': (caller, id, _, given) => releaseData(caller, id, given),
  'keep-data': (caller, id, _, given) => keepData(caller, id, given),
  'let-card-go': (caller, id, _, given) => letCardGo(caller, id, given),
}

/** Carries out an act by its name; where a second person is needed, what it was asked with is kept for them. */
export async function performAct(
  caller: Caller,
  act: NamedAct,
  id: string,
  asked: unknown,
  confirmed?: Given['confirmed'],
): Promise<Carried<unknown>> {
  const parsed = actInputs[act].safeParse(asked ?? {})
  if (!parsed.success) {
    throw refusal('input.shape', { place: parsed.error.issues[0]?.path.join('.') || act, fault: parsed.error.issues[0]?.message ?? '' })
  }
  const { reason, outsideDates, ...input } = parsed.data
  const perform = performers[act] as Perform<NamedAct>
  return perform(caller, id, parsed.data as ActInput<NamedAct>, { reason, outsideDates, input, confirmed, again: { result: null } })
}

/** Confirms an act on an application that somebody else began; it is judged again as things stand now. */
export async function confirmAct(caller: Caller, proposalId: string): Promise<void> {
  const context = await caller.authorise('roster.read')
  const found = await readProposal(context.db, proposalId)
  if (isOnMany(found.act) || !(found.act in performers)) throw refusal('act.proposal-unknown')
  const asked = { ...found.input, reason: found.reason || undefined, outsideDates: found.outsideDates || undefined }
  await performAct(caller, found.act as NamedAct, found.subject, asked, { proposal: found.id, by: found.by })
}
