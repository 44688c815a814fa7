import { eq } from 'drizzle-orm'
import { z } from 'zod'
import { readAddress, type Channel } from '../../../core/identity/address'
import { readNumber, type Telephones } from '../../../core/identity/telephone'
import { refusal } from '../../../shared/refusal'
import { telephonesSchema } from '../../../shared/people'
import type { Executor } from '../../database/client'
import { officeSetting } from '../../database/schema'

/** Name of the setting by which an office says what telephone numbers it knows. */
export const telephones = 'telephones'
const kept = z.object({ value: telephonesSchema })

/** What the office says of telephone numbers; nothing before it has said anything. */
export async function telephonesOf(tx: Executor): Promise<Telephones> {
  const [row] = await tx.select({ value: officeSetting.value }).from(officeSetting).where(eq(officeSetting.name, telephones))
  return row ? kept.parse(row).value : { country: '', ranges: [] }
}

/** The form in which an address would be kept, to look it up by; null for what is none. */
export async function lookedUp(tx: Executor, channel: Channel, typed: string): Promise<string | null> {
  return channel === 'email' ? readAddress(channel, typed) : readNumber(typed, await telephonesOf(tx)).number ?? null
}

/**
 * An address in the form in which it is kept. @throws ProblemError `code.address` for what is none, `code.number` for a number that no
 * telephone with short messages has, saying why.
 */
export async function checkedAddress(tx: Executor, channel: Channel, typed: string): Promise<string> {
  const value = typed.slice(0, 60)
  if (channel === 'email') {
    const address = readAddress(channel, typed)
    if (address === null) throw refusal('code.address', { channel, value })
    return address
  }
  const office = await telephonesOf(tx)
  const { number, fault } = readNumber(typed, office)
  if (number !== undefined) return number
  if (fault === 'none') throw refusal('code.address', { channel, value })
  throw refusal('code.number', {
    value,
    fault: fault.replaceAll('-', '_'),
    hasRanges: String(office.ranges.length > 0),
    ranges: office.ranges.map(range => `${range.begins}… (${range.digits})`).join(', '),
  })
}
