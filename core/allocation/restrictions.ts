import type { Bars } from './instance'
import { distanceKm } from './policy'

/** What a restriction does to those it holds for. */
export interface Limits {
  title: string
  closedCities: string[]
  withinKm?: number
}

/** Classes of people under restrictions: which of them hold for somebody, and, where distance counts, from which home. */
export class RestrictedClasses {
  private readonly classes = new Map<string, { place: number, held: number, home: string }>()

  constructor(private readonly restrictions: readonly Limits[]) {}

  /** The class of somebody; `held` has bit i set where restriction i holds. */
  classOf(held: number, home: string): number {
    const near = this.restrictions.some((r, i) => (held >> i & 1) === 1 && r.withinKm !== undefined)
    const key = `${held}/${near ? home : ''}`
    const found = this.classes.get(key)
    if (found) return found.place
    const place = this.classes.size
    this.classes.set(key, { place, held, home })
    return place
  }

  /** The cities closed to each class, for an instance; absent when nothing is closed to anybody. */
  bars(cities: readonly { id: string, lat: number, lon: number }[]): Omit<Bars, 'classOf'> | undefined {
    const all = [...this.classes.values()]
    const closed = Uint8Array.from(all.flatMap(({ held, home }) => cities.map(city => this.isClosed(held, home, city.id, cities) ? 1 : 0)))
    return closed.includes(1) ? { classes: all.length, closed } : undefined
  }

  private isClosed(held: number, home: string, city: string, cities: readonly { id: string, lat: number, lon: number }[]): boolean {
    const at = (id: string) => cities.find(c => c.id === id) ?? { lat: 0, lon: 0 }
    return this.restrictions.some((r, i) =>
      (held >> i & 1) === 1 && (r.closedCities.includes(city) || (r.withinKm !== undefined && distanceKm(at(home), at(city)) > r.withinKm))
    )
  }
}
