/** Why a PDF is not taken; the words stand in `core/words`. */
export type DocumentRefusal = 'pdf-broken-off' | 'pdf-broken' | 'pdf-secret' | 'pdf-program' | 'pdf-empty'

/** Whether bytes claim to be a PDF: ISO 32000-2, 7.5.2, has them begin so. A file's name and declared type are never asked. */
export function isPdf(bytes: Uint8Array): boolean {
  return '%PDF-'.split('').every((sign, i) => bytes[i] === sign.charCodeAt(0))
}

/** Whether the mark that ends a PDF (ISO 32000-2, 7.5.5) stands near its end: one that was cut short has none. */
export function hasPdfEnd(bytes: Uint8Array): boolean {
  return new TextDecoder('latin1').decode(bytes.subarray(-2048)).includes('%%EOF')
}
