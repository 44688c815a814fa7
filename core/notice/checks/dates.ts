import { isClosedDay } from '../../calendar/closed-days'
import { dateInZone, instantsOf, isTimeZone, offsetAt } from '../../calendar/zone'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'
import type { Session } from '../centre-schema'

const day = 86_400_000
/** What must not come before what. */
const order = [['opens', 'closes'], ['closes', 'lastPayment'], ['closes', 'correctionOpens'], ['correctionOpens', 'correctionCloses'], [
  'closes',
  'cardsFrom',
]] as const

/** Dates in an order that works, and lead times that are long enough. */
export function dateFindings(notice: Notice): NoticeFinding[] {
  const { quietHours: quiet } = notice.body
  const wholeDay = quiet && quiet.from === quiet.to ? [found('quiet.whole-day', pointer('body', 'quietHours'), { at: quiet.from })] : []
  const { zone } = notice.body
  // Nothing can be said of days and hours in a zone that nobody knows.
  if (zone.timeZone !== undefined && !isTimeZone(zone.timeZone)) {
    return [found('zone.unknown', pointer('body', 'zone', 'timeZone'), { name: zone.timeZone }), ...wholeDay]
  }
  return [...orderFindings(notice), ...officeFindings(notice), ...sessionFindings(notice), ...clockFindings(notice), ...wholeDay]
}

function orderFindings({ keyDates, fees, posts, body }: Notice): NoticeFinding[] {
  const at = (name: keyof typeof keyDates) => Date.parse(keyDates[name])
  const findings = order.filter(([before, after]) => at(after) < at(before)).map(([before, after]) =>
    found('dates.order', pointer('keyDates', after), { earlier: before, later: after, before: keyDates[before], after: keyDates[after] })
  )
  if (at('opens') === at('closes')) {
    findings
      .push(found('dates.order', '/keyDates/closes', { earlier: 'opens', later: 'closes', before: keyDates.opens, after: keyDates.closes }))
  }
  if (at('cardsFrom') >= at('closes') && at('cardsFrom') < at('lastPayment')) {
    findings.push(found('dates.cards', '/keyDates/cardsFrom', { cards: keyDates.cardsFrom, payment: keyDates.lastPayment }))
  }
  if (at('correctionCloses') > at('cardsFrom')) {
    findings.push(found('dates.correction-late', '/keyDates/correctionCloses', {
      corrections: keyDates.correctionCloses,
      cards: keyDates.cardsFrom,
    }))
  }
  fees.late.forEach(({ from }, i) => {
    if (Date.parse(from) <= at('opens') || Date.parse(from) >= at('closes')) {
      findings.push(found('dates.late-fee', pointer('fees', 'late', i, 'from'), { from, opens: keyDates.opens, closes: keyDates.closes }))
    }
  })
  findings.push(...postFindings(posts, keyDates))
  if (fees.order !== 'after submission' && at('lastPayment') > at('closes')) {
    findings.push(found('dates.paid-late', '/keyDates/lastPayment', { payment: keyDates.lastPayment, closes: keyDates.closes }))
  }
  return [...findings, ...offsetFindings({ keyDates, fees, posts, body })]
}

/** Posts that open or close at a time of their own. */
function postFindings(posts: Notice['posts'], keyDates: Notice['keyDates']): NoticeFinding[] {
  const at = (name: 'opens' | 'closes') => Date.parse(keyDates[name])
  const findings: NoticeFinding[] = []
  posts.forEach(({ opens, closes }, p) => {
    const until = closes ?? keyDates.closes
    if (opens !== undefined && Date.parse(opens) < at('opens')) {
      findings.push(found('dates.post-early', pointer('posts', p, 'opens'), { opens, all: keyDates.opens }))
    }
    if (opens !== undefined && Date.parse(opens) >= Date.parse(until)) {
      findings.push(found('dates.order', pointer('posts', p, 'opens'), { earlier: 'opens', later: 'closes', before: opens, after: until }))
    }
    if (closes === undefined) return
    const place = pointer('posts', p, 'closes')
    if (Date.parse(closes) <= at('opens')) {
      findings.push(found('dates.order', place, { earlier: 'opens', later: 'closes', before: keyDates.opens, after: closes }))
    }
    if (Date.parse(closes) > at('closes')) findings.push(found('dates.post-late', place, { closes, all: keyDates.closes }))
  })
  return findings
}

/** Moments that are written with another distance from UTC than the zone has then. */
function offsetFindings({ keyDates, fees, posts, body }: Pick<Notice, 'keyDates' | 'fees' | 'posts' | 'body'>): NoticeFinding[] {
  const moments: [string, string][] = [
    ...Object.entries(keyDates).filter(([name]) => name !== 'ageOn').map(
      ([name, value]): [string, string] => [pointer('keyDates', name), value]
    ),
    ...fees.late.map(({ from }, i): [string, string] => [pointer('fees', 'late', i, 'from'), from]),
    ...posts.flatMap((post, p) =>
      (['opens', 'closes'] as const).flatMap((name): [string, string][] =>
        post[name] === undefined ? [] : [[pointer('posts', p, name), post[name]]]
      )
    ),
  ]
  return moments.flatMap(([place, value]) => {
    const written = offsetOf(value)
    const minutes = offsetAt(value, body.zone)
    const differs = written !== null && written !== minutes
    return differs ? [found('dates.offset', place, { value, zone: body.zone.name, minutes })] : []
  })
}

/** Hours of sessions that a clock of the zone never shows on that day, or shows twice. */
function clockFindings({ sessions, body: { zone } }: Notice): NoticeFinding[] {
  return sessions.flatMap((session, i) =>
    (['reporting', 'gateCloses', 'starts', 'ends'] as const).flatMap((name) => {
      const times = instantsOf(session.date, session[name], zone).length
      return times === 1
        ? []
        : [
          found(times === 0 ? 'session.no-hour' : 'session.hour-twice', pointer('sessions', i, name), {
            title: session.title,
            date: session.date,
            time: session[name],
            zone: zone.name,
          }),
        ]
    })
  )
}

/** Minutes east of UTC that a moment was written with; null for one in UTC, which says nothing of where it was thought. */
function offsetOf(instant: string): number | null {
  const match = /([+-])(\d\d):(\d\d)$/.exec(instant)
  return match ? (match[1] === '-' ? -1 : 1) * (Number(match[2]) * 60 + Number(match[3])) : null
}

function officeFindings({ keyDates: { opens, closes, lastPayment }, body, claims, expected }: Notice): NoticeFinding[] {
  const findings: NoticeFinding[] = []
  for (const [name, value] of [['closes', closes], ['lastPayment', lastPayment]] as const) {
    const date = dateInZone(value, body.zone)
    if (isClosedDay(body, date)) findings.push(found('dates.holiday', pointer('keyDates', name), { name, date }))
  }
  const open = (Date.parse(closes) - Date.parse(opens)) / day
  if (expected?.openDays !== undefined && open < expected.openDays) {
    findings.push(found('dates.short', '/keyDates/closes', { days: Math.floor(open), bound: expected.openDays }))
  }
  claims.forEach((claim, i) => {
    if (claim.leadDays !== undefined && claim.leadDays > open) {
      findings
        .push(found('claim.lead', pointer('claims', i, 'leadDays'), { title: claim.title, days: claim.leadDays, open: Math.floor(open) }))
    }
  })
  return findings
}

function sessionFindings({ sessions, keyDates, body }: Notice): NoticeFinding[] {
  return sessions.flatMap((session, i) => {
    const at = pointer('sessions', i)
    const findings: NoticeFinding[] = []
    const times = [session.reporting, session.gateCloses, session.starts, session.ends]
    if ([...times].sort().join() !== times.join()) {
      findings.push(found('session.times', at, {
        title: session.title,
        reporting: session.reporting,
        gateCloses: session.gateCloses,
        starts: session.starts,
        ends: session.ends,
      }))
    }
    if (session.date < dateInZone(keyDates.cardsFrom, body.zone)) {
      findings.push(found('session.cards', `${at}/date`, { title: session.title, date: session.date, cards: keyDates.cardsFrom }))
    }
    // Every session seats the same rooms: two at one time would give one seat to two people.
    const other = sessions.slice(0, i).find(one => overlap(one, session))
    if (other) findings.push(found('session.overlap', at, { title: session.title, other: other.title, date: session.date }))
    return findings
  })
}

const overlap = (a: Session, b: Session): boolean => a.date === b.date && a.starts < b.ends && b.starts < a.ends
