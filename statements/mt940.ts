import { exponentOf, readAmount, type Balance, type Statement, type StatementLine } from '../core/bank/statement'
import { parseCalendarDate } from '../core/calendar/calendar-date'
import { refusal } from '../shared/refusal'

/** One field: its tag, its text with the lines below it, and the line of the file where it begins. */
interface Field {
  tag: string
  lines: string[]
  line: number
}

/**
 * Statements of SWIFT MT940 (Customer Statement Message; structure from memory of the published standard). Pages of one statement are put
 * together.
 */
export function readMt940(text: string): Statement[] {
  const statements: Statement[] = []
  let [at, isOpen]: [Statement | null, boolean] = [null, false]
  for (const field of fieldsOf(text)) {
    if (field.tag === '20') {
      at = {
        format: 'MT940',
        account: '',
        identification: first(field),
        sequence: null,
        currency: '',
        opening: null,
        closing: null,
        lines: [],
      }
      isOpen = true
    }
    if (!at) {
      if (statements.length > 0) continue
      throw broken(field, 'order')
    }
    if (take(at, field, statements)) [at, isOpen] = [null, false]
  }
  // A file that ends within a statement was cut.
  if (isOpen || statements.length === 0) throw refusal('statement.broken', { line: text.split('\n').length, what: 'cut' })
  return statements
}

const first = (field: Field) => field.lines[0]?.trim() ?? ''
const broken = (field: Field, what: string) => refusal('statement.broken', { line: field.line, what })

function fieldsOf(text: string): Field[] {
  const fields: Field[] = []
  let isWithin = false
  for (const [index, raw] of text.split(/\r\n|\n|\r/).entries()) {
    // Blocks of the envelope stand before and behind the message.
    // A blank at the end of a full line is one of the text.
    const line = raw.replace(/^.*\{4:/, '')
    const tag = /^:(\d\d[A-Z]?):(.*)$/.exec(line)
    if (tag?.[1]) {
      fields.push({ tag: tag[1], lines: [tag[2] ?? ''], line: index + 1 })
      isWithin = true
    } else if (line.trimEnd() === '-' || line.startsWith('-}')) isWithin = false
    else if (isWithin && line.trim() !== '') fields.at(-1)?.lines.push(line)
  }
  return fields
}

/**
 * Takes one field into a statement; true when it was the last. What stands behind the closing balance (available balances) counts for
 * nothing.
 */
function take(at: Statement, field: Field, statements: Statement[]): boolean {
  const { tag } = field
  // A currency may stand behind the number of the account.
  if (tag === '25') at.account = (first(field).split('/').at(-1) ?? '').replace(/(?<=\d)[A-Z]{3}$/, '')
  else if (tag === '28C' || tag === '28') at.sequence = Number(first(field).split('/')[0]) || null
  else if (tag === '60F' || tag === '60M') {
    const { balance, currency } = balanceOf(field)
    at.currency = currency
    if (tag === '60F' || at.opening === null) at.opening = balance
  } else if (tag === '61') at.lines.push(lineOf(at, field))
  else if (tag === '86') addInformation(at, field)
  else if (tag === '62F' || tag === '62M') {
    const { balance, currency } = balanceOf(field)
    if (currency !== at.currency) throw refusal('statement.mixed', { line: field.line, currency, other: at.currency })
    at.closing = balance
    closePage(at, statements)
    return true
  }
  return false
}

// Pages of one statement have its number; each begins with the balance that the one before ended with.
function closePage(at: Statement, statements: Statement[]): void {
  const before = statements.at(-1)
  if (
    before && before.account === at.account && before.sequence === at.sequence && before.sequence !== null
    && before.closing?.amount === at.opening?.amount
  ) {
    before.lines.push(...at.lines)
    before.closing = at.closing
  } else statements.push(at)
}

function balanceOf(field: Field): { balance: Balance, currency: string } {
  // The comma must be there: an amount without one was cut.
  const match = /^([CD])(\d{6})([A-Z]{3})(\d+,\d*)$/.exec(first(field))
  const [, sign, date = '', currency = '', text = ''] = match ?? []
  const amount = readAmount(text, ',', exponentOf(currency))
  const on = dayOf(date)
  if (amount === null) throw refusal('statement.amount', { line: field.line, text: first(field).slice(0, 40) })
  if (on === null) throw refusal('statement.date', { line: field.line, text: date })
  return { balance: { on, amount: sign === 'D' ? -amount : amount }, currency }
}

/** YYMMDD; two digits of a year from 80 on are of the last century (common practice, no source). */
function dayOf(text: string): string | null {
  const day = `${Number(text.slice(0, 2)) >= 80 ? 19 : 20}${text.slice(0, 2)}-${text.slice(2, 4)}-${text.slice(4, 6)}`
  return parseCalendarDate(day) ? day : null
}

function lineOf(at: Statement, field: Field): StatementLine {
  const match = /^(\d{6})(\d{4})?(R?[CD])[A-Z]?([\d,]+)([NSF][A-Z0-9]{3})(.*)$/.exec(first(field))
  const [, value = '', booked, sign = '', text = '', , references = ''] = match ?? []
  if (!match) throw broken(field, 'line')
  const amount = readAmount(text, ',', exponentOf(at.currency))
  const valueOn = dayOf(value)
  const bookedOn = booked ? bookedDay(valueOn, booked) : valueOn
  if (amount === null) throw refusal('statement.amount', { line: field.line, text: text.slice(0, 40) })
  if (bookedOn === null) throw refusal('statement.date', { line: field.line, text: value + (booked ?? '') })
  const [own = '', bank = ''] = references.split('//')
  // A credit that is taken back leaves the account, and the other way round.
  const isIn = sign === 'C' || sign === 'RD'
  const reference = own.trim() === '' || own.trim() === 'NONREF' ? null : own.trim()
  return {
    bookedOn,
    valueOn,
    amount: isIn ? amount : -amount,
    reference,
    text: field.lines.slice(1).join(' '),
    name: null,
    account: null,
    bankReference: bank.trim() || null,
    isReversal: sign.startsWith('R'),
  }
}

// The day of booking has no year: the one that lies nearest to the day of value.
function bookedDay(valueOn: string | null, monthAndDay: string): string | null {
  if (valueOn === null) return null
  const year = Number(valueOn.slice(0, 4))
  const days = [year - 1, year, year + 1].map(one => `${one}-${monthAndDay.slice(0, 2)}-${monthAndDay.slice(2)}`).filter(day =>
    parseCalendarDate(day)
  )
  const far = (day: string) => Math.abs(Date.parse(day) - Date.parse(valueOn))
  return days.sort((a, b) => far(a) - far(b))[0] ?? null
}

/** Field 86 in one of three ways of common practice: ?20 to ?33, /CODE/ text, or as free text. */
function addInformation(at: Statement, field: Field): void {
  const line = at.lines.at(-1)
  if (!line) return
  const whole = joined(field.lines, 65)
  const parts = [...whole.matchAll(/\?(\d\d)([^?]*)/g)].map(match => ({ code: Number(match[1]), text: match[2] ?? '' }))
  if (/^\d{3}\?/.test(whole) && parts.length > 0) {
    const of = (from: number, to: number) => parts.filter(({ code }) => code >= from && code <= to).map(({ text }) => text)
    line.text = [line.text, joined([...of(20, 29), ...of(60, 63)], 27)].filter(text => text !== '').join(' ')
    line.name = of(32, 33).join('').trim() || null
    line.account = of(31, 31)[0]?.trim() ?? null
    return
  }
  const slashed = new Map([...whole.matchAll(/\/([A-Z]{3,4})\/([^/]*)/g)].map(match => [match[1] ?? '', (match[2] ?? '').trim()]))
  line.name = slashed.get('NAME') ?? line.name
  line.account = slashed.get('IBAN') ?? line.account
  line.text = [line.text, whole].filter(text => text !== '').join(' ')
}

// A line that is full was broken by the bank, not by whoever wrote it.
function joined(lines: readonly string[], full: number): string {
  return lines.reduce((text, line, i) => i === 0 ? line : text + ((lines[i - 1]?.length ?? 0) >= full ? '' : ' ') + line, '').trim()
}
