import { sql } from 'drizzle-orm'
import { facesAlikeAtMost } from '../../../core/imaging/face-likeness'
import { alikeAtMost } from '../../../core/imaging/likeness'
import type { Lookalike } from '../../../shared/applications'
import type { Caller } from '../context'

/** At most so many are shown. */
const mostShown = 12

interface Found extends Record<string, unknown> {
  application_id: string
  number: string
  name: string
  kind: string
  image_id: string
  version: number
  way: Lookalike['by']
  differing: number
}

/**
 * Other applications of the cycle that hold the same picture as one of this application's current images: the very same pixels in any
 * slot of the kind; of photographs, what differs in few bits; and, where the notice has faces compared, a face much alike. Looked up by
 * index; nothing is scanned.
 */
export async function lookalikesOf(caller: Caller, applicationId: string): Promise<Lookalike[]> {
  const { db } = await caller.authorise('scrutiny.read')
  const { rows } = await db.execute<Found>(lookUp(applicationId))
  return rows.map(row => ({
    applicationId: row.application_id,
    number: row.number,
    name: row.name,
    kind: row.kind,
    imageId: row.image_id,
    version: row.version,
    by: row.way,
    differing: row.differing,
  }))
}

/** The statement of the look-up, as a value so that its plan can be asked for. */
export function lookUp(applicationId: string) {
  return sql`
    with own as materialized (
      select distinct on (i.kind) l.* from image i join image_likeness l on l.image_id = i.id
      where i.application_id = ${applicationId} and i.state = 'measured' and i.correction_id is null order by i.kind, i.version desc
    ), alike as materialized (
      select l.image_id, 'pixels' as way, 0 as differing from own
        join image_likeness l on l.cycle = own.cycle and l.kind = own.kind and l.pixels_sha256 = own.pixels_sha256
      union all
      select l.image_id, 'picture', bit_count(l.hash # own.hash)::int from own
        join image_likeness l on l.keys && own.keys
        where own.kind = 'photograph' and l.kind = 'photograph' and l.cycle = own.cycle and bit_count(l.hash # own.hash) <= ${alikeAtMost} and l.pixels_sha256 <> own.pixels_sha256
      union all
      select l.image_id, 'face', bit_count(l.signs # face.signs)::int from own
        join face_likeness face on face.image_id = own.image_id
        join face_likeness l on l.keys && face.keys
        where l.cycle = face.cycle and bit_count(l.signs # face.signs) <= ${facesAlikeAtMost}
    ), nearest as materialized (
      -- A picture found in several ways is told by the surest.
      select distinct on (image_id) * from alike order by image_id, array_position(array['pixels', 'picture', 'face'], way), differing
    )
    select distinct on (array_position(array['pixels', 'picture', 'face'], way), differing, a.number) i.application_id, a.number, a.display_name as name, i.kind, i.id as image_id, i.version, way, differing
    from nearest join image i on i.id = nearest.image_id join application a on a.id = i.application_id
    where i.application_id <> ${applicationId} and i.state = 'measured'
    order by array_position(array['pixels', 'picture', 'face'], way), differing, a.number, i.version desc limit ${mostShown}`
}
