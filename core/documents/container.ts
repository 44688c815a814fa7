/** Why a PDF is not taken; the words stand in `core/words`. */
export type DocumentRefusal = 'pdf-broken-off' | 'pdf-broken' | 'pdf-secret' | 'pdf-program' | 'pdf-nested' | 'pdf-costly' | 'pdf-empty'

const head = [...'%PDF-'].map(sign => sign.charCodeAt(0))
/** How far into a file readers look for its head (ISO 32000-1, annex H, implementation note 13; from memory). */
const headWithin = 1024
// What begins as a picture is one, whatever a comment in it says: nothing may be two kinds of file at once.
const pictureSigns = [[0xff, 0xd8, 0xff], [0x89, 0x50, 0x4e, 0x47], [0x47, 0x49, 0x46, 0x38], [0x52, 0x49, 0x46, 0x46], [0x42, 0x4d], [0x49,
  0x49, 0x2a, 0], [0x4d, 0x4d, 0, 0x2a]]

/**
 * Whether bytes claim to be a PDF: its head stands at their beginning (ISO 32000-2, 7.5.2), or not far behind it. A file's name and
 * declared type are never asked.
 */
export function isPdf(bytes: Uint8Array): boolean {
  return headOfPdf(bytes) !== null
}

/** Where the head of a PDF begins, counted in bytes from the beginning; null for another file. */
export function headOfPdf(bytes: Uint8Array): number | null {
  if (pictureSigns.some(signs => signs.every((sign, i) => bytes[i] === sign))) return null
  for (let at = 0; at < Math.min(headWithin, bytes.length - head.length + 1); at += 1) {
    if (head.every((sign, i) => bytes[at + i] === sign)) return at
  }
  return null
}

/** Whether the mark that ends a PDF (ISO 32000-2, 7.5.5) stands near its end: one that was cut short has none. */
export function hasPdfEnd(bytes: Uint8Array): boolean {
  return new TextDecoder('latin1').decode(bytes.subarray(-2048)).includes('%%EOF')
}
