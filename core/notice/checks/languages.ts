import { found, pointer, type NoticeFinding } from '../finding'
import { isLanguageTag, languagesOf, textsToRead } from '../languages'
import { wordsInBraces } from '../../words/braces'
import type { Notice } from '../schema'

const placeholdersIn = (text: string) => wordsInBraces(text).sort().join(' ')
/** Numbers, whatever parts their thousands or decimals: in 2,048 and 2 048 the same digits stand. */
const numbersIn = (text: string) =>
  [...text.matchAll(/\d+(?:[.,\u00A0\u202F ]\d+)*/g)].map(([number]) => number.replaceAll(/\D/g, '')).sort().join(' ')

/**
 * Languages that lack texts, and translations that say something else than what they translate, as far as figures and words in braces tell.
 */
export function languageFindings(notice: Notice): NoticeFinding[] {
  const findings: NoticeFinding[] = []
  if (notice.language !== undefined && !isLanguageTag(notice.language)) {
    findings.push(found('language.tag', '/language', { tag: notice.language }))
  }
  const wanted = textsToRead(notice)
  const stands = new Set(wanted)
  const all = languagesOf(notice)
  notice.translations?.forEach(({ language, texts }, i) => {
    const at = pointer('translations', i)
    if (!isLanguageTag(language)) findings.push(found('language.tag', `${at}/language`, { tag: language }))
    if (all.indexOf(language) <= i) findings.push(found('language.twice', `${at}/language`, { tag: language }))
    const known = new Map(texts.map(({ text, as }) => [text, as]))
    const missing = wanted.filter(text => (known.get(text) ?? '').trim() === '')
    if (missing.length > 0) {
      findings.push(found('language.missing', `${at}/texts`, {
        tag: language,
        missing: missing.length,
        all: wanted.length,
        first: (missing[0] ?? '').slice(0, 60),
      }))
    }
    texts.forEach(({ text, as }, t) => {
      const place = pointer('translations', i, 'texts', t)
      if (!stands.has(text)) findings.push(found('language.unknown', place, { tag: language, text: text.slice(0, 60) }))
      else if (as.trim() !== '' && placeholdersIn(text) !== placeholdersIn(as)) {
        findings
          .push(found('language.braces', place, { tag: language, wanted: placeholdersIn(text) || '–', there: placeholdersIn(as) || '–' }))
      } else if (as.trim() !== '' && numbersIn(text) !== numbersIn(as)) {
        findings.push(found('language.numbers', place, { tag: language, wanted: numbersIn(text) || '–', there: numbersIn(as) || '–' }))
      }
    })
  })
  return findings
}
