import { randomUUID } from 'node:crypto'
import type { Database, Executor } from '../database/client'
import { auditEvent } from '../database/schema'
import { ProblemError } from '../../shared/problem'
import { permitted, type Permission, type Role } from '../../shared/roles'

export interface Actor { id: string, name: string, roles: Role[] }

/** What every use case is given: the database, who asks, the time and where new ids come from. */
export interface Context {
  db: Database
  actor: Actor | null
  now: () => Date
  newId: () => string
  requestId: string
}

/** Acts of the product itself: jobs, the gateway's messages, the demo's loading. */
export const systemActor: Actor = { id: 'system', name: 'system', roles: ['officer', 'scrutineer', 'accounts'] }

export function systemContext(db: Database, requestId = 'system'): Context {
  return { db, actor: systemActor, now: () => new Date(), newId: randomUUID, requestId }
}

/** The actor, if signed in and allowed; the rule of who may do what is `shared/roles.ts`. */
export function demand(context: Context, permission: Permission): Actor {
  if (!context.actor) throw new ProblemError('not-signed-in', 'Sign in first. Nothing was changed.')
  if (!permitted(context.actor.roles, permission)) {
    throw new ProblemError('not-allowed', `Your role (${context.actor.roles.join(', ')}) may not do this (${permission}). Nothing was changed.`)
  }
  return context.actor
}

/** Adds to the audit log inside the same transaction as the change it tells of. */
export async function audit(
  tx: Executor, context: Context, action: string, subject: string, before: unknown, after: unknown,
): Promise<void> {
  await auditMany(tx, context, action, [{ subject, before, after }])
}

/** The same act on many subjects at once. */
export async function auditMany(tx: Executor, context: Context, action: string, events: readonly { subject: string, before: unknown, after: unknown }[]): Promise<void> {
  const [at, actor] = [context.now(), context.actor?.name ?? 'nobody']
  for (let from = 0; from < events.length; from += 1000) {
    await tx.insert(auditEvent).values(events.slice(from, from + 1000).map(({ subject, before, after }) => ({ at, actor, action, subject, before: before ?? null, after: after ?? null, requestId: context.requestId })))
  }
}
