import { describe, expect, it } from 'vitest'
import type { Notice } from '../notice/schema'
import { sampleNotice } from '../../tests/support/sample'
import { capacityOfCity, seatsOfCity } from './seats'
import { StandingSeats, touchesSeats, type HeldSeat } from './stands'

const changed = (change: (notice: Notice) => void): Notice => {
  const notice = sampleNotice()
  change(notice)
  return notice
}
const base = sampleNotice()
const [city] = base.cities
const [venue] = city?.venues ?? []
const [room] = venue?.rooms ?? []
const [session] = base.sessions
if (!city || !venue || !room || !session) throw new Error('the notice has no room')
const held = (more: Partial<HeldSeat> = {}): HeldSeat => ({
  city: city.id,
  venue: venue.id,
  room: room.id,
  session: session.id,
  paper: '',
  seat: room.accessibleSeats + 1,
  accessible: false,
  ...more,
})
const inRoom = (more: object) => changed(({ cities }) => Object.assign(cities[0]?.venues[0]?.rooms[0] ?? {}, more))
const fate = (after: Notice, of = held(), needs = false) => new StandingSeats(base, after).fateOf(of, needs)

describe('a room', () => {
  it('gives no seat that nobody can sit on, none in a session in which it is not free, and none once it is lost', () => {
    const seats = (more: object) => seatsOfCity(inRoom(more).cities[0] ?? city, base.sessions).filter(one => one.room === room.id)
    expect(seats({ unusable: [1, 3] }).filter(one => one.session === session.id).map(one => one.seat))
      .toEqual(seats({}).filter(one => one.session === session.id).map(one => one.seat).filter(n => n !== 1 && n !== 3))
    expect(seats({ closedIn: [session.id] }).map(one => one.session)).not.toContain(session.id)
    expect([seats({ lost: true }), capacityOfCity(inRoom({ lost: true }).cities[0] ?? city, base.sessions).capacity]).toEqual([[],
      capacityOfCity(city, base.sessions).capacity - room.seats * base.sessions.length])
    // The chairs keep their numbers, so those that are step-free stay so.
    expect(seats({ unusable: [1] }).filter(one => one.accessible).length).toBe((room.accessibleSeats - 1) * base.sessions.length)
  })
})

describe('a seat that was told', () => {
  it('stands under the same notice, and another text touches no seat', () => {
    expect([fate(base), touchesSeats(
      base,
      changed((notice) => {
        notice.declaration += ' It is true.'
      }),
    )]).toEqual(['stands', false])
  })

  it.each<[string, Notice, Partial<HeldSeat>]>([
    ['the room is lost', inRoom({ lost: true }), {}],
    ['the room is not free then', inRoom({ closedIn: [session.id] }), {}],
    ['nobody can sit on it', inRoom({ unusable: [room.accessibleSeats + 1] }), {}],
    ['the room has fewer', inRoom({ seats: room.accessibleSeats }), {}],
    ['the session is gone', changed((notice) => {
      notice.sessions = notice.sessions.filter(one => one.id !== session.id)
    }), {}],
    ['the city is gone', changed((notice) => {
      notice.cities.shift()
    }), {}],
    ['papers are sat since, and it is for none', changed((notice) => {
      notice.testPapers = [{ id: 'a', title: 'A', sessions: [session.id] }]
    }), {}],
    ['its paper is held in another session', changed((notice) => {
      notice.testPapers = [{ id: 'a', title: 'A', sessions: ['elsewhere'] }]
    }), { paper: 'a' }],
  ])('is gone when %s', (_, after, more) => {
    expect([fate(after, held(more)), touchesSeats(base, after)]).toEqual(['gone', true])
  })

  it('is gone for whoever needs a step-free one when it is none any more, and stands for others', () => {
    const after = inRoom({ accessibleSeats: 0 })
    expect([fate(after, held({ seat: 1, accessible: true }), true), fate(after, held({ seat: 1, accessible: true }))]).toEqual(['gone',
      'stands'])
  })

  it('stands at another hour when the session moves, whatever it is called', () => {
    const moved = changed(notice => Object.assign(notice.sessions[0] ?? {}, { ends: '23:30' }))
    expect([fate(moved), fate(changed(notice => Object.assign(notice.sessions[0] ?? {}, { title: 'Morning' })))]).toEqual(['another hour',
      'stands'])
  })
})
