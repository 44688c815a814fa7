import { InstanceBuilder, type Instance } from '../core/allocation/instance'
import { Random } from '../core/rehearsal/random'

/**
 * Made-up people with one to three of three test papers: the first and third in one session each, the second in either of two. All that
 * homes and choices share is that few cities draw most people.
 *
 * @param room seats of a session over all cities against the people who want the fullest one.
 */
export function madeSittings(seed: number, people: number, cities: number, room: number): Instance {
  const random = new Random(seed)
  const papers = [[0], [1, 3], [2]]
  const wanted = [[0], [1], [2], [0, 1], [0, 2], [1, 2], [0, 1, 2]]
  const kinds = wanted.map(list => ({ papers: list.map(String), ways: list.reduce<number[][]>((ways, paper) => ways.flatMap(way => (papers[paper] ?? []).map(s => [...way, s])), [[]]) }))
  const places = Array.from({ length: cities }, (_, i) => ({ id: `c${String(i).padStart(2, '0')}`, lat: random.between(-5, 5), lon: random.between(-5, 5), capacity: 0, accessibleCapacity: 0 }))
  const builder = new InstanceBuilder(places, 5, 'instant')
  // The square of an even draw: the first cities are named most.
  const city = () => Math.floor(random.next() ** 2 * cities)
  const demand = [0, 0, 0, 0]
  for (let i = 0; i < people; i += 1) {
    const kind = random.whole(0, kinds.length - 1)
    for (const paper of wanted[kind] ?? []) for (const s of papers[paper] ?? []) demand[s] = (demand[s] ?? 0) + 1 / (papers[paper]?.length ?? 1)
    const home = city()
    builder.add({ id: String(i).padStart(8, '0'), home, choices: [...new Set([home, city(), city(), city()])].slice(0, 3), needs: random.chance(0.05), turn: i, kind })
  }
  const seats = new Int32Array(cities * demand.length).fill(Math.ceil(Math.max(...demand) * room / cities))
  return builder.build(undefined, { sessions: ['a', 'b', 'c', 'd'], seats, accessible: seats.map(n => Math.ceil(n * 0.08)), kinds })
}
