import { may } from '../../../core/access/permissions'
import { reasonLeast } from '../../../core/application/acts/judge'
import { correctionsOpen, rulesOfItems } from '../../../core/application/corrections'
import { isProof } from '../../../core/application/proof-slot'
import { refusal } from '../../../shared/refusal'
import type { Acting } from '../acts/carry-out'

/** Refuses what no rule opens to whoever asks; an officer may go beyond the rules with a reason. */
export function refuseClosedItems(
  { context, row, notice }: Acting,
  items: readonly string[],
  given: { reason?: string, outsideDates?: boolean },
): void {
  const rules = correctionsOpen(notice, context.principal, context.arrived())
  const [closed] = rulesOfItems(notice, rules, items).closed
  if (closed === undefined) return
  if (!may(context.principal, 'dates.override')) {
    const title = notice.sections.flatMap(s => s.questions).find(q => q.id === closed)?.label ?? closed
    throw refusal('correction.item-closed', { item: title, number: row.number, open: rules.map(rule => rule.title).join(', ') || '–' })
  }
  if (!given.outsideDates) throw refusal('dates.no-correction', { number: row.number }, { outsideDates: true })
}

/** Refuses a file that the correction may not put forward; the paper that a rule wants always may come. */
export function refuseClosedFile(acting: Acting, slot: string, given: { reason?: string, outsideDates?: boolean }): void {
  if (isProof(slot)) return
  refuseClosedItems(acting, [slot], given)
}

/** Refuses an officer who goes beyond the rules and does not say why. */
export function refuseUnreasoned(reason: string): void {
  if (reason.trim().length < reasonLeast) throw refusal('dates.reason', { least: reasonLeast })
}
