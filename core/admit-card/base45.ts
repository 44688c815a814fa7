/** Base45 by RFC 9285: bytes as text that fits the alphanumeric mode of a QR code. */
const alphabet = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:'

export function base45Encode(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 2) {
    const last = i + 1 >= bytes.length
    let n = last ? bytes[i] ?? 0 : (bytes[i] ?? 0) * 256 + (bytes[i + 1] ?? 0)
    for (let k = 0; k < (last ? 2 : 3); k += 1) {
      text += alphabet.charAt(n % 45)
      n = Math.floor(n / 45)
    }
  }
  return text
}

/** Null when the text is not base45: a strange letter, a length of 1 modulo 3, or a group above its range. */
export function base45Decode(text: string): Uint8Array | null {
  if (text.length % 3 === 1) return null
  const bytes: number[] = []
  for (let i = 0; i < text.length; i += 3) {
    const digits = [...text.slice(i, i + 3)].map(c => alphabet.indexOf(c))
    if (digits.includes(-1)) return null
    const n = digits.reduce((sum, d, k) => sum + d * 45 ** k, 0)
    if (n > (digits.length === 3 ? 0xffff : 0xff)) return null
    if (digits.length === 3) bytes.push(n >> 8)
    bytes.push(n & 0xff)
  }
  return Uint8Array.from(bytes)
}
