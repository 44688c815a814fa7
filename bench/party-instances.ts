import type { PartyInstance, PartyPerson } from '../core/allocation/parties/model'
import { Random } from '../demo/random'

/** Three papers over three sessions, a reserved quota, a closed city, parties, and a promise of a near city. */
export function madeParties(seed: number, people: number, cities: number, room: number): PartyInstance {
  const random = new Random(seed)
  const sittings = Math.ceil(people * 1.7 * room / (cities * 3))
  const capacity = Int32Array.from({ length: cities * 3 }, () => Math.max(1, Math.round(sittings * random.between(0.5, 1.5))))
  return {
    cities: Array.from({ length: cities }, (_, k) => ({ id: `c${k}`, lat: random.between(-2, 2), lon: random.between(0, 4) })), sessions: ['one', 'two', 'three'], collisions: random.chance(0.5) ? [[1, 2]] : [],
    capacity, accessible: capacity.map(seats => Math.floor(seats * 0.2)),
    reserved: [{ city: 0, session: 0, for: 'law', seats: Math.floor((capacity[0] ?? 0) / 3) }, { city: 0, session: 1, for: 'women', seats: Math.floor((capacity[1] ?? 0) / 4) }],
    papers: [{ id: 'law', sessions: [0, 1], closedCities: [] }, { id: 'engines', sessions: [1], closedCities: cities > 2 ? [cities - 1] : [] }, { id: 'oceans', sessions: [2, 0], closedCities: [] }],
    people: Array.from({ length: people }, (_, i): PartyPerson => {
      const choices = [...new Set([0, 1, 2].map(() => Math.min(random.whole(0, cities - 1), random.whole(0, cities - 1))))]
      return {
        id: `p${String(i).padStart(4, '0')}`, home: random.whole(0, cities - 1), choices, needs: random.chance(0.1), papers: [[0], [1], [2], [0, 2], [0, 1], [2, 0]][random.whole(0, 5)] ?? [0],
        tags: [...(random.chance(0.4) ? ['women'] : []), ...(random.chance(0.1) ? ['near'] : [])], party: random.chance(0.2) ? `h${random.whole(0, Math.ceil(people / 8))}` : null,
      }
    }),
    nearHome: [{ tag: 'near', km: 250 }],
  }
}
