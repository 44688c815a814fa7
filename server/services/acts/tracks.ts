import { eq, sql } from 'drizzle-orm'
import { headline, type Tracks } from '../../../core/application/tracks'
import { grouped } from '../../../shared/grouped'
import type { Executor } from '../../database/client'
import { inserting, type Write } from '../../database/together'
import { application, headlineChange } from '../../database/schema'
import { tracksOf, type ApplicationRow, type StandingRow } from '../applications/store'
import type { Context } from '../context'

/**
 * The only writers of tracks and of the headline that follows from them; nothing outside this folder calls them. Other columns that an act
 * changes go along.
 *
 * @returns the row as it will stand, and the writes that bring it there.
 */
export function savingTracks(
  tx: Executor,
  context: Context,
  row: ApplicationRow,
  change: Partial<Tracks>,
  columns: Partial<ApplicationRow> = {},
): { saved: ApplicationRow, writes: Write[] } {
  const tracks = { ...tracksOf(row), ...change }
  const next = headline(tracks)
  const at = context.now()
  const moved = next !== row.headline
  const given = Object.fromEntries(Object.entries(columns).filter(([, value]) => value !== undefined)) as Partial<ApplicationRow>
  const changed = { ...given, ...tracks, headline: next, updatedAt: at, ...(moved ? { headlineSince: at } : {}) }
  return {
    saved: { ...row, ...changed },
    writes: [
      tx.update(application).set(changed).where(eq(application.id, row.id)),
      ...moved
        ? [
          inserting(headlineChange, [{
            id: context.newId(),
            applicationId: row.id,
            cycle: row.cycle,
            from: row.headline,
            to: next,
            at,
          }]),
        ]
        : [],
    ],
  }
}

/** Rows that stand alike, group by group. */
export function groupsOfAlike<Row extends StandingRow>(rows: readonly Row[]): Row[][] {
  return [...grouped(rows, row => JSON.stringify(tracksOf(row))).values()]
}

/** The same change of tracks for many applications that stand alike. */
export async function saveTracksOfAlike(
  tx: Executor,
  context: Context,
  group: readonly StandingRow[],
  change: Partial<Tracks>,
): Promise<Tracks | null> {
  const [first] = group
  if (!first) return null
  const tracks = { ...tracksOf(first), ...change }
  const next = headline(tracks)
  const at = context.now()
  const moved = next !== first.headline
  for (let from = 0; from < group.length; from += 5000) {
    const ids = sql.param(group.slice(from, from + 5000).map(row => row.id))
    await tx.update(application).set({ ...tracks, headline: next, updatedAt: at, ...(moved ? { headlineSince: at } : {}) })
      .where(sql`${application.id} = any(${ids}::uuid[])`)
    if (moved) {
      await tx.execute(sql`insert into headline_change (id, application_id, cycle, from_headline, to_headline, at)
        select gen_random_uuid(), id, ${first.cycle}, ${first.headline}, ${next}, ${at.toISOString()}::timestamptz from unnest(${ids}::uuid[]) as id`)
    }
  }
  return tracks
}
