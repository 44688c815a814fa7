import { exponentOf } from '../core/bank/statement'

/** Statements made up, in the three formats: what the simulated bank gives out, and what tests and measurements read. */
export interface MadeLine {
  on: string
  amount: number
  reference?: string
  text: string
  name: string | null
  account?: string
}
export interface MadeStatement {
  account: string
  currency: string
  identification: string
  sequence: number
  opening: number
  lines: readonly MadeLine[]
}

const closingOf = ({ opening, lines }: MadeStatement) => lines.reduce((sum, line) => sum + line.amount, opening)

function spelled(amount: number, currency: string, mark: '.' | ','): string {
  const exponent = exponentOf(currency)
  const digits = String(Math.abs(amount)).padStart(exponent + 1, '0')
  return exponent === 0 ? digits : `${digits.slice(0, -exponent)}${mark}${digits.slice(-exponent)}`
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

/** ISO 20022 camt.053.001.08, with the elements that a statement must have. */
export function camtFile(made: MadeStatement): string {
  const { account, currency, identification, sequence, lines } = made
  const first = lines[0]?.on ?? '2027-01-01'
  const last = lines.at(-1)?.on ?? first
  const amount = (value: number) =>
    `<Amt Ccy="${currency}">${spelled(value, currency, '.')}</Amt><CdtDbtInd>${value < 0 ? 'DBIT' : 'CRDT'}</CdtDbtInd>`
  const balance = (code: string, value: number, on: string) =>
    `<Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp>${amount(value)}<Dt><Dt>${on}</Dt></Dt></Bal>`
  const entry = (line: MadeLine) => {
    const party = line.amount < 0 ? 'Cdtr' : 'Dbtr'
    const parties = [line.name === null ? '' : `<${party}><Pty><Nm>${escaped(line.name)}</Nm></Pty></${party}>`,
      line.account === undefined ? '' : `<${party}Acct><Id><IBAN>${line.account}</IBAN></Id></${party}Acct>`].join('')
    const told = `<RmtInf>${line.text === '' ? '' : `<Ustrd>${escaped(line.text)}</Ustrd>`}${
      line.reference === undefined ? '' : `<Strd><CdtrRefInf><Ref>${line.reference}</Ref></CdtrRefInf></Strd>`
    }</RmtInf>`
    return `<Ntry>${
      amount(line.amount)
    }<Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>${line.on}</Dt></BookgDt><ValDt><Dt>${line.on}</Dt></ValDt><BkTxCd/><NtryDtls><TxDtls>${
      parties === '' ? '' : `<RltdPties>${parties}</RltdPties>`
    }${told}</TxDtls></NtryDtls></Ntry>`
  }
  return `<?xml version="1.0" encoding="UTF-8"?>
<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><GrpHdr><MsgId>${identification}</MsgId><CreDtTm>${last}T18:00:00Z</CreDtTm></GrpHdr><Stmt><Id>${identification}</Id><LglSeqNb>${sequence}</LglSeqNb><Acct><Id><IBAN>${account}</IBAN></Id><Ccy>${currency}</Ccy></Acct>
${balance('OPBD', made.opening, first)}${balance('CLBD', closingOf(made), last)}
${lines.map(entry).join('\n')}
</Stmt></BkToCstmrStmt></Document>
`
}

// SWIFT's character set x has no accents.
const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').replace(/[^A-Za-z0-9/\-?:().,'+ ]/g, ' ')
const shortDay = (day: string) => day.slice(2).replaceAll('-', '')
const inPieces = (text: string, size: number) => text.match(new RegExp(`.{1,${size}}`, 'g')) ?? []

/** SWIFT MT940, with field 86 in numbered parts. */
export function mt940File(made: MadeStatement): string {
  const { account, currency, identification, sequence, opening, lines } = made
  const first = lines[0]?.on ?? '2027-01-01'
  const balance = (tag: string, value: number, on: string) =>
    `:${tag}:${value < 0 ? 'D' : 'C'}${shortDay(on)}${currency}${spelled(value, currency, ',')}`
  const entry = (line: MadeLine) => {
    const parts = [...inPieces(plain(line.text).replaceAll('?', ' '), 27).slice(0, 10).map((text, i) => `?${20 + i}${text}`),
      ...inPieces(plain(line.name ?? ''), 27).slice(0, 2).map((text, i) => `?${32 + i}${text}`)]
    return `:61:${shortDay(line.on)}${shortDay(line.on).slice(2)}${line.amount < 0 ? 'D' : 'C'}${spelled(line.amount, currency, ',')}NTRF${
      line.reference ?? 'NONREF'
    }\r\n:86:${inPieces(`166?00TRANSFER${parts.join('')}`, 65).join('\r\n')}`
  }
  return [`:20:${identification}`, `:25:${account}`, `:28C:${sequence}/1`, balance('60F', opening, first), ...lines.map(entry),
    balance('62F', closingOf(made), lines.at(-1)?.on ?? first), '-', ''].join('\r\n')
}

/** A CSV as a bank may give it out: lines about the account first, semicolons, days and decimals as on the continent. */
export function csvFile({ account, currency, opening, lines, newestFirst = false }: MadeStatement & { newestFirst?: boolean }): string {
  const day = (on: string) => on.split('-').reverse().join('.')
  const cell = (text: string) => /[;"\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
  let balance = opening
  const rows = lines.map((line) => {
    balance += line.amount
    const money = (amount: number) => (amount < 0 ? '-' : '') + spelled(amount, currency, ',').replace(/\B(?=(\d{3})+,)/g, '.')
    return [day(line.on), line.amount > 0 ? money(line.amount) : '', line.amount > 0 ? '' : money(-line.amount), line.reference ?? '',
      line.text, line.name ?? '', money(balance)].map(cell).join(';')
  })
  return [`Account;${account}`, '', 'Booked;Credit;Debit;Reference;Text;Payer;Balance', ...newestFirst ? rows.reverse() : rows, '']
    .join('\n')
}
