import { sql } from 'drizzle-orm'
import type { Database } from './client'

/**
 * What the database lets the product do. Three roles work in it: an owner that brings it to the newest schema, the application, and one
 * that moves or takes away the bytes of files, and what evidence tells of people. The application defines nothing, empties no table, steps
 * round no trigger, and only adds to evidence.
 */
export const databaseRoles = { owner: 'lucid_owner', application: 'lucid_app', files: 'lucid_files' } as const

/** Tables whose rows stay as they were written, with the few columns that may change after all. */
export const evidence: Readonly<Record<string, readonly string[]>> = {
  audit_event: [],
  audit_leaf: [],
  audit_head: [],
  ledger_transaction: [],
  ledger_line: [],
  fee_assessment: [],
  scrutiny_decision: [],
  claim_ruling: [],
  request_decision: [],
  answer_change: [],
  verdict_history: [],
  notice_version: [],
  notice_in_force: [],
  handout: ['taken_out_by', 'taken_out_at'],
  run_placement: [],
  file: [],
  card_key: [],
  gateway_event: ['deliveries'],
  announcement: ['reached', 'without', 'is_whole'],
  endorsement: ['notice_version', 'reminded_at', 'state', 'said', 'signed', 'settled_at'],
  endorsement_link: [],
  text_wording: [],
  accepted_text: [],
  bill: ['withdrawn_by', 'withdrawn_at'],
  bill_part: [],
  bank_statement: [],
  bank_line: ['state', 'best'],
  bank_match: ['undone_by', 'undone_at'],
  settlement: [],
  settlement_line: [],
  day_closing: [],
  payment_file: [],
  receipt: ['void_at'],
  refund: ['state', 'settled_by', 'settled_at', 'file_id'],
  // A file that was kept is measured, and what it was made from is added; one of a correction counts once that takes effect.
  image: ['state', 'findings', 'marks', 'width', 'height', 'display_sha256', 'pages', 'originals', 'attempts', 'correction_id'],
  // A version that another replaces becomes void. What a card says, its code and its pictures stay.
  admit_card: ['void_at'],
}

/** What only the owner writes. */
const ownerOnly = ['data_upgrade']

/**
 * Moving bytes changes where they are, and is told in the log. Erasing takes them away, and out of evidence what it tells of people: each
 * table with the columns that it reads, and those that it empties.
 */
const forFiles = [
  'GRANT SELECT, DELETE, UPDATE (home, content) ON file',
  'GRANT SELECT, INSERT, UPDATE (salt, reason, before, after) ON audit_event',
  'GRANT USAGE ON SEQUENCE audit_event_id_seq',
  'GRANT SELECT (event_id) ON audit_leaf',
  ...Object.entries({
    answer_change: ['application_id', 'before, after'],
    admit_card: ['application_id, photograph_sha256, signature_sha256', 'content, code, photograph_sha256, signature_sha256'],
    verdict_history: ['application_id', 'facts_sha256'],
    scrutiny_decision: ['application_id', 'reasons'],
    claim_ruling: ['application_id', 'reason'],
    request_decision: ['application_id', 'reason, basis'],
    image: ['application_id, sha256, display_sha256, pages, originals', 'sha256, display_sha256, pages, originals, edits, findings, marks'],
    endorsement: ['id, application_id', 'name, address, said, signed'],
    refund: ['application_id', 'payee, number, reason'],
    bill: ['cycle, payer_code', 'payer'],
  }).map(([table, [read, emptied]]) => `GRANT SELECT (${read}), UPDATE (${emptied}) ON ${table}`),
  ...['roll', 'roll_file', 'bank_statement', 'settlement', 'payment_file', 'handout'].map(table => `GRANT SELECT (sha256) ON ${table}`),
  'GRANT SELECT (sha256, pages) ON deposit_slip',
  'GRANT DELETE, SELECT (endorsement_id) ON endorsement_link',
]

/**
 * Gives each role its rights, anew after every change of the schema. Where the roles do not exist, as in a database from outside that was
 * given only one, nothing is changed, and the answer is false.
 */
export async function grantRights(db: Database): Promise<boolean> {
  const { rows } = await db.execute<
    { n: string }
  >(sql`select count(*) as n from pg_roles where rolname in (${databaseRoles.application}, ${databaseRoles.files})`)
  if (Number(rows[0]?.n) < 2) return false
  const { application, files } = databaseRoles
  const statements = [
    `REVOKE ALL ON ALL TABLES IN SCHEMA public FROM ${application}, ${files}`,
    `REVOKE ALL ON ALL SEQUENCES IN SCHEMA public FROM ${application}, ${files}`,
    `GRANT USAGE ON SCHEMA public, pgboss TO ${application}`,
    `GRANT USAGE ON SCHEMA public TO ${files}`,
    `GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public, pgboss TO ${application}`,
    `GRANT USAGE ON ALL SEQUENCES IN SCHEMA public, pgboss TO ${application}`,
    `GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA pgboss TO ${application}`,
    ...Object.entries(evidence).flatMap(([table, columns]) => [
      `REVOKE UPDATE, DELETE ON ${table} FROM ${application}`,
      ...columns.length > 0 ? [`GRANT UPDATE (${columns.join(', ')}) ON ${table} TO ${application}`] : [],
    ]),
    ...ownerOnly.map(table => `REVOKE INSERT, UPDATE, DELETE ON ${table} FROM ${application}`),
    ...forFiles.map(grant => `${grant} TO ${files}`),
  ]
  await db.transaction(async (tx) => {
    for (const statement of statements) await tx.execute(sql.raw(statement))
  })
  return true
}
