import { Temporal } from '@js-temporal/polyfill'
import fc from 'fast-check'
import { DateTime } from 'luxon'
import { describe, expect, it } from 'vitest'
import {
  addDays,
  addYears,
  ageOn,
  dayNumber,
  daysBetween,
  earliestBirth,
  isoDaysInMonth,
  latestBirth,
  parseCalendarDate,
} from './calendar-date'

const dates = fc.record({
  year: fc.integer({ min: 1900, max: 2100 }),
  month: fc.integer({ min: 1, max: 12 }),
  day: fc.integer({ min: 1, max: 31 }),
}).filter(p => p.day <= isoDaysInMonth(p.year, p.month)).map(p =>
  `${p.year}-${String(p.month).padStart(2, '0')}-${String(p.day).padStart(2, '0')}`
)

describe('a calendar date', () => {
  it.each(['2023-02-29', '1900-02-29', '2024-13-01', '2024-00-10', '2024-04-31', '24-01-01', '2024-1-1', '', '2024-01-01T00:00'])(
    'refuses %s, a day that does not exist or another form',
    (text) => {
      expect(parseCalendarDate(text)).toBeNull()
    },
  )

  it('knows the leap days of 2000 and 2024', () => {
    expect(parseCalendarDate('2000-02-29')).toEqual({ year: 2000, month: 2, day: 29 })
    expect(parseCalendarDate('2024-02-29')).not.toBeNull()
  })
})

describe('age', () => {
  it.each([
    // Born on 29 February, in a common year, by both conventions.
    ['2004-02-29', '2027-02-28', 'feb-28', 23, 0, 0],
    ['2004-02-29', '2027-02-28', 'mar-01', 22, 11, 30],
    ['2004-02-29', '2027-03-01', 'mar-01', 23, 0, 0],
    ['2004-02-29', '2024-02-29', 'mar-01', 20, 0, 0],
    // The birthday itself counts; the day before does not. Class of 70 and above: common practice, no source.
    ['1957-01-02', '2027-01-01', 'feb-28', 69, 11, 30],
    ['1957-01-01', '2027-01-01', 'feb-28', 70, 0, 0],
    ['2003-01-31', '2003-02-28', 'feb-28', 0, 1, 0],
    ['2027-01-01', '2027-01-01', 'feb-28', 0, 0, 0],
  ] as const)('of one born %s is on %s by %s: %i y %i m %i d', (born, on, leapDay, years, months, days) => {
    expect(ageOn(born, on, leapDay)).toEqual({ years, months, days })
  })

  it('is not told before birth or for a day that does not exist', () => {
    expect(ageOn('2027-01-02', '2027-01-01', 'feb-28')).toBeNull()
    expect(ageOn('2027-02-30', '2028-01-01', 'feb-28')).toBeNull()
  })

  // Luxon moves a 29 February to the 28th in common years; Temporal counts the year as complete on 1 March.
  it('agrees with luxon and with Temporal in completed years over 100,000 pairs', () => {
    fc.assert(
      fc.property(dates, dates, (a, b) => {
        const [born, on] = a < b ? [a, b] : [b, a]
        const luxon = Math.floor(DateTime.fromISO(on, { zone: 'utc' }).diff(DateTime.fromISO(born, { zone: 'utc' }), 'years').years)
        const temporal = Temporal.PlainDate.from(born).until(on, { largestUnit: 'years' }).years
        // Asked of expect only when they differ: of 100,000 pairs that alone would take seconds.
        const [early, late] = [ageOn(born, on, 'feb-28')?.years, ageOn(born, on, 'mar-01')?.years]
        if (early !== luxon || late !== temporal) expect([early, late]).toEqual([luxon, temporal])
      }),
      { numRuns: 100_000 },
    )
  })

  it('agrees with both in months and days where no month is too short', () => {
    fc.assert(
      fc.property(dates.filter(d => Number(d.slice(8)) <= 28), dates, (a, b) => {
        const [born, on] = a <= b ? [a, b] : [b, a]
        if (Number(born.slice(8)) > 28) return
        const { years, months, days } = Temporal.PlainDate.from(born).until(on, { largestUnit: 'years' })
        expect(ageOn(born, on, 'feb-28')).toEqual({ years, months, days })
      }),
      { numRuns: 5_000 },
    )
  })

  it('passes a limit exactly on the day that addYears names', () => {
    fc.assert(fc.property(
      dates,
      fc.integer({ min: 0, max: 60 }),
      fc.constantFrom('feb-28' as const, 'mar-01' as const),
      (born, years, leapDay) => {
        const birthday = addYears(born, years, leapDay)
        expect(ageOn(born, birthday, leapDay)?.years).toBe(years)
        if (years > 0) expect(ageOn(born, addDays(birthday, -1), leapDay)?.years).toBe(years - 1)
      },
    ))
  })

  it('knows the earliest and the latest day of birth that fit, also about leap days', () => {
    // Around the end of February, where the conventions part, more often than chance would have it.
    const near = fc.tuple(fc.integer({ min: 1980, max: 2060 }), fc.integer({ min: -3, max: 3 })).map(([year, days]) =>
      addDays(`${year}-03-01`, days)
    )
    fc.assert(
      fc.property(
        fc.oneof(dates, near),
        fc.integer({ min: 0, max: 90 }),
        fc.constantFrom('feb-28' as const, 'mar-01' as const),
        (on, years, leapDay) => {
          const exceeds = (born: string) => {
            const age = ageOn(born, on, leapDay)
            return age !== null && (age.years > years || (age.years === years && age.months + age.days > 0))
          }
          const earliest = earliestBirth(on, years, leapDay)
          expect([exceeds(earliest), exceeds(addDays(earliest, -1))]).toEqual([false, true])
          const latest = latestBirth(on, years, leapDay)
          expect(ageOn(latest, on, leapDay)?.years).toBe(years)
          expect(ageOn(addDays(latest, 1), on, leapDay)?.years ?? -1).toBe(years - 1)
        },
      ),
      { numRuns: 2000 },
    )
  })

  it('numbers the days as Date.UTC does', () => {
    fc.assert(fc.property(dates, (date) => {
      expect(dayNumber(date)).toBe(Date.parse(`${date}T00:00:00Z`) / 86_400_000)
    }))
  })

  it('counts days as Temporal does', () => {
    fc.assert(fc.property(dates, dates, (a, b) => {
      expect(daysBetween(a, b)).toBe(Temporal.PlainDate.from(a).until(b, { largestUnit: 'days' }).days)
      expect(addDays(a, daysBetween(a, b))).toBe(b)
    }))
  })
})
