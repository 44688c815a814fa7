import { firstOfMonth, isoDaysInMonth, type CalendarDate } from './calendar-date'

const monthNames = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november',
  'december']
const earliestYear = 1800
const latestYear = 2199

/**
 * The days that a typed text may mean, in any usual order: 2004-02-29, 29/02/2004, 29.2.2004, 29022004, 29 Feb 2004, February 29, 2004.
 * None when it is no day, two when day and month could change places: then somebody has to say which is meant. Years have four digits.
 */
export function readDates(text: string): CalendarDate[] {
  const plain = asciiDigits(text.normalize('NFKC')).trim().toLowerCase()
  const named = readNamedMonth(plain)
  if (named) return named
  const parts = plain.match(/\d+/g) ?? []
  if (plain.replace(/[\d\s./,-]/g, '') !== '') return []
  if (parts.length === 1 && parts[0]?.length === 8) return readEightDigits(parts[0])
  if (parts.length !== 3) return []
  const [a = '', b = '', c = ''] = parts
  if (a.length === 4) return days([[a, b, c]])
  return c.length === 4 ? days([[c, b, a], [c, a, b]]) : []
}

/**
 * The first day of the month that a typed text means: 2004-02, 02/2004, 2.2004, 022004, Feb 2004, 2004 February, or a day in it. None when
 * it is no month.
 */
export function readMonth(text: string): CalendarDate | null {
  const plain = asciiDigits(text.normalize('NFKC')).trim().toLowerCase()
  const [first, other] = [...new Set(daysOfMonth(plain).map(firstOfMonth))]
  return first && !other ? first : null
}

function daysOfMonth(plain: string): CalendarDate[] {
  const [a = '', b = '', ...more] = plain.match(/\d+/g) ?? []
  if (/^\d{6}$/.test(plain)) return days([[a.slice(2), a.slice(0, 2), '1'], [a.slice(0, 4), a.slice(4), '1']])
  if (more.length === 0 && b && /^[\d\s./,-]+$/.test(plain)) return days([a.length === 4 ? [a, b, '1'] : [b, a, '1']])
  return readDates(b ? plain : `1 ${plain}`)
}

function readEightDigits(text: string): CalendarDate[] {
  const [first, second, year] = [text.slice(0, 2), text.slice(2, 4), text.slice(4)]
  return days([[text.slice(0, 4), text.slice(4, 6), text.slice(6)], [year, second, first], [year, first, second]])
}

function readNamedMonth(text: string): CalendarDate[] | null {
  const [word, more] = text.match(/\p{L}+/gu) ?? []
  const month = word && word.length >= 3
    ? monthNames.findIndex(name => name.startsWith(word) || (word === 'sept' && name === 'september')) + 1
    : 0
  const numbers = text.match(/\d+/g) ?? []
  if (!word || more || month === 0 || numbers.length !== 2 || text.replace(/[\d\s./,-]|\p{L}/gu, '') !== '') return null
  const [a = '', b = ''] = numbers
  return a.length === 4 ? days([[a, String(month), b]]) : b.length === 4 ? days([[b, String(month), a]]) : null
}

/** The readings that exist, each once. */
function days(readings: [year: string, month: string, day: string][]): CalendarDate[] {
  const found = readings.flatMap(([y, m, d]) => {
    const [year, month, day] = [Number(y), Number(m), Number(d)]
    if (
      m.length > 2 || d.length > 2 || year < earliestYear || year > latestYear || month < 1 || month > 12 || day < 1
      || day > isoDaysInMonth(year, month)
    ) return []
    return [`${y}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`]
  })
  return [...new Set(found)]
}

// Decimal digits of a script lie side by side in Unicode, from zero on.
function asciiDigits(text: string): string {
  return text.replace(/\p{Nd}/gu, (digit) => {
    const code = digit.codePointAt(0) ?? 0
    if (code < 128) return digit
    let run = 0
    while (/\p{Nd}/u.test(String.fromCodePoint(code - run - 1))) run += 1
    return String(run % 10)
  })
}
