import type { barredPerson } from '../../database/schema'
import type { BarredView } from '../../../shared/barred'
import type { NameOf } from '../people/names'

export type BarredRow = typeof barredPerson.$inferSelect

export const barredView = (
  { id, name, bornOn, identityNumber, reason, until, by, at, liftedBy, liftedAt, liftReason }: BarredRow,
  nameOf: NameOf,
): BarredView => ({
  id,
  name,
  bornOn,
  identityNumber,
  reason,
  until,
  by: nameOf(by),
  at: at.toISOString(),
  lifted: liftedAt && { by: nameOf(liftedBy), at: liftedAt.toISOString(), reason: liftReason ?? '' },
})
