import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readDates, readMonth } from './read-date'

describe('a date as it is typed', () => {
  it.each([
    ['29/02/2004', ['2004-02-29']],
    ['29022004', ['2004-02-29']],
    ['29 Feb 2004', ['2004-02-29']],
    ['29.2.2004', ['2004-02-29']],
    ['2004-02-29', ['2004-02-29']],
    ['February 29, 2004', ['2004-02-29']],
    ['20040229', ['2004-02-29']],
    ['29-2-2004', ['2004-02-29']],
    [' 1 january 1999 ', ['1999-01-01']],
    ['29 sept 2004', ['2004-09-29']],
    ['٢٩/٠٢/٢٠٠٤', ['2004-02-29']],
    ['२९.२.२००४', ['2004-02-29']],
    // Day and month could change places: somebody is asked.
    ['03/04/2004', ['2004-04-03', '2004-03-04']],
    ['05052005', ['2005-05-05']],
    ['1.2.2000', ['2000-02-01', '2000-01-02']],
    ['30/02/2004', []],
    ['29/02/2003', []],
    ['31.4.2004', []],
    ['29 Foo 2004', []],
    ['29/02/04', []],
    ['', []],
    ['soon', []],
    ['12', []],
    ['2004', []],
    ['1/2/3/2004', []],
    ['29 Feb 2004 x', []],
  ])('%s', (text, wanted) => {
    expect(readDates(text)).toEqual(wanted)
  })

  it('finds every day again in each order in which it may be typed', () => {
    const two = (n: number) => String(n).padStart(2, '0')
    fc.assert(fc.property(fc.date({ min: new Date('1900-01-01'), max: new Date('2099-12-31'), noInvalidDate: true }), (date) => {
      const [y, m, d] = [date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate()]
      const iso = `${y}-${two(m)}-${two(d)}`
      for (
        const text of [iso, `${d}/${m}/${y}`, `${two(d)}.${two(m)}.${y}`, `${m}/${d}/${y}`, `${two(d)}${two(m)}${y}`, `${y}/${m}/${d}`]
      ) expect(readDates(text)).toContain(iso)
    }))
  })
})

describe('a month as it is typed', () => {
  it.each(['2004-02', '02/2004', '2.2004', '022004', '200402', 'Feb 2004', '2004 February', 'february, 2004', '29/02/2004', '٠٢/٢٠٠٤'])(
    '%s',
    text => expect(readMonth(text)).toBe('2004-02-01'),
  )
  it.each(['3/4/2004', '13/2004', '2004', 'Feb', '', 'x 2004', '30/02/2004', '1 2 3 4'])(
    '%s is none, or could be two',
    text => expect(readMonth(text)).toBeNull(),
  )
})
