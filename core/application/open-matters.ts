import type { Finding } from '../finding/finding'
import type { Notice } from '../notice/schema'
import { payerOf } from '../fees/assess'
import { isPaidFirst } from '../fees/order'
import { holdsSeat } from './acts/guards'
import type { Answers } from './answers'
import type { KeyingState } from './keying'
import { endorsementsWanted, type Endorsed } from './endorsements'
import { openRequests } from './requests'
import { emptySlots, slotsOf } from './slots'
import { isFeeClear, type Tracks } from './tracks'

export const matterKinds = [
  'gaps',
  'file-missing',
  'file-fails',
  'submission',
  'fee-due',
  'payer-due',
  'payment-unanswered',
  'return-unanswered',
  'correction-open',
  'scrutiny',
  'placement',
  'publication',
  'card',
  'card-withheld',
  'referred',
  'likely-duplicate',
  'correction-unpaid',
  'correction-waits',
  'charged-back',
  'barred',
  'proof-follows',
  'request-open',
  'message-bounced',
  'slip-waits',
  'endorsement-awaited',
  'keying',
] as const
export type MatterKind = typeof matterKinds[number]
/** Desks of the office that scrutiny may ask. */
export const desks = ['officer', 'accounts', 'scrutineer'] as const
export type Desk = typeof desks[number]
/** Who must act. */
export type MatterOwner = 'candidate' | 'accounts' | 'scrutineer' | 'officer' | 'gateway' | 'payer' | 'endorser'
/** What it holds back. */
export type MatterHold = 'nothing' | 'submission' | 'decision' | 'seat' | 'card'

/**
 * Something that keeps an application from moving on: who must act, until when, what it holds and what clears it. Words come from the kind.
 */
export interface OpenMatter {
  kind: MatterKind
  owner: MatterOwner
  /** The question or slot it is about; empty where it is about the whole. */
  about: string
  holds: MatterHold
  /** Instant before which it should be cleared, where there is one. */
  until: string | null
  parameters: Record<string, string | number>
}

export interface Standing {
  notice: Notice
  tracks: Tracks
  sheetFindings: Finding[]
  /** The answers that count. */
  answers: Answers
  /** Findings on the current version in each slot; an empty slot is absent. */
  files: Partial<Record<string, Finding[]>>
  /** Until when a correction must be handed in, or the form was kept open. */
  openUntil: Date | null
  /** What others were asked and have said. */
  endorsed?: Endorsed
  /** A question that a desk has not answered, and other applications that are likely of the same person. */
  referral?: { desk: Desk, until: string | null } | null
  likelyPairs?: number
  /** Somebody barred, or likely so. */
  isBarred?: boolean
  /** The last letter to an address of theirs came back. */
  isBounced?: boolean
  /** A deposit slip waits for somebody to look at it. */
  isSlipWaiting?: boolean
  /** Of a paper form: how far its keying is. */
  keying?: KeyingState | null
  /** Money was taken back by a bank, and the fee is due again since. */
  isChargedBack?: boolean
  /** A correction that was handed in. */
  correction?: { state: 'unpaid' | 'waiting', until: string | null } | null
}

type Add = (
  kind: MatterKind,
  owner: MatterOwner,
  holds: MatterHold,
  more?: Partial<Pick<OpenMatter, 'about' | 'until' | 'parameters'>>,
) => void

/** Everything open on an application, the nearest step first. One whose card is issued has none but a correction. */
export function openMatters(standing: Standing): OpenMatter[] {
  const { tracks, notice: { keyDates } } = standing
  if (tracks.form === 'withdrawn' || tracks.form === 'lapsed' || tracks.scrutiny === 'refused') return []
  const matters: OpenMatter[] = []
  const add: Add = (kind, owner, holds, more = {}) => matters.push({ kind, owner, holds, about: '', until: null, parameters: {}, ...more })
  const later = (instant: string) =>
    standing.openUntil && standing.openUntil.toISOString() > new Date(instant).toISOString()
      ? standing.openUntil.toISOString()
      : new Date(instant).toISOString()
  const until = tracks.form === 'correcting' ? standing.openUntil?.toISOString() ?? null : later(keyDates.closes)
  addForm(standing, until, add)
  if (tracks.form === 'drafting' && standing.keying && standing.keying !== 'agreed') {
    add('keying', 'officer', 'submission', { about: standing.keying, parameters: { state: standing.keying } })
  }
  if (tracks.form === 'drafting') add('submission', 'candidate', 'decision', { until })
  if (standing.isSlipWaiting) add('slip-waits', 'accounts', 'decision')
  else if (tracks.fee === 'confirming') add('payment-unanswered', 'gateway', 'decision')
  else if (!isFeeClear(tracks.fee)) {
    addFee(
      standing,
      tracks.form === 'drafting' && isPaidFirst(standing.notice)
        ? { holds: 'submission', until }
        : { holds: 'decision', until: tracks.fee === 'due' ? later(keyDates.lastPayment) : null },
      add,
    )
  }
  if (standing.isChargedBack && !isFeeClear(tracks.fee)) add('charged-back', 'accounts', 'card')
  if (tracks.scrutiny === 'returned') add('return-unanswered', 'candidate', 'decision', { until })
  else if (tracks.form === 'correcting') add('correction-open', 'candidate', 'seat', { until })
  if (standing.referral) add('referred', standing.referral.desk, 'decision', { until: standing.referral.until })
  if (standing.likelyPairs) add('likely-duplicate', 'scrutineer', 'decision', { parameters: { count: standing.likelyPairs } })
  if (standing.isBounced) add('message-bounced', 'officer', 'nothing')
  if (standing.isBarred) add('barred', 'scrutineer', tracks.scrutiny === 'accepted' ? 'card' : 'decision')
  if (tracks.form !== 'drafting') {
    for (const rule of openRequests(standing.notice, standing.answers)) {
      add('request-open', 'scrutineer', tracks.scrutiny === 'accepted' ? 'card' : rule.holds, {
        about: rule.id,
        parameters: { title: rule.title },
      })
    }
  }
  addEndorsements(standing, until, add)
  if (standing.correction?.state === 'unpaid') add('correction-unpaid', 'candidate', 'nothing', { until: standing.correction.until })
  if (standing.correction?.state === 'waiting') {
    add('correction-waits', 'scrutineer', tracks.scrutiny === 'accepted' ? 'nothing' : 'decision')
  }
  if (tracks.form === 'submitted' && isFeeClear(tracks.fee)) addAfterFee(tracks, add)
  if (tracks.card === 'withheld') add('card-withheld', 'officer', 'card')
  return matters
}

/**
 * What others have to say: the candidate has to ask somebody, or whoever was asked has to answer. What was accepted does not wait any more.
 */
function addEndorsements({ notice, answers, endorsed = {}, tracks }: Standing, closes: string | null, add: Add): void {
  if (tracks.scrutiny === 'accepted') return
  for (const { rule, lacking, unasked } of endorsementsWanted(notice, answers, endorsed)) {
    const until = rule.until ? new Date(rule.until).toISOString() : rule.holds === 'submission' ? closes : null
    if (lacking > 0) {
      add('endorsement-awaited', unasked > 0 ? 'candidate' : 'endorser', rule.holds, {
        about: rule.id,
        until,
        parameters: { title: rule.title, count: lacking, unasked },
      })
    }
  }
}

/** What is due: of the candidate, or of who pays for them. */
function addFee({ notice, answers }: Standing, { holds, until }: Pick<OpenMatter, 'holds' | 'until'>, add: Add): void {
  const payer = payerOf(notice, answers)
  if (payer) add('payer-due', 'payer', holds, { about: payer.code, until, parameters: { payer: payer.title } })
  else add('fee-due', 'candidate', holds, { until })
}

function addForm(standing: Standing, until: string | null, add: Add): void {
  const { sheetFindings, notice, answers, files, tracks } = standing
  if (sheetFindings.length > 0) {
    add('gaps', 'candidate', 'submission', { about: sheetFindings[0]?.about ?? '', until, parameters: { count: sheetFindings.length } })
  }
  const lacking = new Set(emptySlots(notice, answers, files).map(slot => slot.id))
  for (const slot of slotsOf(notice, answers)) {
    const { id, title } = slot
    const follows = slot.as === 'document' ? slot.followsUntil : undefined
    if (lacking.has(id) && follows) {
      add('proof-follows', 'candidate', tracks.form === 'submitted' ? 'decision' : 'nothing', {
        about: id,
        until: new Date(follows).toISOString(),
        parameters: { title },
      })
    } else if (lacking.has(id)) add('file-missing', 'candidate', 'submission', { about: id, until, parameters: { title } })
    else if (files[id]?.some(f => f.verdict === 'fail') && tracks.scrutiny !== 'accepted') {
      add('file-fails', 'candidate', 'nothing', { about: id, until, parameters: { title } })
    }
  }
}

function addAfterFee(tracks: Tracks, add: Add): void {
  if (tracks.scrutiny === 'waiting' || tracks.scrutiny === 'not started') add('scrutiny', 'scrutineer', 'decision')
  else if (tracks.scrutiny !== 'accepted') return
  else if (tracks.placement === 'unplaced') add('placement', 'officer', 'seat')
  else if (!holdsSeat(tracks)) add('publication', 'officer', 'seat')
  else if (tracks.card === 'not issued') add('card', 'officer', 'card')
}
