import { isEmail } from './email'

/** Ways in which the office reaches people. */
export const channels = ['email', 'mobile'] as const
export type Channel = typeof channels[number]

/**
 * An address in the one form in which it is kept and compared; null when it is none. Of an e-mail address capitals do not tell two people
 * apart; of a number spaces, hyphens and brackets do not. A number has 6 to 15 digits (ITU-T E.164, section 6.1), with or without + before
 * them.
 */
export function readAddress(channel: Channel, text: string): string | null {
  const trimmed = text.trim().normalize('NFC')
  if (channel === 'email') return trimmed.length <= 254 && isEmail(trimmed) ? trimmed.toLowerCase() : null
  const digits = trimmed.replace(/[\s\-().]/g, '')
  return /^\+?\d{6,15}$/.test(digits) ? digits : null
}
