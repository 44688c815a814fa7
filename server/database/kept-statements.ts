import { createHash } from 'node:crypto'
import { sql, type SQL } from 'drizzle-orm'
import type pg from 'pg'

/**
 * Long statements about one application are parsed and planned by the database once for each connection, not each time: that costs more
 * than to carry them out. Only for statements whose plan hangs on no value that is asked for, such as those that find everything by an id.
 */

const mark = '/* kept */ '

/** Marks a statement as one to keep. */
export const kept = (statement: SQL): SQL => sql`${sql.raw(mark)}${statement}`

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
