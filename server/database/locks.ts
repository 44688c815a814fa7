import { sql } from 'drizzle-orm'
import type { Executor } from './client'

/** Locks of the database that keep whole processes apart, by name; each is held until its transaction ends. */
const numbers = {
  startWork: 7002,
  runSerial: 7004,
  staffAccounts: 7005,
  gatewayEvent: 7006,
  bankAccount: 7007,
  receiptNumber: 7010,
  sortCases: 7011,
} as const

const hold = (number: number) => async (tx: Executor): Promise<void> => {
  await tx.execute(sql`select pg_advisory_xact_lock(${number})`)
}

export const locks = {
  /** Looking whether work of a kind is under way, and starting it. */
  startWork: hold(numbers.startWork),
  /** Giving a run its serial. */
  runSerial: hold(numbers.runSerial),
  /** Changing accounts of staff: two administrators cannot each take the other for the one who stays. */
  staffAccounts: hold(numbers.staffAccounts),
  /** Giving receipts their numbers: one by one, and none left out. */
  receiptNumber: hold(numbers.receiptNumber),
  /** Giving cases their queues. */
  sortCases: hold(numbers.sortCases),
  /** The same; false where somebody else does so now. */
  tryToSortCases: async (tx: Executor): Promise<boolean> => {
    const { rows: [row] } = await tx.execute<{ got: boolean }>(sql`select pg_try_advisory_xact_lock(${numbers.sortCases}) as got`)
    return row?.got === true
  },
  /** Reading statements of one account: two files of the same days at once are compared with each other. */
  bankAccount: async (tx: Executor, id: string): Promise<void> => {
    await tx.execute(sql`select pg_advisory_xact_lock(${numbers.bankAccount}, hashtext(${id}))`)
  },
  /** Taking one event of the gateway, which may be told by many deliveries at once. */
  gatewayEvent: async (tx: Executor, eventId: string): Promise<void> => {
    await tx.execute(sql`select pg_advisory_xact_lock(${numbers.gatewayEvent}, hashtext(${eventId}))`)
  },
}
