/** Who may do what. Services ask; screens only hide what would be refused. */
export const roles = ['officer', 'scrutineer', 'accounts', 'superintendent', 'auditor'] as const
export type Role = typeof roles[number]

export type Permission =
  | 'read' | 'notice.amend' | 'intake.write' | 'fees.collect' | 'fees.reconcile' | 'scrutiny.decide' | 'centres.run' | 'centres.publish' | 'cards.issue' | 'records.read'

const table: Record<Permission, readonly Role[]> = {
  'read': ['officer', 'scrutineer', 'accounts', 'superintendent', 'auditor'],
  'notice.amend': ['officer'],
  'intake.write': ['officer'],
  'fees.collect': ['officer', 'accounts'],
  'fees.reconcile': ['officer', 'accounts'],
  'scrutiny.decide': ['officer', 'scrutineer'],
  'centres.run': ['officer'],
  'centres.publish': ['officer'],
  'cards.issue': ['officer'],
  'records.read': ['officer', 'auditor'],
}

export function permitted(held: readonly Role[], permission: Permission): boolean {
  return table[permission].some(role => held.includes(role))
}
