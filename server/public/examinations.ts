import { h, type VNode } from 'vue'
import { spellDate, spellInstant, spellInstantShort, spellUntil } from '../../core/calendar/zone'
import { spellAmount } from '../../core/fees/assess'
import { feeRange } from '../../core/fees/range'
import { toHaveAtHand, type AtHand } from '../../core/notice/at-hand'
import { languageName, languagesOf } from '../../core/notice/languages'
import { filledText } from '../../core/notice/placeholders'
import type { Notice } from '../../core/notice/schema'
import { imageKindsOf, imageRuleOf } from '../../core/notice/image-rules'
import type { Language } from '../../core/words/language'
import type { Examination, ExaminationRead } from '../services/notice/examinations'
import type { HandoutView, VersionRow } from '../../shared/notice'
import { linkPieces } from '../../shared/links'
import { section, sayIn, table, type PublicPage, type Say } from './page'
import { corrections, endorsements, requests, terms } from './wanted'

/** Every examination: what it is, whether it is open and until when, what it costs and when the test is. */
export function examinationsPage(language: Language, examinations: readonly Examination[]): PublicPage {
  const say = sayIn(language)
  const body = examinations.map(examination =>
    h('article', [
      h('h2', h('a', { href: `/examinations/${examination.notice.code}` }, examination.notice.title)),
      h('p', { class: 'soft' }, examination.notice.body.name),
      standing(say, examination),
      h('dl', [
        h('dt', say('examinations.fee')),
        h('dd', feeWords(say, examination.notice)),
        h('dt', say('examinations.testOn')),
        h('dd', testDays(examination.notice)),
      ]),
      h('p', h('a', { href: `/examinations/${examination.notice.code}` }, say('examinations.wholeNotice'))),
    ])
  )
  return {
    title: say('own.examinations'),
    body: [h('header', h('h1', say('own.examinations'))), ...(body.length > 0 ? body : [h('p', say('examinations.noneYet'))]), foot(say)],
  }
}

const foot = (say: Say): VNode =>
  h('footer', [h('p', h('a', { href: '/own' }, say('own.myApplications'))), h('p', h('a', { href: '/standing' }, say('standing.title'))),
    h('p', h('a', { href: '/sign-in' }, say('examinations.signIn')))])

function standing(say: Say, { notice, now }: Examination, readIn?: string): VNode {
  const { opens, closes } = notice.keyDates
  const { zone } = notice.body
  if (now < new Date(opens)) return h('p', { class: 'standing' }, say('examinations.opensLater', { at: spellInstant(opens, zone) }))
  const left = spellUntil(closes, now)
  if (now >= new Date(closes) || left === null) return h('p', { class: 'standing soft' }, say('examinations.isClosed'))
  return h('p', { class: 'standing open' }, [
    h('b', say('examinations.openNow')),
    '. ',
    say('examinations.closesAt', { at: spellInstant(closes, zone) }),
    ', ',
    // The script lets this run on by the office's clock, of which it is told the moment of drawing.
    h(
      'span',
      { 'data-closes': closes, 'data-now': now.toISOString(), 'data-words': say('examinations.closesIn', { left: '…' }) },
      say('examinations.closesIn', { left }),
    ),
    '. ',
    h('a', { class: 'apply', href: `/apply?examination=${notice.code}${readIn ? `&in=${readIn}` : ''}` }, say('examinations.apply')),
  ])
}

function feeWords(say: Say, notice: Notice): string {
  const { from, to } = feeRange(notice)
  const { currency } = notice.body
  return from === to
    ? spellAmount(from, currency)
    : say('examinations.feeFromTo', { from: spellAmount(from, currency), to: spellAmount(to, currency) })
}

const testDays = (notice: Notice): string => [...new Set(notice.sessions.map(s => s.date))].sort().map(spellDate).join(', ')

/** One examination: its whole notice in readable form, to be printed as well. */
export function examinationPage(language: Language, examination: ExaminationRead): PublicPage {
  const say = sayIn(language)
  const { notice, version, versions, handouts, now, readIn } = examination
  return {
    title: notice.title,
    body: [
      h('header', [
        h('p', h('a', { href: '/examinations' }, say('examinations.allExaminations'))),
        h('h1', { lang: readIn }, notice.title),
        ...inOtherLanguages(say, notice, readIn),
        h('p', { class: 'soft' }, [notice.body.name, h('br'), notice.body.address]),
        standing(say, examination, languagesOf(notice).length > 1 ? readIn : undefined),
        h('p', { class: 'soft small' }, say('examinations.lateAtTheMoment', { now: spellInstantShort(now, notice.body.zone) })),
      ]),
      ...amendments(say, language, notice, versions),
      ...information(say, notice),
      ...toRead(say, notice, handouts),
      ...atHand(say, language, notice),
      ...dates(say, language, notice),
      ...requests(say, notice),
      ...endorsements(say, notice),
      ...corrections(say, notice),
      ...posts(say, notice),
      ...fees(say, language, notice),
      ...pictures(say, language, notice),
      ...cities(say, notice),
      ...counting(say, notice),
      ...terms(say, notice, readIn),
      section(say('examinations.declaration'), [h('p', { lang: readIn }, filledText(notice, notice.declaration))]),
      h('footer', [h('p', { class: 'soft small' }, say('examinations.version', { version, code: notice.code }))]),
    ],
  }
}

function amendments(say: Say, language: Language, notice: Notice, versions: readonly VersionRow[]): VNode[] {
  const amended = versions.filter(row => row.fees !== null && (row.reason !== null || row.changes.length > 0)).reverse()
  if (amended.length === 0) return []
  return [section(
    say('examinations.amendments'),
    amended.map(row =>
      h('div', [
        h(
          'h3',
          row.reason === null
            ? spellInstant(row.from, notice.body.zone)
            : say('examinations.amendedAt', { at: spellInstant(row.from, notice.body.zone), reason: row.reason }),
        ),
        h('ul', row.changes.map(change => h('li', language.differences.differenceWords(notice, change)))),
      ])
    ),
  )]
}

/** A text with its web addresses as links. */
const linked = (text: string): (VNode | string)[] =>
  linkPieces(text).map(piece => piece.isLink ? h('a', { href: piece.text, rel: 'noopener noreferrer' }, piece.text) : piece.text)

function information(say: Say, notice: Notice): VNode[] {
  const { information: known, body } = notice
  if (!known) return []
  return [
    ...(known.news.length > 0
      ? [
        section(
          say('examinations.news'),
          [...known.news].sort((a, b) => Date.parse(b.at) - Date.parse(a.at)).map(one =>
            h('div', [h('h3', [one.title, ' ', h('span', { class: 'soft small' }, spellInstant(one.at, body.zone))]),
              h('p', linked(filledText(notice, one.text)))])
          ),
        ),
      ]
      : []),
    ...(known.summary ? [section(say('examinations.inShort'), [h('p', linked(filledText(notice, known.summary)))])] : []),
    ...(known.steps.length > 0
      ? [section(say('examinations.stepByStep'), [h('ol', known.steps.map(step => h('li', linked(filledText(notice, step)))))])]
      : []),
    ...(known.desks.length > 0
      ? [
        section(say('examinations.whom'), [h(
          'ul',
          known.desks.map(desk => h('li', [h('b', desk.title), ': ', linked([desk.contact, desk.hours].filter(Boolean).join(', '))])),
        )]),
      ]
      : []),
    ...(known.institutions.length > 0
      ? [section(say('examinations.whoTakesPart'), [h('ul', known.institutions.map(one => h('li', one.title)))])]
      : []),
  ]
}

/** Ways to the same page with the notice's texts in another language, each named in itself. */
function inOtherLanguages(say: Say, notice: Notice, readIn: string): VNode[] {
  const all = languagesOf(notice)
  if (all.length < 2) return []
  return [h('p', [say('examinations.readIn'), ' ', ...all.flatMap((tag, i) => [
    ...i > 0 ? [' · '] : [],
    tag === readIn
      ? h('b', { lang: tag }, languageName(tag))
      : h('a', { href: `/examinations/${notice.code}?in=${tag}`, lang: tag, hreflang: tag }, languageName(tag)),
  ])])]
}

function toRead(say: Say, { code, body }: Notice, handouts: readonly HandoutView[]): VNode[] {
  if (handouts.length === 0) return []
  return [section(say('examinations.toRead'), [h(
    'ul',
    handouts.map(one =>
      h('li', [
        h('a', { href: `/api/cycles/${code}/handouts/${one.id}` }, one.title),
        ' ',
        h(
          'span',
          { class: 'soft small' },
          say('examinations.handoutIs', {
            version: one.version,
            at: spellInstantShort(one.at, body.zone),
            kilobytes: Math.ceil(one.bytes / 1024),
          }),
        ),
      ])
    ),
  )])]
}

function atHand(say: Say, language: Language, notice: Notice): VNode[] {
  const { conditionWords, proofWords } = language.conditions
  const detailOf = ({ claim, detail }: AtHand) => claim ? proofWords(notice, claim) : detail
  return [section(say('examinations.haveAtHand'), [
    h('p', { class: 'soft small' }, say('examinations.haveAtHandHelp')),
    h(
      'ul',
      toHaveAtHand(notice).map(one =>
        h('li', [
          h('b', one.title),
          ' (',
          one.when ? say('examinations.whereHolds', { when: conditionWords(notice, one.when) }) : say('examinations.ofEverybody'),
          ')',
          detailOf(one) ? `: ${detailOf(one)}` : '',
          one.leadDays === null ? '' : h('em', ` ${say('examinations.takesDays', { days: one.leadDays })}`),
        ])
      ),
    ),
  ])]
}

function dates(say: Say, language: Language, notice: Notice): VNode[] {
  const { partTitle, capital } = language.noticeParts
  const { zone } = notice.body
  const moments = (['opens', 'closes', 'lastPayment', 'correctionOpens', 'correctionCloses', 'cardsFrom'] as const).map(key =>
    [capital(partTitle(key)), spellInstant(notice.keyDates[key], zone)] as const
  )
  const sittings = notice.sessions.map(one =>
    [one.title, say('notice.reportGateClosesTo', {
      date: spellDate(one.date),
      reporting: one.reporting,
      gateCloses: one.gateCloses,
      starts: one.starts,
      ends: one.ends,
    })] as const
  )
  return [section(say('examinations.dates'), [table(moments)]), section(say('examinations.sessions'), [table(sittings)])]
}

function posts(say: Say, notice: Notice): VNode[] {
  const papers = (post: Notice['posts'][number]) =>
    notice.testPapers.filter(paper => post.testPapers.includes(paper.id)).map(paper =>
      [paper.title, notice.sessions.filter(s =>
        paper.sessions.includes(s.id)
      ).map(s => `${s.title}, ${spellDate(s.date)}, ${s.starts}–${s.ends}`).join('; ')] as const
    )
  return [
    section(
      say('examinations.posts'),
      notice.posts.flatMap(
        post => [h('h3', post.title),
          table([...post.opens ? [[say('examinations.postFrom'), spellInstant(post.opens, notice.body.zone)] as const] : [],
            ...post.closes ? [[say('examinations.postUntil'), spellInstant(post.closes, notice.body.zone)] as const] : [], ...papers(post),
            ...post.clauses.map(clause => [clause.clause, clause.text] as const)])]
      ),
    ),
  ]
}

function fees(say: Say, language: Language, notice: Notice): VNode[] {
  const { currency, zone } = notice.body
  const { base, posts, further, late, surcharges, waivers, severalWaivers, payers, channels, order } = notice.fees
  const amount = (minor: number) => spellAmount(minor, currency)
  const where = (title: string, when: Notice['claims'][number]['when'] | undefined) =>
    when ? `${title}, ${say('examinations.whereHolds', { when: language.conditions.conditionWords(notice, when) })}` : title
  return [section(say('examinations.fees'), [table([
    ...base.map(row =>
      [where(notice.categories.find(c => c.id === row.category)?.title ?? row.category, row.when), amount(row.amount)] as const
    ),
    ...posts.map(row => [where(notice.posts.find(post => post.id === row.post)?.title ?? row.post, row.when), amount(row.amount)] as const),
    ...further.map(row => [say('examinations.perPost', { from: row.from }), amount(row.amount)] as const),
    ...waivers.map(line => [line.title, say('examinations.less', { percent: line.percent })] as const),
    ...late.map(period => [say('examinations.lateFee', { at: spellInstant(period.from, zone) }), amount(period.amount)] as const),
    ...surcharges.map(line => [where(line.title, line.when), amount(line.amount)] as const),
    ...channels.map(channel =>
      [say('examinations.paidBy', { way: language.fees.wayTitles[channel.way] }), language.fees.wayCostWords(channel, amount)] as const
    ),
    ...payers.map(({ title, when }) =>
      [title, say('examinations.paysFor', { when: language.conditions.conditionWords(notice, when) })] as const
    ),
  ]), ...waivers.length > 1 ? [h('p', language.noticeParts.severalWaiversWords[severalWaivers])] : [],
    h('p', language.fees.orderWords[order])])]
}

function pictures(say: Say, language: Language, notice: Notice): VNode[] {
  const kb = (bytes: number | undefined) => Math.round((bytes ?? 0) / 1024)
  return [section(say('examinations.pictures'), [table(imageKindsOf(notice).map((kind) => {
    const rule = imageRuleOf(notice, kind)
    return [rule.title, say('examinations.pictureBounds', {
      formats: language.lists.formatWords(rule.formats),
      minKb: kb(rule.bytes.min),
      maxKb: kb(rule.bytes.max),
      minWidth: rule.width.min ?? 1,
      minHeight: rule.height.min ?? 1,
      maxWidth: rule.width.max ?? '…',
      maxHeight: rule.height.max ?? '…',
    })] as const
  }))])]
}

function cities(say: Say, notice: Notice): VNode[] {
  const islands = [...new Set(notice.cities.map(city => city.island))]
  return [
    section(say('examinations.cities'), [h(
      'ul',
      islands.map(island =>
        h(
          'li',
          say('examinations.citiesOn', {
            island,
            cities: notice.cities.filter(city => city.island === island).map(city => city.title).join(', '),
          }),
        )
      ),
    ), ...notice.allocation.kept.map(kept => h('p', keptSeats(say, notice, kept)))]),
  ]
}

function keptSeats(say: Say, { cities: all }: Notice, { title, seats, unused }: Notice['allocation']['kept'][number]): string {
  const titleOf = (id: string) => all.find(city => city.id === id)?.title ?? id
  return say('examinations.seatsKept', {
    title,
    unused: unused.replaceAll(' ', '_'),
    cities: seats.map(row => say('examinations.seatsKeptIn', { count: row.seats, city: titleOf(row.city) })).join(', '),
  })
}

function counting(say: Say, notice: Notice): VNode[] {
  const { keyDates, leapDayBirthday, percentageCompared, allocation, outcomes } = notice
  return [section(say('examinations.rules'), [h(
    'ul',
    [
      say('examinations.ageOn', { date: spellDate(keyDates.ageOn) }),
      say('examinations.leapDay', { isMarch: String(leapDayBirthday === 'mar-01') }),
      say('examinations.percentages', { how: percentageCompared }),
      say('examinations.timeStamp', { what: allocation.timeStamp }),
      say('examinations.returned', { days: outcomes.answerDays }),
    ].map(text => h('li', text)),
  )])]
}
