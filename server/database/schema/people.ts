import { boolean, index, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Staff of the registration office. Candidates never sign in here. */
export const staff = pgTable('staff', {
  id: uuid('id').primaryKey(),
  signInName: text('sign_in_name').notNull().unique(),
  displayName: text('display_name').notNull(),
  passwordHash: text('password_hash').notNull(),
  roles: text('roles').array().notNull(),
  active: boolean('active').notNull().default(true),
})

/** A session is known by the SHA-256 of its token: reading the table lets nobody in. */
export const staffSession = pgTable('staff_session', {
  tokenHash: text('token_hash').primaryKey(),
  staffId: uuid('staff_id').notNull().references(() => staff.id),
  csrfToken: text('csrf_token').notNull(),
  createdAt: at('created_at').notNull(),
  expiresAt: at('expires_at').notNull(),
  revokedAt: at('revoked_at'),
}, t => [index('staff_session_by_staff').on(t.staffId)])

/** Failed sign-ins, counted by name and by address, for throttling across all server processes. */
export const signInFailure = pgTable('sign_in_failure', {
  id: uuid('id').primaryKey(),
  key: text('key').notNull(),
  at: at('at').notNull(),
}, t => [index('sign_in_failure_by_key').on(t.key, t.at)])
