import { capacityOfCity } from '../../../core/seating/seats'
import type { CityFullness } from '../../../shared/centres'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { countsUnder } from '../roster/tally'

/** How full each city of a cycle is against its seats now: whom it is the first choice of, as far as forms have been begun. */
export async function cityFullness(caller: Caller, cycle: string): Promise<CityFullness[]> {
  const { db } = await caller.authorise('examinations.read', { cycle })
  const { notice } = await currentNotice(db, cycle)
  const first = await countsUnder(db, cycle, 'first:cities=')
  return notice.cities.map(city => ({
    city: city.id,
    seats: capacityOfCity(city, notice.sessions).capacity,
    first: first.get(city.id) ?? 0,
  }))
}
