import { policyFaults } from '../../allocation/policy'
import { capacityOfCity } from '../../seating/seats'
import { found, pointer, type NoticeFinding, type PointerStep } from '../finding'
import type { Notice } from '../schema'

/** Cities, rooms and seats, and what the allocation makes of them. */
export function centreFindings(notice: Notice): NoticeFinding[] {
  const { cities, sessions, expected } = notice
  const findings = [
    ...twice(cities.map((c, i) => [c.id, pointer('cities', i, 'id')])),
    ...twice(cities.map((c, i) => [c.number, pointer('cities', i, 'number')])),
    ...twice(cities.map((c, i) => [c.postalPrefix, pointer('cities', i)])),
    ...twice(cities.flatMap((c, i) => c.venues.map((v): [string, string] => [v.id, pointer('cities', i)]))),
    ...twice(sessions.map((s, i) => [s.id, pointer('sessions', i, 'id')])),
    ...twice(notice.posts.map((p, i) => [p.id, pointer('posts', i, 'id')])),
    ...twice(notice.categories.map((c, i) => [c.id, pointer('categories', i, 'id')])),
    ...twice(notice.claims.map((c, i) => [c.id, pointer('claims', i, 'id')])),
  ]
  cities.forEach((city, i) => {
    const rooms = city.venues.flatMap(v => v.rooms)
    if (rooms.length === 0) findings.push(found('city.empty', pointer('cities', i), { city: city.title }))
    for (const room of rooms) {
      if (room.accessibleSeats > room.seats) {
        findings
          .push(found('room.accessible', pointer('cities', i), { room: room.title, accessible: room.accessibleSeats, seats: room.seats }))
      }
      const beyond = room.unusable?.find(seat => seat > room.seats)
      if (beyond !== undefined) {
        findings.push(found('room.unusable', pointer('cities', i), { room: room.title, seat: beyond, seats: room.seats }))
      }
    }
    if (rooms.length > 0 && sessions.length > 0 && capacityOfCity(city, sessions).capacity === 0) {
      findings.push(found('city.no-seats', pointer('cities', i), { city: city.title }))
    }
  })
  if (expected) {
    const seats = cities.map(city => capacityOfCity(city, sessions))
    const [all, stepFree] = [seats.reduce((n, c) => n + c.capacity, 0), seats.reduce((n, c) => n + c.accessibleCapacity, 0)]
    if (all < expected.applicants) findings.push(found('seats.few', '/expected/applicants', { seats: all, expected: expected.applicants }))
    if (stepFree < expected.stepFree) {
      findings.push(found('seats.step-free', '/expected/stepFree', { seats: stepFree, expected: expected.stepFree }))
    }
  }
  return [...findings, ...allocationFindings(notice)]
}

/** Members of a list that share what must tell them apart. */
function twice(members: readonly (readonly [PointerStep, string])[]): NoticeFinding[] {
  return members.flatMap(([id, at], i) => members.findIndex(([other]) => other === id) < i ? [found('id.twice', at, { id })] : [])
}

function allocationFindings(notice: Notice): NoticeFinding[] {
  const { allocation, cities } = notice
  const findings = allocation.restrictions.flatMap(({ title, closedCities }, r) =>
    closedCities.flatMap((city, i) =>
      cities.some(c => c.id === city)
        ? []
        : [found('allocation.city', pointer('allocation', 'restrictions', r, 'closedCities', i), { title, city })]
    )
  )
  allocation.kept.forEach(({ title, seats }, k) => {
    const at = (i: number) => pointer('allocation', 'kept', k, 'seats', i)
    findings.push(...twice(seats.map((row, i) => [row.city, `${at(i)}/city`])))
    seats.forEach(({ city, seats: kept }, i) => {
      const known = cities.find(c => c.id === city)
      if (!known) return findings.push(found('kept.city', `${at(i)}/city`, { title, city }))
      // What others keep there counts, too: a session may not be promised twice.
      const all = allocation.kept.slice(0, k + 1).flatMap(one => one.seats).reduce((n, row) => row.city === city ? n + row.seats : n, 0)
      const aSession = Math.min(...notice.sessions.map(session => capacityOfCity(known, [session]).capacity))
      if (all > aSession) findings.push(found('kept.many', `${at(i)}/seats`, { title, city: known.title, kept, all, seats: aSession }))
    })
  })
  for (const fault of policyFaults({ ...allocation, kind: 'best-fit', seed: 0 })) {
    findings.push(found('allocation.policy', '/allocation', { fault }))
  }
  const list = notice.sections.flatMap(s => s.questions).find(q => q.kind === 'cities')
  if (list?.kind === 'cities' && list.max > allocation.choiceCosts.length) {
    findings.push(found('allocation.costs', '/allocation/choiceCosts', { costs: allocation.choiceCosts.length, choices: list.max }))
  }
  return findings
}
