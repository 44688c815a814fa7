import { exponentOf } from '../core/bank/statement'
import { isIban } from '../core/bank/check-digits'

/** One payment of a file: `reference` comes back on the statement. */
export interface Payment {
  reference: string
  amount: number
  payee: string
  number: string
  text: string
}
export interface PaymentOrder {
  reference: string
  at: Date
  on: string
  currency: string
  payer: { holder: string, number: string, bic: string }
  payments: readonly Payment[]
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
/** Names may have 140 signs, references 35. */
const cut = (text: string, most: number) => escaped([...text].slice(0, most).join(''))

/**
 * Orders for the bank: ISO 20022 pain.001.001.09 (CustomerCreditTransferInitiation), one batch, each payment under its own reference;
 * number and sum are said twice, so that a file that was cut is noticed.
 */
export function paymentOrderFile({ reference, at, on, currency, payer, payments }: PaymentOrder): string {
  const spelled = (amount: number) => (amount / 10 ** exponentOf(currency)).toFixed(exponentOf(currency))
  const sum = spelled(payments.reduce((total, payment) => total + payment.amount, 0))
  const account = (number: string) => `<Id>${isIban(number) ? `<IBAN>${number}</IBAN>` : `<Othr><Id>${cut(number, 34)}</Id></Othr>`}</Id>`
  const one = (payment: Payment) =>
    `<CdtTrfTxInf><PmtId><EndToEndId>${cut(payment.reference, 35)}</EndToEndId></PmtId><Amt><InstdAmt Ccy="${currency}">${
      spelled(payment.amount)
    }</InstdAmt></Amt>`
    + `<Cdtr><Nm>${cut(payment.payee, 140)}</Nm></Cdtr><CdtrAcct>${account(payment.number)}</CdtrAcct><RmtInf><Ustrd>${
      cut(payment.text, 140)
    }</Ustrd></RmtInf></CdtTrfTxInf>`
  return `<?xml version="1.0" encoding="UTF-8"?>
<Document xmlns="urn:iso:std:iso:20022:tech:xsd:pain.001.001.09"><CstmrCdtTrfInitn><GrpHdr><MsgId>${cut(reference, 35)}</MsgId><CreDtTm>${
    at.toISOString().slice(0, 19)
  }Z</CreDtTm><NbOfTxs>${payments.length}</NbOfTxs><CtrlSum>${sum}</CtrlSum><InitgPty><Nm>${cut(payer.holder, 140)}</Nm></InitgPty></GrpHdr>
<PmtInf><PmtInfId>${
    cut(reference, 35)
  }</PmtInfId><PmtMtd>TRF</PmtMtd><NbOfTxs>${payments.length}</NbOfTxs><CtrlSum>${sum}</CtrlSum><ReqdExctnDt><Dt>${on}</Dt></ReqdExctnDt><Dbtr><Nm>${
    cut(payer.holder, 140)
  }</Nm></Dbtr><DbtrAcct>${account(payer.number)}</DbtrAcct><DbtrAgt><FinInstnId>${
    payer.bic === '' ? '<Othr><Id>NOTPROVIDED</Id></Othr>' : `<BICFI>${payer.bic}</BICFI>`
  }</FinInstnId></DbtrAgt>
${payments.map(one).join('\n')}
</PmtInf></CstmrCdtTrfInitn></Document>
`
}
