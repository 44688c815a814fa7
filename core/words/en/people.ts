import type { StaffRole } from '../../access/principal'

/** Roles of staff: their titles, and what each is for. */
export const roleWords: Record<StaffRole, { title: string, says: string }> = {
  administrator: { title: 'Administrator', says: 'accounts of staff, and what the office has decided for itself' },
  officer: { title: 'Registration officer', says: 'the whole flow: notice, intake, scrutiny, centres, cards' },
  scrutineer: { title: 'Scrutineer', says: 'looks at applications; accepts, returns, refuses' },
  accounts: { title: 'Accounts officer', says: 'fees and payments; no photographs and papers' },
  superintendent: { title: 'Centre superintendent', says: 'the venues named below' },
  auditor: { title: 'Auditor', says: 'reads everything, changes nothing' },
}
