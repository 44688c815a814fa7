import type { z } from 'zod'
import type { Permission } from '../../core/access/permissions'
import type { Inspector } from '../../pictures/inspect'
import type { Executor } from '../database/client'
import { job } from '../database/schema'
import type { Caller, Context } from '../services/context'
import type { Solver } from '../services/centres/solver'

/** What work needs of the process that does it. */
export interface WorkTools {
  solve: Solver
  inspect: Inspector
}

/** One piece of work under way, for whoever runs it. */
export interface WorkUnderWay<Input> {
  id: string
  cycle: string
  input: Input
  tools: WorkTools
  /** Tells how far it is; answers whether to go on. */
  tell: (done: number, total: number) => Promise<boolean>
}

/** A kind of long work: who may start it, what it is asked with, and how it runs. */
export interface WorkKind<Input = unknown> {
  kind: string
  permission: Permission
  input: z.ZodType<Input>
  /** Writes what the work begins with, in the transaction that starts it. */
  open?: (tx: Executor, context: Context, cycle: string, jobId: string, input: Input) => Promise<void>
  /** Runs to the end. It may be run again after a process died half-way: what was done must not be done twice. */
  run: (caller: Caller, work: WorkUnderWay<Input>) => Promise<Record<string, string | number>>
}

/** Writes down work that is wanted, in the transaction that wants it; a process takes it up within moments. */
export async function askForWork(
  tx: Executor,
  { newId, now, principal }: Context,
  kind: string,
  cycle: string,
  input: unknown,
  id = newId(),
): Promise<typeof job.$inferSelect | undefined> {
  const at = now()
  const [made] = await tx.insert(job).values({
    id,
    kind,
    cycle,
    request: JSON.stringify(input),
    state: 'waiting',
    by: principal.id,
    createdAt: at,
    updatedAt: at,
  }).returning()
  return made
}

/** Declares a kind of work; it stands beside the service that does it. */
export function defineWork<Input>(kind: WorkKind<Input>): WorkKind<Input> {
  return kind
}
