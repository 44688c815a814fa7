import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { afterQuiet } from './quiet'

const zone = { name: 'Ilmara time', utcOffsetMinutes: -75 }
const night = { from: '21:00', to: '07:30' }
const at = (text: string) => new Date(`${text}-01:15`)

describe('hours without messages', () => {
  it.each([
    ['2026-11-27T20:59:59', '2026-11-27T20:59:59'],
    ['2026-11-27T21:00:00', '2026-11-28T07:30:00'],
    ['2026-11-28T00:30:00', '2026-11-28T07:30:00'],
    ['2026-11-28T07:29:59', '2026-11-28T07:30:00'],
    ['2026-11-28T07:30:00', '2026-11-28T07:30:00'],
  ])('over midnight: %s', (asked, sent) => {
    expect(afterQuiet(at(asked), zone, night)).toEqual(at(sent))
  })

  it('within a day, and none', () => {
    expect(afterQuiet(at('2026-11-27T12:30:00'), zone, { from: '12:00', to: '14:00' })).toEqual(at('2026-11-27T14:00:00'))
    expect(afterQuiet(at('2026-11-27T23:30:00'), zone, undefined)).toEqual(at('2026-11-27T23:30:00'))
  })

  it('never bring a message forward, hold it for less than a day, and never hold it twice', () => {
    const time = fc.tuple(fc.nat(23), fc.nat(59)).map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`)
    fc.assert(fc.property(
      fc.date({ min: new Date('2026-01-01'), max: new Date('2027-01-01'), noInvalidDate: true }),
      time,
      time,
      fc.integer({ min: -840, max: 840 }),
      (asked, from, to, utcOffsetMinutes) => {
        fc.pre(from !== to)
        const [quiet, there] = [{ from, to }, { name: '', utcOffsetMinutes }]
        const sent = afterQuiet(asked, there, quiet)
        expect(sent.getTime() - asked.getTime()).toBeGreaterThanOrEqual(0)
        expect(sent.getTime() - asked.getTime()).toBeLessThan(86_400_000)
        expect(afterQuiet(sent, there, quiet)).toEqual(sent)
      },
    ))
  })
})
