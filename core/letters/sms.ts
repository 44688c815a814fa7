/**
 * How a text goes as short messages (3GPP TS 23.038, section 6.2.1: the 7-bit default alphabet and its extension table; TS 23.040, section
 * 9.2.3.24.1: several messages as one; from memory). A text with any other sign goes in UCS-2.
 */
export interface ShortMessages {
  alphabet: 'GSM-7' | 'UCS-2'
  /** Septets, or 16-bit units. */
  units: number
  messages: number
}

const basic =
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà'
// Each of these takes an escape before it.
const extended = '\f^{}\\[~]|€'
const alphabet = new Map([...[...basic].map(sign => [sign, 1] as const), ...[...extended].map(sign => [sign, 2] as const)])

/** What one message holds alone, and as one of several: then six octets of each say which it is. */
const room = { 'GSM-7': { alone: 160, joined: 153 }, 'UCS-2': { alone: 70, joined: 67 } } as const

/** The messages that a text takes; none for an empty one. No sign is cut in two, so that a message may stay a unit short. */
export function shortMessages(text: string): ShortMessages {
  const signs = [...text]
  const isPlain = signs.every(sign => alphabet.has(sign))
  const sizes = signs.map(sign => isPlain ? alphabet.get(sign) ?? 1 : sign.length)
  const units = sizes.reduce((sum, size) => sum + size, 0)
  const kind = isPlain ? 'GSM-7' : 'UCS-2'
  const { alone, joined } = room[kind]
  if (units <= alone) return { alphabet: kind, units, messages: units === 0 ? 0 : 1 }
  let [messages, used] = [1, 0]
  for (const size of sizes) {
    if (used + size > joined) {
      messages += 1
      used = 0
    }
    used += size
  }
  return { alphabet: kind, units, messages }
}
