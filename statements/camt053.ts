import { setImmediate } from 'node:timers/promises'
import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { exponentOf, readAmount, type Statement, type StatementLine } from '../core/bank/statement'
import { parseCalendarDate } from '../core/calendar/calendar-date'
import { refusal } from '../shared/refusal'
import { textOf } from '../tables/read'

/**
 * Statements of ISO 20022, message camt.053 (BankToCustomerStatement), of any version: by the names of its elements, whose meaning has
 * stayed. Only booked entries count.
 */
export async function readCamt(bytes: Buffer): Promise<Statement[]> {
  const reader = new Camt()
  await reader.read(textOf(bytes, encodingOf(bytes)))
  return reader.statements
}

// XML 1.0, section 4.3.3: what is not said is UTF-8; a byte order mark says it first.
function encodingOf(bytes: Buffer): string | null {
  if ((bytes[0] === 0xFF && bytes[1] === 0xFE) || (bytes[0] === 0xFE && bytes[1] === 0xFF)) return null
  const named = /^[^>]*encoding\s*=\s*["']([\w.-]+)["']/.exec(bytes.subarray(0, 200).toString('latin1'))?.[1] ?? 'utf-8'
  try {
    return new TextDecoder(named).encoding
  } catch {
    throw refusal('statement.broken', { line: 1, what: 'encoding' })
  }
}

/** The texts of one element's descendants by their path below it. */
class Fields {
  readonly #values = new Map<string, string[]>()
  add(path: string, text: string): void {
    this.#values.set(path, [...this.#values.get(path) ?? [], text])
  }

  all(...paths: string[]): string[] {
    return paths.flatMap(path => this.#values.get(path) ?? [])
  }

  first(...paths: string[]): string | null {
    return this.all(...paths)[0] ?? null
  }
}

interface Detail {
  fields: Fields
}
interface Entry {
  fields: Fields
  details: Detail[]
}
/** A statement that is being read. */
interface Under {
  fields: Fields
  balances: Fields[]
  lines: StatementLine[]
  currency: string
}

class Camt {
  readonly statements: Statement[] = []
  readonly #parser = new SaxesParser()
  readonly #path: string[] = []
  #text = ''
  #currency = ''
  #statement: Under | null = null
  #entry: Entry | null = null
  #detail: Detail | null = null
  #balance: Fields | null = null

  constructor() {
    this.#parser.on('opentag', tag => this.#open(tag))
    this.#parser.on('closetag', tag => this.#close(nameOf(tag.name)))
    this.#parser.on('text', (text) => {
      this.#text += text
    })
    this.#parser.on('cdata', (text) => {
      this.#text += text
    })
    this.#parser.on('error', () => {
      throw refusal('statement.broken', { line: this.#parser.line, what: 'xml' })
    })
    // A document type may name entities that grow without end, or files of the machine.
    this.#parser.on('doctype', () => {
      throw refusal('statement.entities')
    })
  }

  async read(text: string): Promise<void> {
    const size = 1 << 18
    for (let from = 0; from < text.length; from += size) {
      this.#parser.write(text.slice(from, from + size))
      // Others are served between two pieces of a large file.
      await setImmediate()
    }
    this.#parser.close()
    if (this.statements.length === 0) throw refusal('statement.unknown')
  }

  #open({ name, attributes }: SaxesTagPlain): void {
    const local = nameOf(name)
    this.#path.push(local)
    this.#text = ''
    if (local === 'Stmt' && this.#parent() === 'BkToCstmrStmt') {
      this.#statement = { fields: new Fields(), balances: [], lines: [], currency: '' }
    } else if (local === 'Bal' && this.#parent() === 'Stmt') this.#balance = new Fields()
    else if (local === 'Ntry' && this.#parent() === 'Stmt') this.#entry = { fields: new Fields(), details: [] }
    else if (local === 'TxDtls' && this.#entry) this.#detail = { fields: new Fields() }
    if (attributes.Ccy !== undefined) this.#currency = attributes.Ccy
  }

  #parent = () => this.#path.at(-2) ?? ''

  #close(name: string): void {
    const text = this.#text.trim()
    if (text !== '') this.#keep(text)
    if (name === 'Stmt' && this.#statement) this.#endStatement(this.#statement)
    else if (name === 'Bal' && this.#balance) {
      this.#statement?.balances.push(this.#balance)
      this.#balance = null
    } else if (name === 'TxDtls' && this.#detail) {
      this.#entry?.details.push(this.#detail)
      this.#detail = null
    } else if (name === 'Ntry' && this.#entry && this.#statement) {
      this.#statement.lines.push(...this.#linesOf(this.#entry, this.#statement))
      this.#entry = null
    }
    this.#text = ''
    this.#path.pop()
  }

  #keep(text: string): void {
    const [fields, under] = this.#detail
      ? [this.#detail.fields, 'TxDtls']
      : this.#entry
      ? [this.#entry.fields, 'Ntry']
      : this.#balance
      ? [this.#balance, 'Bal']
      : [this.#statement?.fields, 'Stmt']
    const path = this.#path.slice(this.#path.lastIndexOf(under) + 1).join('/')
    fields?.add(path, text)
    if (this.#path.at(-1) === 'Amt') fields?.add(`${path}@`, this.#currency)
  }

  #linesOf({ fields, details }: Entry, statement: { currency: string }): StatementLine[] {
    const status = fields.first('Sts/Cd', 'Sts')
    if (status !== null && status !== 'BOOK') return []
    const whole = this.#amount(fields, 'Amt')
    const currency = fields.first('Amt@') ?? ''
    if (statement.currency === '') statement.currency = currency
    if (currency !== statement.currency) throw refusal('statement.mixed', { line: this.#parser.line, currency, other: statement.currency })
    const sign = fields.first('CdtDbtInd') === 'DBIT' ? -1 : 1
    const bookedOn = this.#day(fields, 'BookgDt/Dt', 'BookgDt/DtTm') ?? this.#day(fields, 'ValDt/Dt', 'ValDt/DtTm')
    if (bookedOn === null) throw refusal('statement.broken', { line: this.#parser.line, what: 'date' })
    const entry = {
      bookedOn,
      valueOn: this.#day(fields, 'ValDt/Dt', 'ValDt/DtTm'),
      isReversal: fields.first('RvslInd') === 'true',
      note: fields.first('AddtlNtryInf') ?? '',
      reference: fields.first('AcctSvcrRef'),
    }
    const amounts = details.map(detail => this.#detailAmount(detail, currency))
    // A batch is as many lines as it has payments, where it says what each is.
    const isBatch = details.length > 1 && amounts.every(amount => amount !== null)
      && amounts.reduce<number>((sum, amount) => sum + (amount ?? 0), 0) === whole
    if (isBatch) return details.map((detail, i) => lineOf(entry, [detail], sign, sign * (amounts[i] ?? 0)))
    return [lineOf(entry, details, sign, sign * whole)]
  }

  #detailAmount({ fields }: Detail, currency: string): number | null {
    for (const path of ['Amt', 'AmtDtls/TxAmt/Amt']) {
      if (fields.first(path) !== null && fields.first(`${path}@`) === currency) return this.#amount(fields, path)
    }
    return null
  }

  #amount(fields: Fields, path: string): number {
    const [text, currency] = [fields.first(path) ?? '', fields.first(`${path}@`) ?? '']
    const amount = readAmount(text, '.', exponentOf(currency))
    if (amount === null || amount < 0 || !/^[A-Z]{3}$/.test(currency)) {
      throw refusal('statement.amount', { line: this.#parser.line, text: `${text} ${currency}`.trim().slice(0, 40) })
    }
    return amount
  }

  #day(fields: Fields, ...paths: string[]): string | null {
    const text = fields.first(...paths)?.slice(0, 10) ?? null
    if (text !== null && parseCalendarDate(text) === null) {
      throw refusal('statement.date', { line: this.#parser.line, text: text.slice(0, 20) })
    }
    return text
  }

  #endStatement({ fields, balances, lines, currency }: Under): void {
    const balance = (...codes: string[]) => {
      const found = balances.find(one => codes.includes(one.first('Tp/CdOrPrtry/Cd') ?? ''))
      if (!found) return null
      const on = this.#day(found, 'Dt/Dt', 'Dt/DtTm')
      if (on === null) throw refusal('statement.broken', { line: this.#parser.line, what: 'date' })
      return { on, amount: this.#amount(found, 'Amt') * (found.first('CdtDbtInd') === 'DBIT' ? -1 : 1) }
    }
    const account = fields.first('Acct/Id/IBAN', 'Acct/Id/Othr/Id')
    if (account === null) throw refusal('statement.broken', { line: this.#parser.line, what: 'account' })
    const number = Number(fields.first('LglSeqNb', 'ElctrncSeqNb') ?? Number.NaN)
    this.statements.push({
      format: 'camt.053',
      account,
      identification: fields.first('Id') ?? '',
      sequence: Number.isSafeInteger(number) ? number : null,
      currency: fields.first('Acct/Ccy') ?? (currency || (balances[0]?.first('Amt@') ?? '')),
      opening: balance('OPBD', 'PRCD'),
      closing: balance('CLBD'),
      lines,
    })
    this.#statement = null
  }
}

const nameOf = (name: string) => name.slice(name.indexOf(':') + 1)

interface EntryFacts {
  bookedOn: string
  valueOn: string | null
  isReversal: boolean
  note: string
  reference: string | null
}

function lineOf(entry: EntryFacts, details: readonly Detail[], sign: number, amount: number): StatementLine {
  const all = (...paths: string[]) => details.flatMap(({ fields }) => fields.all(...paths))
  const party = sign > 0 ? 'Dbtr' : 'Cdtr'
  const endToEnd = all('Refs/EndToEndId').filter(text => text !== 'NOTPROVIDED')
  const told = all('RmtInf/Ustrd')
  return {
    bookedOn: entry.bookedOn,
    valueOn: entry.valueOn,
    amount,
    isReversal: entry.isReversal,
    reference: all('RmtInf/Strd/CdtrRefInf/Ref')[0] ?? null,
    text: [...told, ...endToEnd, ...told.length === 0 ? all('AddtlTxInf') : [], entry.note].filter(text => text !== '').join(' ').slice(
      0,
      2000,
    ),
    name:
      all(`RltdPties/${party}/Nm`, `RltdPties/${party}/Pty/Nm`, `RltdPties/Ultmt${party}/Nm`, `RltdPties/Ultmt${party}/Pty/Nm`)[0]?.slice(
        0,
        200,
      ) ?? null,
    account: all(`RltdPties/${party}Acct/Id/IBAN`, `RltdPties/${party}Acct/Id/Othr/Id`)[0]?.slice(0, 60) ?? null,
    bankReference: all('Refs/AcctSvcrRef')[0] ?? entry.reference,
  }
}
