import type { City } from './centre-schema'
import type { Notice, NoticeFile } from './schema'

/**
 * Cities, venues and rooms stand in a register of their own and outlast a notice: a notice names the cities that it uses by their
 * codes. In a file a notice may describe them, so that it can be carried to an office that does not know them.
 */

/** The notice as it is stored: its cities by their codes only. */
export function withoutCentres(notice: Notice): NoticeFile {
  return { ...notice, cities: notice.cities.map(({ id, number }) => ({ id, number })) }
}

/** The cities that a file describes; the rest it names only. */
export function describedCities({ cities }: NoticeFile): City[] {
  return cities.filter((city): city is City => 'venues' in city)
}

/**
 * The whole notice: each city as the register has it, under the number that the notice gives it for roll numbers.
 *
 * @param file the notice with its cities named or described.
 * @param register cities by their codes; a city that it does not know, or has no rooms of, is taken from its description in the file.
 * @returns the notice, and the codes that neither knows.
 */
export function joinCentres(file: NoticeFile, register: ReadonlyMap<string, Omit<City, 'number'>>): { notice: Notice, unknown: string[] } {
  const described = new Map(describedCities(file).map(city => [city.id, city]))
  const unknown: string[] = []
  const cities = file.cities.flatMap(({ id, number }): City[] => {
    const known = register.get(id)
    const city = known && known.venues.length > 0 ? known : described.get(id) ?? known
    if (city) return [{ ...city, number }]
    unknown.push(id)
    return []
  })
  return { notice: { ...file, cities }, unknown }
}
