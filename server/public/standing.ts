import { h, type VNode } from 'vue'
import { spellInstant } from '../../core/calendar/zone'
import type { Language } from '../../core/words/language'
import type { PublicStanding } from '../services/candidates/standing'
import { sayIn, type PublicPage, type Say } from './page'

/** Asks for number and proof; `trouble` says why the last look found nothing. */
export function askForStanding(language: Language, trouble = '', number = ''): PublicPage {
  const say = sayIn(language)
  return {
    title: say('standing.title'),
    body: [
      h('header', [h('p', h('a', { href: '/examinations' }, say('examinations.allExaminations'))), h('h1', say('standing.title')),
        h('p', { class: 'soft' }, say('standing.help'))]),
      ...trouble ? [h('p', { class: 'trouble', role: 'alert' }, trouble)] : [],
      h('form', { method: 'post', action: '/standing' }, [
        field('number', say('standing.number'), { value: number, autocomplete: 'off', autocapitalize: 'characters', maxlength: 30 }),
        field('proof', say('standing.proof'), { 'autocomplete': 'off', 'maxlength': 120, 'aria-describedby': 'proof-help' }),
        h('p', { id: 'proof-help', class: 'soft small' }, say('standing.proofHelp')),
        h('button', { type: 'submit' }, say('standing.look')),
      ]),
      foot(say),
    ],
  }
}

const field = (name: string, label: string, more: Record<string, unknown>): VNode =>
  h('p', [h('label', { for: name }, label), h('input', { id: name, name, type: 'text', required: true, ...more })])
const foot = (say: Say): VNode => h('footer', [h('p', h('a', { href: '/own' }, say('own.myApplications')))])

const feeWord = {
  'settled': 'settled',
  'nothing due': 'none',
  'due': 'due',
  'confirming': 'confirming',
  'refund due': 'refund',
  'not assessed': 'other',
} as const

/** Form, fee, scrutiny, centre and card said apart, and what comes next. */
export function standingPage(language: Language, { number, notice, tracks, submittedAt, now, next }: PublicStanding): PublicPage {
  const say = sayIn(language)
  const { zone } = notice.body
  const spell = (at: string | Date) => spellInstant(at, zone)
  const { closes, lastPayment } = notice.keyDates
  const seat = tracks.placement === 'published' || tracks.placement === 'moved' ? 'known' : 'other'
  const card = tracks.card === 'issued' || tracks.card === 'replaced' ? 'issued' : tracks.card === 'withheld' ? 'withheld' : 'other'
  const lines: [string, string][] = [
    [say('standing.form'), say('standing.formIs', { form: tracks.form, closes: spell(closes), at: submittedAt ? spell(submittedAt) : '' })],
    [say('standing.fee'), say('standing.feeIs', { fee: feeWord[tracks.fee], lastPayment: spell(lastPayment) })],
    [say('standing.scrutiny'), say('standing.scrutinyIs', { scrutiny: tracks.scrutiny })],
    [say('standing.seat'), say('standing.seatIs', { seat })],
    [say('standing.card'), say('standing.cardIs', { card })],
    [say('standing.next'), next
      ? say('standing.nextIs', {
        what: language.work.matterWords(next).title,
        owner: next.owner,
        until: next.until ? spell(next.until) : 'none',
      })
      : say('standing.nothingNext')],
  ]
  return {
    title: say('standing.title'),
    body: [
      h('header', [h('p', h('a', { href: '/standing' }, say('standing.again'))), h('h1', say('standing.title')),
        h('p', { class: 'soft' }, say('standing.of', { number, title: notice.title }))]),
      h('table', lines.map(([name, is]) => h('tr', [h('th', { scope: 'row' }, name), h('td', is)]))),
      h('p', { class: 'soft small' }, say('standing.as', { at: spell(now) })),
      foot(say),
    ],
  }
}
