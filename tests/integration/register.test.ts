import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { withoutCentres } from '../../core/notice/centres'
import type { City } from '../../core/notice/centre-schema'
import type { Notice } from '../../core/notice/schema'
import { addRoom } from '../../server/services/centres/rooms'
import { currentNotice, openCycle, proposeNotice } from '../../server/services/notice/notices'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

/** The office's notice for another cycle, its cities changed. */
const another = (code: string, change: (city: City) => City | object = city => city) => ({
  ...office.notice,
  code,
  cities: office.notice.cities.map(change),
})
const open = (notice: object) => openCycle(office.as(), { notice })
const seatsOf = (notice: Notice) => notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms).reduce((sum, room) => sum + room.seats, 0)

describe('the register of centres', () => {
  it('describes the cities that a later notice only names, and books their rooms as they were used last', async () => {
    const all = withoutCentres(office.notice)
    await open({ ...all, code: 'NA27' })
    const { notice } = await currentNotice(office.db, 'NA27')
    expect(notice.cities.map(c => [c.id, c.title, c.number])).toEqual(office.notice.cities.map(c => [c.id, c.title, c.number]))
    expect(seatsOf(notice)).toBe(seatsOf(office.notice))
    await expect(open({ ...all, code: 'NB27', cities: [...all.cities, { id: 'atlantis', number: 77 }] })).rejects
      .toThrow('“atlantis” is not a city of the register')
  })

  it('lets two cycles seat the same rooms differently', async () => {
    await open(another(
      'NC27',
      city => ({ ...city, venues: city.venues.map(v => ({ ...v, rooms: v.rooms.map(r => ({ ...r, seats: r.seats * 2 })) })) }),
    ))
    expect(seatsOf((await currentNotice(office.db, 'NC27')).notice)).toBe(2 * seatsOf(office.notice))
    expect(seatsOf((await currentNotice(office.db, office.cycle)).notice)).toBe(seatsOf(office.notice))
  })

  it('changes no room by a notice, and says where it is done', async () => {
    const fewer = another(
      office.cycle,
      city => ({ ...city, venues: city.venues.map(v => ({ ...v, rooms: v.rooms.map(r => ({ ...r, seats: r.seats + 1 })) })) }),
    )
    const context = await office.as().authorise('notice.amend')
    await expect(office.db.transaction(tx =>
      proposeNotice(tx, context, office.cycle, { ...fewer, title: 'Another title' }, 'Another title.')
    )).rejects.toThrow('register of centres, not by a notice')
    const [first, second] = office.notice.cities
    const moved = another(
      'ND27',
      city =>
        city.id === second?.id
          ? { ...city, venues: [{ ...first?.venues[0] }] }
          : city.id === first?.id
          ? { ...city, venues: second?.venues ?? [] }
          : city,
    )
    await expect(open(moved)).rejects.toThrow('in another place')
  })

  it('loses no room of two that are added at once, and gives each a code of its own', async () => {
    const [city] = office.notice.cities
    const room = (title: string) =>
      addRoom(office.as(), office.cycle, { city: city?.id ?? '', venue: city?.venues[0]?.id ?? '', title, seats: 10, accessibleSeats: 1 })
    const codes = await Promise.all(['Attic', 'Cellar', 'Library'].map(room))
    expect(new Set(codes.map(c => c.room)).size).toBe(3)
    expect(seatsOf((await currentNotice(office.db, office.cycle)).notice)).toBe(seatsOf(office.notice) + 30)
    await expect(room('Attic')).rejects.toThrow('another name')
  })
})
