import { actIds, type ActId } from '../application/acts/rule'

/** What the log tells besides the acts on applications. Names last: rows of the log hold them. */
export const otherLogActs = [
  'sign-in',
  'sign-out',
  'end-session',
  'change-password',
  'set-second-factor',
  'remove-second-factor',
  'use-link',
  'invite-staff',
  'change-staff',
  'deactivate-staff',
  'activate-staff',
  'make-link',
  'change-office',
  'put-notice',
  'propose-notice',
  'accept-review',
  'agree-amendment',
  'move-dates',
  'discard-review',
  'run-allocation',
  'publish-run',
  'load-demo',
  'measure-file',
  'refuse-file',
  'add-room',
  'read-roll',
  'enter-roll',
  'propose-act',
  'confirm-act',
  'withdraw-proposal',
  'move-files',
  'read-paper',
  'rotate-card-key',
  'change-bank-account',
  'read-statement',
  'match-line',
  'unmatch-line',
  'read-settlement',
  'close-day',
  'propose-refund',
  'approve-refund',
  'withdraw-refund',
  'send-refunds',
  'judge-pair',
  'prove-counts',
  'bar-person',
  'lift-bar',
  'judge-barred',
  'look-up-standing',
  'announce',
  'change-register',
  'make-bill',
  'withdraw-bill',
  'resend-letter',
  'change-rooms',
  'change-venue',
  'add-handout',
  'take-out-handout',
  'add-address',
  'remove-address',
  'remove-password',
  'rotate-office-key',
  'release-erasing',
  'erase-cycle',
] as const

export type LogAct = ActId | typeof otherLogActs[number]
export const logActs = [...actIds, ...otherLogActs] as const

/** What a row of the log is about. */
export const subjectKinds = ['application', 'cycle', 'run', 'staff', 'office', 'proposal', 'candidate'] as const
export interface LogSubject {
  kind: typeof subjectKinds[number]
  id: string
}
