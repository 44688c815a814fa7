import type { OpenMatter } from '../../application/open-matters'
import type { CardBlocker } from '../../admit-card/content'
import type { Headline } from '../../application/tracks'
import type { CodeVerdict } from '../../admit-card/code'
import type { Verdict } from '../../finding/finding'

/** What is open and what clears it, for one open matter. */
export function matterWords(matter: OpenMatter): { title: string, clears: string } {
  const { count, title } = matter.parameters
  switch (matter.code) {
    case 'sheet': return { title: count === 1 ? '1 answer is missing or wrong' : `${count} answers are missing or wrong`, clears: 'Fill in what the margin names.' }
    case 'image-missing': return { title: `${title} is missing`, clears: 'Add the picture.' }
    case 'image-failed': return { title: `${title} breaks a rule of the notice`, clears: 'Replace the picture, or let scrutiny judge it.' }
    case 'submit': return { title: 'Not submitted', clears: 'Submit with the declaration.' }
    case 'fee': return { title: 'Fee is due', clears: 'Pay the assessed fee.' }
    case 'confirming': return { title: 'Payment is not confirmed', clears: 'The gateway confirms it, or accounts ask the gateway.' }
    case 'scrutiny': return { title: 'Waits for scrutiny', clears: 'A scrutineer decides.' }
    case 'returned': return { title: 'Returned for correction', clears: 'Correct the named items and submit again.' }
    case 'placement': return { title: 'No centre yet', clears: 'The next allocation run places it.' }
    case 'publish': return { title: 'Placed, not published', clears: 'An officer publishes the run.' }
    case 'card': return { title: 'No admit card yet', clears: 'An officer issues the cards.' }
  }
}

export const blockerWords: Record<CardBlocker, string> = {
  form: 'The form is not submitted or is back for correction.',
  fee: 'The fee is not settled.',
  scrutiny: 'Scrutiny has not accepted the application.',
  placement: 'No published seat.',
  photograph: 'The photograph is missing, or no copy of it can be printed.',
  signature: 'The signature is missing, or no copy of it can be printed.',
  thumb: 'The thumb impression is missing.',
}

/** A shape for each headline, so that no status is told by colour alone. */
export const headlineShapes: Record<Headline, string> = {
  'drafting': '○', 'fee due': '◔', 'in scrutiny': '◑', 'returned': '↩', 'accepted': '●', 'placed': '▣', 'card issued': '■',
  'refused': '✕', 'withdrawn': '–', 'lapsed': '∅',
}

export const verdictShapes: Record<Verdict, string> = { pass: '✓', fail: '✕', unsure: '?' }

export const codeRefusalWords: Record<Extract<CodeVerdict, { ok: false }>['why'], string> = {
  'not-a-code': 'This is not a card\'s code, or part of it is missing or wrong. Read it again from the paper.',
  'unknown-key': 'The code was signed by somebody else\'s key, or with one that this page does not know yet. Load the page anew with a network and try again.',
  'bad-signature': 'The signature does not fit what the code says: at least one sign was changed. Do not let this card pass.',
}
