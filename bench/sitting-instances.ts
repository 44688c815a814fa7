import { InstanceBuilder, type Instance, type SittingKind } from '../core/allocation/instance'
import { Random } from '../core/random'

/** Test papers and the sessions in which each is held. */
export const fourSessions = [[0], [1, 3], [2]]
export const sixSessions = [[0], [1, 3], [2], [3, 5], [4], [0, 5]]

/** Every set of one to three papers that can be sat in sessions of their own, with the ways to sit it. */
function kindsOf(papers: readonly number[][]): SittingKind[] {
  const sets = papers.flatMap((
    _,
    a,
  ) => [[a],
    ...papers.slice(a + 1).flatMap((_, i) => [[a, a + 1 + i], ...papers.slice(a + 2 + i).map((_, j) => [a, a + 1 + i, a + 2 + i + j])])]
  )
  return sets.map(set => ({
    papers: set.map(String),
    ways: set.reduce<number[][]>(
      (ways, paper) => ways.flatMap(way => (papers[paper] ?? []).filter(s => !way.includes(s)).map(s => [...way, s])),
      [[]],
    ),
  })).filter(kind => kind.ways.length > 0)
}

/**
 * Made-up people with one to three test papers, as likely any set as another. All that homes and choices share is that few cities draw most
 * people.
 *
 * @param room seats over all cities against the people who want them: of the fullest session, or of each.
 */
export function madeSittings(seed: number, people: number, cities: number, room: number, papers = fourSessions, even = false): Instance {
  const random = new Random(seed)
  const kinds = kindsOf(papers)
  const places = Array.from(
    { length: cities },
    (_, i) => ({
      id: `c${String(i).padStart(2, '0')}`,
      lat: random.between(-5, 5),
      lon: random.between(-5, 5),
      capacity: 0,
      accessibleCapacity: 0,
    }),
  )
  const builder = new InstanceBuilder(places, 5, 'instant')
  // The square of an even draw: the first cities are named most.
  const city = () => Math.floor(random.next() ** 2 * cities)
  const demand = Array.from({ length: Math.max(...papers.flat()) + 1 }, () => 0)
  for (let i = 0; i < people; i += 1) {
    const kind = random.whole(0, kinds.length - 1)
    for (const paper of kinds[kind]?.papers ?? []) {
      for (const s of papers[Number(paper)] ?? []) demand[s] = (demand[s] ?? 0) + 1 / (papers[Number(paper)]?.length ?? 1)
    }
    const home = city()
    builder.add({
      id: String(i).padStart(8, '0'),
      home,
      choices: [...new Set([home, city(), city(), city()])].slice(0, 3),
      needs: random.chance(0.05),
      turn: i,
      kind,
    })
  }
  const seats = Int32Array.from(
    { length: cities * demand.length },
    (_, at) => Math.ceil((even ? demand[at % demand.length] ?? 0 : Math.max(...demand)) * room / cities),
  )
  return builder.build(undefined, {
    sessions: [...'abcdefghij'].slice(0, demand.length),
    seats,
    accessible: seats.map(n => Math.ceil(n * 0.08)),
    kinds,
  })
}
