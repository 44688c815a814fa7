import { setResponseHeader, type H3Event } from 'h3'

/** A PDF to be shown in the browser. Its reader is a page of the browser's own, which the policy for data would keep from being shown. */
export function sendPdf(event: H3Event, { name, pdf }: { name: string, pdf: Buffer }): Buffer {
  setResponseHeader(event, 'content-security-policy', "script-src 'none'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'")
  setResponseHeader(event, 'content-type', 'application/pdf')
  setResponseHeader(event, 'content-disposition', `inline; filename="${name}"`)
  return pdf
}
