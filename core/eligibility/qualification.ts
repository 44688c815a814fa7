import { parseCalendarDate } from '../calendar/calendar-date'
import type { Notice } from '../notice/schema'
import type { RuleOf } from '../notice/rules'
import type { Finding } from '../finding/finding'
import type { Facts } from './facts'
import { findingAt, missing, unreadable, type Check, type Place } from './place'

/** The place of a rung on the notice's ladder, from 1 at the bottom; an equivalent stands where its equal does. 0 for none. */
export function rankOf(notice: Notice, id: string): number {
  const rung = notice.qualifications.find(q => q.id === id)
  return notice.qualifications.findIndex(q => q.id === (rung?.equals ?? id)) + 1
}

/** The rung reached, and where the rule asks: discipline, result awaited, years since passing. The first that fails speaks. */
export function qualificationCheck(place: Place, rule: RuleOf<'qualification'>): Check {
  const steps = [rungStep(place, rule), disciplineStep(place, rule), awaitedStep(place, rule), recencyStep(place, rule)].filter(step =>
    step !== null
  )
  return (facts) => {
    let doubt: Finding | null = null
    let first: Finding | null = null
    for (const step of steps) {
      const finding = step(facts)
      if (!finding) continue
      if (finding.verdict === 'fail') return finding
      first ??= finding
      if (finding.verdict === 'unsure') doubt ??= finding
    }
    return doubt ?? first ?? missing(place, 'qualification', 'qualification', facts.live)
  }
}

type Step = (facts: Facts) => Finding | null

function rungStep(place: Place, rule: RuleOf<'qualification'>): Step {
  const { notice } = place
  const rungs = new Map(notice.qualifications.map(q => [q.id, { title: q.title, rank: rankOf(notice, q.id), equals: q.equals }]))
  const title = (id: string) => rungs.get(id)?.title ?? id
  const ranks = (rule.oneOf ?? [rule.atLeast ?? '']).map(id => rankOf(notice, id))
  const least = Math.min(...ranks)
  const bound = { min: least }
  const wanted = rule.oneOf ? rule.oneOf.map(title).join(' or ') : `from ${title(rule.atLeast ?? '')}`
  return (facts) => {
    const own = facts.text('qualification')
    if (own === '') return missing(place, 'qualification', 'qualification', facts.live)
    const rung = rungs.get(own)
    if (!rung) return unreadable(place, 'qualification', 'qualification', 'unknown-option', { value: own })
    const { rank, equals } = rung
    const good = rule.oneOf ? ranks.includes(rank) : rank >= least
    return findingAt(
      place,
      'eligibility.qualification',
      good ? 'pass' : 'fail',
      {
        own: rung.title,
        wanted,
        countsAs: equals ? title(equals) : '',
        distance: good ? rank - least : Math.min(-1, rank - least),
        unit: 'steps',
      },
      rank,
      'level',
      bound,
    )
  }
}

function disciplineStep(place: Place, rule: RuleOf<'qualification'>): Step | null {
  const { disciplines } = rule
  if (!disciplines) return null
  const titles = new Map(place.notice.disciplines.map(d => [d.id, d.title]))
  const title = (id: string) => titles.get(id) ?? id
  const wanted = disciplines.map(title).join(' or ')
  return (facts) => {
    const own = facts.text('discipline')
    if (own === '') return missing(place, 'discipline', 'discipline', facts.live)
    return findingAt(place, 'eligibility.discipline', disciplines.includes(own) ? 'pass' : 'fail', { own: title(own), wanted })
  }
}

function awaitedStep(place: Place, rule: RuleOf<'qualification'>): Step {
  return (facts) => {
    if (facts.text('resultAwaited') !== 'yes') return null
    const by = facts.text('resultBy')
    if (rule.awaitedUntil === undefined) {
      return findingAt(place, 'eligibility.awaited', 'fail', { by: parseCalendarDate(by) ? by : '', until: '' })
    }
    if (by === '') return missing(place, 'result', 'resultBy', facts.live)
    if (!parseCalendarDate(by)) return unreadable(place, 'result', 'resultBy', 'no-day', { value: by })
    return findingAt(place, 'eligibility.awaited', by <= rule.awaitedUntil ? 'pass' : 'fail', { by, until: rule.awaitedUntil })
  }
}

function recencyStep(place: Place, rule: RuleOf<'qualification'>): Step | null {
  const most = rule.mostYearsSince
  if (most === undefined) return null
  const bound = { max: most }
  const year = Number(place.notice.keyDates.ageOn.slice(0, 4))
  return (facts) => {
    const text = facts.text('passedIn')
    if (text === '' && facts.text('resultAwaited') === 'yes') return null
    if (text === '') return missing(place, 'year of passing', 'passedIn', facts.live)
    if (!/^\d{4}$/.test(text) || Number(text) > year) {
      return unreadable(place, 'year of passing', 'passedIn', 'no-year', { value: text, bound: year })
    }
    const since = year - Number(text)
    return findingAt(
      place,
      'eligibility.recency',
      since <= most ? 'pass' : 'fail',
      { passedIn: text, year, distance: most - since, unit: 'years' },
      since,
      'years',
      bound,
    )
  }
}
