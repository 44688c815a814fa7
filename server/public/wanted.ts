import { h, type VNode } from 'vue'
import { correctionPeriod } from '../../core/application/corrections'
import { slotOf } from '../../core/application/slots'
import { spellInstant } from '../../core/calendar/zone'
import { spellAmount } from '../../core/fees/assess'
import { filledText } from '../../core/notice/placeholders'
import type { Notice } from '../../core/notice/schema'
import { section, table, type Say } from './page'

/** What a notice asks of people besides answers and files, what others have to say, and what may be asked for and corrected. */

/** Texts that are accepted, to be read before anything is begun. */
export function terms(say: Say, notice: Notice, readIn: string): VNode[] {
  if (!notice.terms?.length) return []
  return [section(
    say('examinations.terms'),
    notice.terms.flatMap(({ id, title, text, asked }) => [
      h('h3', { id: `text-${id}`, lang: readIn }, title),
      h('p', { class: 'soft small' }, say('examinations.termAsked', { isFirst: String(asked === 'at the beginning') })),
      ...filledText(notice, text).split(/\n{2,}/).map(paragraph => h('p', { lang: readIn }, paragraph)),
    ]),
  )]
}

/** What may still be corrected once the form is handed in, and on what terms. */
export function corrections(say: Say, notice: Notice): VNode[] {
  const { currency, zone } = notice.body
  const rules = notice.corrections.filter(rule => rule.by.includes('candidate'))
  if (rules.length === 0) return []
  const title = (item: string) =>
    notice.sections.flatMap(s => s.questions).find(q => q.id === item)?.label ?? slotOf(notice, item)?.title ?? item
  return [section(say('examinations.corrections'), [table(rules.map((rule) => {
    const { opens, closes } = correctionPeriod(notice, rule)
    return [rule.title, say('examinations.correctionTerms', {
      items: rule.items.map(title).join(', '),
      opens: spellInstant(opens, zone),
      closes: spellInstant(closes, zone),
      hasCharge: String(rule.charge > 0),
      charge: spellAmount(rule.charge, currency),
      hasProof: String(rule.proof !== undefined),
      proof: rule.proof?.title ?? '',
    })] as const
  }))])]
}

/** What others have to say, so that somebody knows in time whom to ask. */
export function endorsements(say: Say, notice: Notice): VNode[] {
  if (!notice.endorsements || notice.endorsements.length === 0) return []
  const { zone } = notice.body
  return [section(say('endorse.section'), [table(notice.endorsements.map(rule =>
    [
      rule.title,
      `${
        say('endorse.ofPeople', {
          count: rule.count,
          hasUntil: String(rule.until !== undefined),
          until: rule.until ? spellInstant(rule.until, zone) : '',
        })
      }. ${filledText(notice, rule.text)} ${say('endorse.holds', { holds: rule.holds })}`,
    ] as const
  ))])]
}

/** What may be asked for besides a seat. */
export function requests(say: Say, notice: Notice): VNode[] {
  if (notice.requests.length === 0) return []
  return [section(say('examinations.requests'), [table(notice.requests.map(rule =>
    [
      rule.title,
      say('examinations.requestTerms', { kind: rule.kind, minutes: rule.kind === 'time' ? rule.minutesAnHour : 0, proof: rule.proof }),
    ] as const
  ))])]
}
