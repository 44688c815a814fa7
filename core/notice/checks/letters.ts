import { unknownInLetter, letterPlaceholders, ownLetter } from '../../letters/own'
import { shortMessages } from '../../letters/sms'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'

/** About as long as what comes in the place of each word: texts are counted with them. */
const sample = { name: 'Ilena Marrow-Vaskenholm', number: 'XX27-0000000-0', amount: 'XXX 1,000.00', usual: '' }

/**
 * Letters in the office's own words: each once, nothing in braces that the letter does not know, and short ones short enough for one
 * message.
 */
export function letterFindings({ letters = [], title, body, keyDates }: Notice): NoticeFinding[] {
  const moment = { closes: keyDates.closes, lastPayment: keyDates.lastPayment, cardsFrom: keyDates.cardsFrom, until: keyDates.closes }
  return letters.flatMap((letter, i) => {
    const findings: NoticeFinding[] = []
    if (letters.findIndex(one => one.act === letter.act) < i) findings.push(found('letter.twice', pointer('letters', i, 'act')))
    for (const key of ['subject', 'text', 'short'] as const) {
      const [unknown] = unknownInLetter(letter.act, letter[key] ?? '')
      if (unknown !== undefined) {
        findings
          .push(found('letter.braces', pointer('letters', i, key), { word: unknown, known: letterPlaceholders(letter.act).join(', ') }))
      }
    }
    const { messages, units, alphabet } = shortMessages(letter.short
      ? ownLetter(letter, new Map(Object.entries({ ...moment, ...sample, request: title, examination: title, body: body.name })), true).body
      : '')
    if (messages > 1) {
      findings.push(found('letter.long', pointer('letters', i, 'short'), { messages, units, most: alphabet === 'GSM-7' ? 160 : 70 }))
    }
    return findings
  })
}
