/**
 * Everybody and everything that acts: a member of staff, a candidate or the person who acts for one, an institution, a device at a
 * gate, the product itself, and anybody who has not signed in. Its id lasts and is what the database keeps; its name is looked up when
 * shown.
 */
export const principalKinds = ['staff', 'candidate', 'institution', 'device', 'product', 'anybody'] as const
export type PrincipalKind = typeof principalKinds[number]

/** Roles of staff. An administrator looks after accounts and sees no application by that role alone. */
export const staffRoles = ['administrator', 'officer', 'scrutineer', 'accounts', 'superintendent', 'auditor'] as const
export type StaffRole = typeof staffRoles[number]

export interface Principal {
  id: string
  kind: PrincipalKind
  /** As people read it; two principals may have the same. */
  name: string
  /** Of staff; empty for all others. */
  roles: readonly StaffRole[]
  /** A role requires a second factor that is not set up yet: until it is, only the own account is open. */
  needsFactor?: true
  /** Venues that a superintendent looks after, by their ids. */
  venues: readonly string[]
}

/** The product itself: jobs, timers and messages of the payment gateway act as it. */
export const product: Principal = {
  id: '00000000-0000-4000-8000-000000000001',
  kind: 'product',
  name: 'Lucid Roster',
  roles: [],
  venues: [],
}
/** Somebody who has not signed in. */
export const anybody: Principal = { id: '00000000-0000-4000-8000-000000000002', kind: 'anybody', name: 'Anybody', roles: [], venues: [] }
