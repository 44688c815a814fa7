import { index, integer, jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { EndorsementState } from '../../../core/application/endorsements'
import type { Channel } from '../../../core/identity/address'
import { application } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Somebody who was asked to say something about an application, and what they said. */
export const endorsement = pgTable('endorsement', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  /** The notice's rule by its id, and the version of the notice that they read; as long as nobody has answered, that of the asking. */
  rule: text('rule').notNull(),
  noticeVersion: integer('notice_version').notNull(),
  name: text('name').notNull(),
  /** Where the link went; none where it came on paper. */
  channel: text('channel').$type<Channel>(),
  address: text('address'),
  askedBy: uuid('asked_by').notNull().references(() => principal.id),
  askedAt: at('asked_at').notNull(),
  remindedAt: at('reminded_at'),
  state: text('state').$type<EndorsementState>().notNull(),
  /** Answers to the rule's questions, and the name that they gave as theirs. */
  said: jsonb('said').$type<Record<string, string>>(),
  signed: text('signed'),
  settledAt: at('settled_at'),
}, t => [index('endorsement_of').on(t.applicationId, t.askedAt), index('endorsement_waiting').on(t.state, t.askedAt)])

/** A link that was sent, known by its hash. */
export const endorsementLink = pgTable('endorsement_link', {
  tokenHash: text('token_hash').primaryKey(),
  endorsementId: uuid('endorsement_id').notNull().references(() => endorsement.id, { onDelete: 'cascade' }),
}, t => [index('endorsement_link_of').on(t.endorsementId)])
