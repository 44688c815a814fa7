import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  clockInZone,
  dateInZone,
  instantInZone,
  instantsOf,
  isTimeZone,
  offsetAt,
  spellBirthday,
  spellDate,
  spellInstant,
  spellMinutes,
  spellUntil,
  type Zone,
} from './zone'

const ilmara = { name: 'Ilmara time', utcOffsetMinutes: -75 }

describe('times in the zone of the body', () => {
  it('spells an instant so that day and month cannot be mixed, and names the zone', () => {
    expect(spellInstant('2026-11-27T18:15:00Z', ilmara)).toBe('Fri 27 Nov 2026, 17:00 Ilmara time')
    expect(spellDate('2027-01-02')).toBe('Sat 2 Jan 2027')
    expect(spellBirthday('2004-02-29')).toBe('29 Feb 2004')
  })

  it('has its midnight where the zone has it', () => {
    expect(dateInZone('2026-11-27T01:14:59Z', ilmara)).toBe('2026-11-26')
    expect(dateInZone('2026-11-27T01:15:00Z', ilmara)).toBe('2026-11-27')
  })

  it('goes from a clock time to the instant and back', () => {
    fc.assert(fc.property(
      fc.date({ min: new Date('2000-01-01'), max: new Date('2100-01-01'), noInvalidDate: true }),
      fc.integer({ min: -840, max: 840 }),
      (date, utcOffsetMinutes) => {
        const zone = { name: 'somewhere', utcOffsetMinutes }
        const day = dateInZone(date, zone)
        expect(dateInZone(instantInZone(day, '00:00', zone), zone)).toBe(day)
        expect(dateInZone(new Date(instantInZone(day, '00:00', zone).getTime() - 1), zone)).not.toBe(day)
      },
    ))
  })

  // The examples of RFC 5545, section 3.3.5: half past one is shown twice on 4 November 2007, half past two never on 11 March.
  it('reads what a clock shows twice as the first, and what it never shows with the distance from before (RFC 5545)', () => {
    const newYork: Zone = { name: 'Eastern time', utcOffsetMinutes: -300, timeZone: 'America/New_York' }
    expect(instantInZone('2007-11-04', '01:30', newYork).toISOString()).toBe('2007-11-04T05:30:00.000Z')
    expect(instantInZone('2007-03-11', '02:30', newYork).toISOString()).toBe('2007-03-11T07:30:00.000Z')
    expect(clockInZone('2007-03-11T07:30:00Z', newYork)).toBe('03:30:00')
    expect([instantsOf('2007-11-04', '01:30', newYork).length, instantsOf('2007-03-11', '02:30', newYork).length,
      instantsOf('2007-03-11', '03:30', newYork).length]).toEqual([2, 0, 1])
    expect([offsetAt('2007-11-04T05:59:59Z', newYork), offsetAt('2007-11-04T06:00:00Z', newYork)]).toEqual([-240, -300])
    expect([isTimeZone('America/New_York'), isTimeZone('Ilmara/Skarnholm')]).toEqual([true, false])
  })

  it('finds every instant again from what the clock shows, in any zone', () => {
    const zones = fc.constantFrom(
      'America/New_York',
      'Europe/Lisbon',
      'Australia/Lord_Howe',
      'Asia/Kolkata',
      'Pacific/Apia',
      'America/St_Johns',
    )
    fc.assert(fc.property(
      fc.date({ min: new Date('2000-01-01'), max: new Date('2037-01-01'), noInvalidDate: true }),
      zones,
      (date, timeZone) => {
        const zone = { name: 'somewhere', utcOffsetMinutes: 0, timeZone }
        const second = new Date(Math.floor(date.getTime() / 1000) * 1000)
        expect(instantsOf(dateInZone(second, zone), clockInZone(second, zone), zone).map(Number)).toContain(second.getTime())
      },
    ))
  })

  it('counts down to a moment and says when it has passed', () => {
    const now = new Date('2026-11-24T12:00:00Z')
    expect(spellUntil('2026-11-27T16:12:00Z', now)).toBe('3 d 4 h')
    expect(spellUntil('2026-11-24T12:00:30Z', now)).toBe('0 min')
    expect(spellUntil('2026-11-24T11:59:59Z', now)).toBeNull()
    expect([spellMinutes(59), spellMinutes(60), spellMinutes(1439), spellMinutes(1440)]).toEqual(['59 min', '1 h 0 min', '23 h 59 min',
      '1 d 0 h'])
  })
})
