import { sql } from 'drizzle-orm'
import { matchAfterSlips, reversed, type LedgerLine } from '../../../core/fees/ledger'
import { grouped } from '../../../shared/grouped'
import type { Executor } from '../../database/client'
import { depositSlip } from '../../database/schema'

type Slip = Pick<typeof depositSlip.$inferSelect, 'id' | 'applicationId' | 'amount' | 'arrived' | 'state'>

/**
 * Slips of some applications while money for them comes in: what was taken for good arrives first, the oldest slip before the next; one
 * that nobody has looked at yet has nothing left to be looked at.
 */
export class ArrivingSlips {
  private readonly changed = new Set<Slip>()
  private constructor(private readonly slips: ReadonlyMap<string, Slip[]>) {}

  static async of(tx: Executor, applications: readonly string[]): Promise<ArrivingSlips> {
    const rows = applications.length === 0
      ? []
      : await tx.select().from(depositSlip)
        .where(sql`${depositSlip.applicationId} = any(${
          sql.param([...new Set(applications)])
        }::uuid[]) and ${depositSlip.state} in ('waiting', 'confirmed', 'arrived')`).orderBy(
          depositSlip.applicationId,
          depositSlip.at,
          depositSlip.id,
        ).for('update')
    return new ArrivingSlips(grouped(rows, row => row.applicationId))
  }

  /** What money for an application is booked as. */
  linesFor(application: string, amount: number): LedgerLine[] {
    const own = this.slips.get(application) ?? []
    const lines = matchAfterSlips(
      amount,
      own.filter(slip => slip.state === 'confirmed').reduce((sum, slip) => sum + slip.amount - slip.arrived, 0),
    )
    let left = amount
    for (const slip of own.filter(one => one.state === 'confirmed')) {
      const part = Math.min(left, slip.amount - slip.arrived)
      left -= part
      if (part > 0) this.change(slip, { arrived: slip.arrived + part })
    }
    for (const slip of own.filter(one => one.state === 'waiting' && one.amount <= left)) {
      left -= slip.amount
      this.change(slip, { state: 'arrived' })
    }
    return lines
  }

  /** The mirror image of what was booked for an application: money that had arrived for its slips is on its way again, the newest first. */
  linesBack(application: string, booked: readonly LedgerLine[]): LedgerLine[] {
    let left = -booked.filter(line => line.account === 'slips in transit').reduce((sum, line) => sum + line.amount, 0)
    for (const slip of [...this.slips.get(application) ?? []].reverse()) {
      const part = Math.min(left, slip.arrived)
      left -= part
      if (part > 0) this.change(slip, { arrived: slip.arrived - part })
    }
    return reversed(booked)
  }

  /** Writes what has changed. */
  async keep(tx: Executor): Promise<void> {
    if (this.changed.size === 0) return
    const rows = [...this.changed].map(({ id, arrived, state }) => ({ id, arrived, state }))
    await tx
      .execute(sql`update deposit_slip s set arrived = r.arrived, state = r.state from jsonb_to_recordset(${
        JSON.stringify(rows)
      }::jsonb) as r(id uuid, arrived bigint, state text) where s.id = r.id`)
  }

  private change(slip: Slip, change: Partial<Slip>): void {
    Object.assign(slip, change)
    this.changed.add(slip)
  }
}
