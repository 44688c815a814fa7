import { stringify } from 'csv-stringify/sync'
import type { RunPerson } from '../../../shared/centres'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { readRunPeople } from './run-view'
import { storedRun, type StoredRun } from './runs'

const csvColumns = ['candidate', 'city', 'choice', 'km', 'cost', 'home', 'prefs', 'needs_accessible', 'told', 'by_hand', 'place_in_line',
  'sittings'] as const

/** The people of a run as CSV, page after page, so that memory does not grow with their number. */
export async function runCsv(caller: Caller, runId: string): Promise<AsyncGenerator<string>> {
  const { db } = await caller.authorise('centres.read')
  return csvPages(caller, await storedRun(db, runId))
}

async function* csvPages(caller: Caller, { id, sittings }: StoredRun): AsyncGenerator<string> {
  yield `${csvColumns.join(',')}\n`
  for (let after: string | undefined;;) {
    const { people, next } = await readRunPeople(caller, id, { limit: 500, after })
    yield stringify(people.map(p => csvRow(p, p.part === null ? [] : sittings?.parts[p.part]?.papers ?? [])))
    if (!next) return
    after = next
  }
}

const csvRow = (
  p: RunPerson,
  papers: readonly string[],
) => [p.number, p.city ?? '', p.choice ?? '', p.km ?? '', p.cost, p.home, p.choices.join(';'), p.needs ? 1 : 0, p.told ?? '',
  p.locked ? 1 : 0, p.place ?? '', p.sessions?.map((session, i) => `${papers[i] ?? ''}=${session}`).join(';') ?? '']

/** The cities of a run with their figures as GeoJSON (RFC 7946): a point for each, longitude first. */
export async function runGeoJson(caller: Caller, runId: string): Promise<object> {
  const context = await caller.authorise('centres.read')
  const run = await storedRun(context.db, runId)
  const { notice } = await currentNotice(context.db, run.cycle)
  return {
    type: 'FeatureCollection',
    features: run.summary.cities.map((figures) => {
      const city = notice.cities.find(c => c.id === figures.city)
      const at = run.cities.find(c => c.id === figures.city) ?? city
      return {
        type: 'Feature',
        id: figures.city,
        geometry: at ? { type: 'Point', coordinates: [at.lon, at.lat] } : null,
        properties: { ...figures, title: city?.title ?? figures.city, island: city?.island ?? '', run: run.serial },
      }
    }),
  }
}
