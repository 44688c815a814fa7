import { sql } from 'drizzle-orm'
import { alikeAtMost } from '../../../core/imaging/likeness'
import type { Lookalike } from '../../../shared/applications'
import { demand, type Context } from '../context'

/** At most so many are shown: more say no more. */
const mostShown = 12

interface Found extends Record<string, unknown> { application_id: string, number: string, name: string, kind: string, image_id: string, version: number, identical: boolean, differing: number }

/**
 * Other applications of the cycle that hold the same picture as one of this application's current images: the very same pixels in any
 * slot of the kind, or, of photographs, what differs in few bits. Looked up by index; nothing is scanned.
 */
export async function lookalikesOf(context: Context, applicationId: string): Promise<Lookalike[]> {
  demand(context, 'read')
  const { rows } = await context.db.execute<Found>(lookUp(applicationId))
  return rows.map(row => ({ applicationId: row.application_id, number: row.number, name: row.name, kind: row.kind, imageId: row.image_id, version: row.version, identical: row.identical, differing: row.differing }))
}

/** The statement of the look-up, as a value so that its plan can be asked for. */
export function lookUp(applicationId: string) {
  return sql`
    with own as materialized (
      select distinct on (i.kind) l.* from image i join image_likeness l on l.image_id = i.id
      where i.application_id = ${applicationId} and i.state = 'measured' order by i.kind, i.version desc
    ), alike as materialized (
      select l.image_id, true as identical, 0 as differing from own
        join image_likeness l on l.cycle = own.cycle and l.kind = own.kind and l.pixels_sha256 = own.pixels_sha256
      union all
      select l.image_id, false, bit_count(l.hash # own.hash)::int from own
        join image_likeness l on l.keys && own.keys
        where own.kind = 'photograph' and l.kind = 'photograph' and l.cycle = own.cycle and bit_count(l.hash # own.hash) <= ${alikeAtMost} and l.pixels_sha256 <> own.pixels_sha256
    )
    select distinct on (identical, differing, a.number) i.application_id, a.number, a.display_name as name, i.kind, i.id as image_id, i.version, identical, differing
    from alike join image i on i.id = alike.image_id join application a on a.id = i.application_id
    where i.application_id <> ${applicationId} and i.state = 'measured'
    order by identical desc, differing, a.number, i.version desc limit ${mostShown}`
}
