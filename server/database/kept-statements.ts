import { createHash } from 'node:crypto'
import { fillPlaceholders, sql, type SQL } from 'drizzle-orm'
import { PgDialect } from 'drizzle-orm/pg-core'
import type pg from 'pg'

/**
 * Long statements about one application are parsed and planned by the database once for each connection, not each time: that costs more
 * than to carry them out. Only for statements whose plan hangs on no value that is asked for, such as those that find everything by an id.
 */

const mark = '/* kept */ '

/** Marks a statement as one to keep. */
export const kept = (statement: SQL): SQL => sql`${sql.raw(mark)}${statement}`

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
  let written: { pieces: string[], params: unknown[] } | null = null
  return ({ id, since, act, requestId }) => {
    written ??= writtenOf(make())
    const values = fillPlaceholders(written.params, {
      id,
      since: since?.toISOString() ?? null,
      act: act ?? null,
      requestId: requestId ?? null,
    })
    return sql.join(written.pieces.flatMap((piece, i) => i === 0 ? [sql.raw(piece)] : [sql.param(values[i - 1]), sql.raw(piece)]))
  }
}

function writtenOf(statement: SQL): { pieces: string[], params: unknown[] } {
  const { placeholder } = sql
  const { sql: text, params } = new PgDialect().sqlToQuery(kept(sql`
    with asked as materialized (select ${placeholder('id')}::uuid as id, ${placeholder('since')}::timestamptz as since,
      ${placeholder('act')}::log_act as act, ${placeholder('requestId')}::text as request_id)
    ${statement}`))
  return { pieces: text.split(/\$\d+/), params }
}

const names = new Map<string, string>()

function nameOf(text: string): string {
  const known = names.get(text)
  if (known) return known
  const name = createHash('sha256').update(text).digest('base64url').slice(0, 20)
  names.set(text, name)
  return name
}

/** Lets a connection keep the statements that are marked so. */
export function keepStatements(client: pg.PoolClient): void {
  const query = client.query.bind(client) as (...asked: unknown[]) => unknown
  const keeping = (asked: unknown, ...more: unknown[]) => {
    const isMarked = typeof asked === 'object' && asked !== null && 'text' in asked && typeof asked.text === 'string'
      && asked.text.startsWith(mark)
    return query(isMarked ? { ...asked, name: nameOf(asked.text as string) } : asked, ...more)
  }
  client.query = keeping as typeof client.query
}
