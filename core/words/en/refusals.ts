import type { RefusalCode, RefusalParameters } from '../../refusal/codes'
import { formatMessage } from '../message'

export const nothing = 'Nothing was changed.'

/**
 * What refusals say that a page finds by itself, in ICU message syntax. Each names the value, the bound and what to do. Those that the
 * office finds come with their sentence (`sent-refusals`, `office-refusals`); those on files come with the part that looks at files
 * (`file-refusals`).
 */
export const messages = {
  'session.none': `Sign in first. ${nothing}`,
  'access.role': `Your role ({held}) may not do this ({permission}). It belongs to: {roles}. ${nothing}`,
  'access.relation': `This is not yours to see or change ({permission}). ${nothing}`,
  'office.unreachable': 'No connection to the office. Nothing on this screen is lost: try again when the connection is back.',
  'office.answer': 'The office answered {status}. Try again in a moment.',
  'sheet.not-saved': 'The last answers are not saved yet. Wait a moment and submit again.',
  'dates.not-open': 'Applications open on {opens}.',
  'dates.closed': 'Applications closed on {closes}. What was typed before is kept.',
  'dates.payment-over': 'The last moment to pay was {lastPayment}. Nothing was charged.',
  'dates.correction-over': 'The correction had to be handed in before {until}. What was typed before is kept.',
  'act.form-frozen': `{number} is {form}: its answers, images and documents are frozen. Return it for correction to open them. ${nothing}`,
  'act.form-not-submitted': `{number} is {form}, not submitted. ${nothing}`,
  'act.form-not-open': '{number} is {form} and cannot be submitted.',
  'act.form-not-withdrawn': `{number} is {form}: there is nothing to bring back. ${nothing}`,
  'act.form-over': `{number} is {form}. Bring it back first. ${nothing}`,
  'act.not-correcting': `{number} is {form}: no correction is under way. ${nothing}`,
  'act.not-empty': `{number} holds answers or files. Withdraw it instead; what was typed is kept. ${nothing}`,
  'act.decided': `{number} was decided on already. ${nothing}`,
  'dates.no-correction': 'The notice lets nobody correct {number} now. An officer may, with a reason that is kept.',
  'act.correction-waits': `A correction of {number} waits for the office: accept or refuse it first. ${nothing}`,
  'act.no-correction': `No correction of {number} is at this point now. Read it again. ${nothing}`,
  'act.paid': `Money for {number} has come in. Withdraw it, or ask for a correction. ${nothing}`,
  'act.payment-under-way': `A payment of {number} is under way. Wait until it ends. ${nothing}`,
  'act.fee-not-due': 'The fee of {number} is {fee}: there is nothing to pay.',
  'act.not-accepted': `{number} is {headline}, not accepted. ${nothing}`,
  'act.not-returned': `{number} is {headline}: no return is open. ${nothing}`,
  'act.answered': `The candidate has changed {number} since it was returned. Wait for the correction. ${nothing}`,
  'act.seat-held': '{number} holds a published seat. Take the seat back first; nothing was changed.',
  'act.changed': `{number} was changed since it was opened. Hand the correction in instead. ${nothing}`,
  'sheet.post-early':
    '{post} can be chosen from {opens} on. Hand the form in then, or take it away and hand it in with the others; all that was typed is kept.',
  'sheet.post-closed':
    '{post} could be chosen until {closes}. Take it away and hand the form in with the others, or ask the office; all that was typed is kept.',
  'act.slip-waits': `A deposit slip of {number} waits to be looked at already. Take it back first, or wait for the answer. ${nothing}`,
  'act.no-slip': `{number} has no deposit slip that this could be done to. ${nothing}`,
  'act.nothing-owed': `Nothing is owed back to {number}. ${nothing}`,
  'picture.bytes':
    'The file has {megabytes} MB ({bytes} bytes; 1 MB = 1024 × 1024); at most {most} MB are taken. Shrink the picture and add it again; one that was there before is kept.',
  'page.fault': 'Something failed in this page. Load it anew; what was saved is safe.',
} satisfies Partial<Record<RefusalCode, string>>

const known: Partial<Record<RefusalCode, string>> = { ...messages }

/** Makes further sentences known. */
export function knowRefusals(more: Partial<Record<RefusalCode, string>>): void {
  Object.assign(known, more)
}

/** The sentence that tells a person why, and what to do; empty for a refusal whose words are not there. */
export function refusalText(code: RefusalCode, parameters: RefusalParameters): string {
  const message = Object.hasOwn(known, code) ? known[code] : undefined
  return message === undefined ? '' : formatMessage('en', message, parameters)
}
