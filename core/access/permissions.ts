import type { Principal, StaffRole } from './principal'

/**
 * Who may do what: one table. A service asks before it can reach the database, a screen asks the same function and says why an act is
 * not the reader's.
 */

/** How a principal stands to what it asks for. `any` needs no relation. */
export type Relation = 'any' | 'own application' | 'own institution' | 'own venue'
type Grantee = StaffRole | 'candidate' | 'institution' | 'device' | 'product' | 'anybody'

/** The grantees of a permission, each with the relation that it needs. */
type Grants = Partial<Record<Grantee, Relation>>

const staffWho = (...roles: StaffRole[]): Grants => Object.fromEntries(roles.map(role => [role, 'any' as const]))
const owners: Grants = { candidate: 'own application', institution: 'own institution' }
const office = staffWho('officer', 'scrutineer', 'accounts', 'auditor')
const everybody: Grants = {
  ...staffWho('administrator', 'officer', 'scrutineer', 'accounts', 'superintendent', 'auditor'),
  candidate: 'any',
  institution: 'any',
  device: 'any',
  product: 'any',
  anybody: 'any',
}
const self: Grants = {
  ...staffWho('administrator', 'officer', 'scrutineer', 'accounts', 'superintendent', 'auditor'),
  candidate: 'any',
  institution: 'any',
}

const table = {
  'session.begin': everybody,
  'card-keys.read': everybody,
  /** Notices as the public reads them. */
  'examinations.read': everybody,
  'account.own': self,
  /** One's own applications and letters. */
  'own.read': { candidate: 'any' },
  /** What goes out of the house. */
  'letters.read': { officer: 'any' },
  'letters.announce': { officer: 'any' },
  /** To have read what one was told. */
  'letters.see': owners,
  /** To look at an application as its candidate does, and change nothing. */
  'applications.look-as': staffWho('officer', 'scrutineer', 'auditor'),
  'staff.manage': staffWho('administrator'),
  'cycles.read': { ...office, ...staffWho('administrator', 'superintendent'), product: 'any' },
  'notice.read': { ...office, superintendent: 'any', product: 'any' },
  'notice.amend': { officer: 'any', product: 'any' },
  'applications.read': { ...office, ...owners, product: 'any' },
  'applications.begin': { officer: 'any', candidate: 'any', institution: 'any', product: 'any' },
  'applications.write': { officer: 'any', ...owners, product: 'any' },
  /** Nominal rolls of institutions. */
  'rolls.enter': { officer: 'any', product: 'any' },
  /** To open for correction, to bring back after the close, to take out for somebody else. */
  'applications.override': { officer: 'any', product: 'any' },
  /** Paper forms that two people key. */
  'forms.key': { officer: 'any', product: 'any' },
  /** Photographs, signatures and papers. */
  'files.read': { ...staffWho('officer', 'scrutineer', 'auditor'), ...owners, product: 'any' },
  'roster.read': { ...office, product: 'any' },
  /** To act on everybody who matches a question at once. */
  'roster.act': { officer: 'any' },
  /** To hold the counts that are kept against a full count. */
  'roster.prove': { ...staffWho('officer', 'auditor'), product: 'any' },
  'fees.read': { ...staffWho('officer', 'accounts', 'auditor'), product: 'any' },
  'fees.collect': { ...staffWho('officer', 'accounts'), ...owners, product: 'any' },
  /** To waive a fee, or to write it off. */
  'fees.waive': staffWho('officer', 'accounts'),
  'fees.reconcile': { ...staffWho('officer', 'accounts'), product: 'any' },
  /** Accounts of the office at banks, statements, what explains them, and the day's closing. */
  'bank.read': { ...staffWho('officer', 'accounts', 'auditor'), product: 'any' },
  'bank.work': { accounts: 'any', product: 'any' },
  /** To say to which account what is owed back may go. */
  'refunds.account': { ...staffWho('officer', 'accounts'), ...owners, product: 'any' },
  /** To be the second person of a refund: never who proposed it. */
  'refunds.approve': staffWho('officer', 'accounts'),
  'scrutiny.read': { ...staffWho('officer', 'scrutineer', 'auditor'), product: 'any' },
  'scrutiny.decide': { ...staffWho('officer', 'scrutineer'), product: 'any' },
  /** To compare all applications of a cycle with each other. */
  'scrutiny.compare': { officer: 'any', product: 'any' },
  /** To grant or decline what candidates ask for: a scribe, more time, an exception. */
  'requests.decide': { ...staffWho('officer', 'scrutineer'), product: 'any' },
  'scrutiny.reopen': { officer: 'any' },
  /** The list of people who may not take part. */
  'barred.read': staffWho('officer', 'scrutineer', 'auditor'),
  'barred.write': staffWho('officer'),
  /** What candidates ask the office. */
  'questions.ask': { officer: 'any', ...owners, product: 'any' },
  'questions.read': { ...office, product: 'any' },
  'questions.answer': staffWho('officer', 'scrutineer', 'accounts'),
  /** To answer what scrutiny has asked a desk. */
  'matters.answer': staffWho('officer', 'scrutineer', 'accounts'),
  'centres.read': { ...staffWho('officer', 'auditor'), superintendent: 'own venue', product: 'any' },
  'centres.run': { officer: 'any', product: 'any' },
  'centres.publish': { officer: 'any', product: 'any' },
  'cards.read': { ...staffWho('officer', 'auditor'), ...owners, product: 'any' },
  'cards.issue': { officer: 'any', product: 'any' },
  'records.read': staffWho('officer', 'auditor'),
  /** To release what a finished cycle tells of people for erasing, which nothing brings back. */
  'records.erase': { ...staffWho('officer'), product: 'any' },
  'work.read': { ...office, product: 'any' },
  /** To act outside the notice's dates, with a reason that is kept and shown. */
  'dates.override': { officer: 'any' },
  /** What only the clock and machines do: lapsing, taking the gateway's events. */
  'clock.act': { product: 'any' },
} satisfies Record<string, Grants>

export type Permission = keyof typeof table
export const permissions = Object.keys(table) as Permission[]

function granteesOf(principal: Principal): Grantee[] {
  return principal.kind === 'staff' ? [...principal.roles] : [principal.kind]
}

/** The relations under which a principal has a permission; empty when it never has it. */
export function relationsOf(principal: Principal, permission: Permission): Relation[] {
  if (principal.needsFactor && permission !== 'account.own' && permission !== 'session.begin') return []
  const grants: Grants = table[permission]
  return granteesOf(principal).flatMap((grantee) => {
    const relation = grants[grantee]
    return relation === undefined ? [] : [relation]
  })
}

/** Whether a principal may do something to something that it stands in these relations to. */
export function may(principal: Principal, permission: Permission, relations: readonly Relation[] = []): boolean {
  return relationsOf(principal, permission).some(relation => relation === 'any' || relations.includes(relation))
}

/** The roles of staff that have a permission whatever it is asked of, for the words of a refusal. */
export function rolesWith(permission: Permission): StaffRole[] {
  const grants: Grants = table[permission]
  return (Object.keys(grants) as Grantee[]).filter((grantee): grantee is StaffRole =>
    grants[grantee] === 'any' && !['candidate', 'institution', 'device', 'product', 'anybody'].includes(grantee)
  )
}
