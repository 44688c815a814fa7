import { createHash } from 'node:crypto'
import { fillPlaceholders, sql, SQL } from 'drizzle-orm'
import { PgDialect } from 'drizzle-orm/pg-core'
import type pg from 'pg'

/**
 * Long statements about one application are parsed and planned by the database once for each connection, not each time: that costs more
 * than to carry them out. Only for statements whose plan hangs on no value that is asked for, such as those that find everything by an id.
 */

const mark = '/* kept */ '
const oftenMark = '/* often */ '

/** Marks a statement as one to keep. */
export const kept = (statement: SQL): SQL => sql`${sql.raw(mark)}${statement}`
/** Marks one whose text hangs on what there is to write: it is kept once the same text has come often enough. */
export const keptIfOften = (statement: SQL): SQL => sql`${sql.raw(oftenMark)}${statement}`

/** What a statement about one application is asked with: its id, since when changes are looked for, and a request by its act and number. */
export interface About {
  id: string
  since?: Date | null
  act?: string
  requestId?: string
}
/** The same as a statement reads it. */
export const asked = {
  id: sql`(select id from asked)`,
  since: sql`(select since from asked)`,
  act: sql`(select act from asked)`,
  requestId: sql`(select request_id from asked)`,
}

/**
 * A statement about one application, which is written once and kept. What it is asked with stands in it as `asked`: a plan that knew the
 * values would look cheaper to the database than one for all of them, and be made anew each time.
 */
export function keptAbout(make: () => SQL): (about: About) => SQL {
  const { placeholder } = sql
  const written = keptStatement(() =>
    sql`
    with asked as materialized (select ${placeholder('id')}::uuid as id, ${placeholder('since')}::timestamptz as since,
      ${placeholder('act')}::log_act as act, ${placeholder('requestId')}::text as request_id)
    ${make()}`
  )
  return ({ id, since, act, requestId }) =>
    written({ id, since: since?.toISOString() ?? null, act: act ?? null, requestId: requestId ?? null })
}

/** A statement that is written once and kept; the values of its placeholders come each time. */
export function keptStatement<Values extends Record<string, unknown>>(make: () => SQL): (values: Values) => SQL {
  let written: { sql: string, params: unknown[] } | null = null
  return (values) => {
    written ??= new PgDialect().sqlToQuery(kept(make()))
    return new Written(written.sql, fillPlaceholders(written.params, values))
  }
}

/** A whole statement whose text is known already: to put it together anew takes longer than to read the answer. No part of another one. */
class Written extends SQL {
  constructor(private readonly text: string, private readonly params: unknown[]) {
    super([])
  }

  override toQuery(): { sql: string, params: unknown[] } {
    return { sql: this.text, params: this.params }
  }
}

const nameOf = (text: string) => createHash('sha256').update(text).digest('base64url').slice(0, 20)
const names = new Map<string, string>()

/** The name by which a connection keeps a marked statement; none for others. */
function nameToKeep(text: string): string | undefined {
  if (text.startsWith(oftenMark)) return oftenKept(nameOf(text))
  if (!text.startsWith(mark)) return undefined
  const known = names.get(text) ?? nameOf(text)
  names.set(text, known)
  return known
}

/** How often a text comes before it is kept, how many are kept, as each takes memory on each connection, and of how many it is counted. */
const often = { times: 20, most: 60, counted: 2000 }
const times = new Map<string, number>()
const oftenNames = new Set<string>()

function oftenKept(name: string): string | undefined {
  if (oftenNames.has(name)) return name
  if (oftenNames.size >= often.most) return undefined
  if (times.size >= often.counted) times.clear()
  const count = (times.get(name) ?? 0) + 1
  times.set(name, count)
  if (count < often.times) return undefined
  times.delete(name)
  oftenNames.add(name)
  return name
}

/** Lets a connection keep the statements that are marked so. */
export function keepStatements(client: pg.PoolClient): void {
  const query = client.query.bind(client) as (...asked: unknown[]) => unknown
  const keeping = (asked: unknown, ...more: unknown[]) => {
    const text = typeof asked === 'object' && asked !== null && 'text' in asked && typeof asked.text === 'string' ? asked.text : ''
    const name = nameToKeep(text)
    return query(name === undefined ? asked : { ...asked as object, name }, ...more)
  }
  client.query = keeping as typeof client.query
}
