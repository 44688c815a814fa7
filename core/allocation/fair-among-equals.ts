import { noCity } from './instance'
import { costAt, type OptionTable } from './option-table'

/**
 * Among equals – one home, one list, one need – hands the better places to those earlier in `turn`, so that nobody is worse
 * off than somebody equal who came later. Cost, counts and limits stay as they are: equals change places.
 *
 * @param earlier compares two people, negative when the first goes before.
 */
export function fairAmongEquals(table: OptionTable, cityOf: Uint16Array, earlier: (a: number, b: number) => number): void {
  const people = likeTheDisplaced(table, cityOf)
  for (let from = 0; from < people.length;) {
    let to = from + 1
    while (to < people.length && compare(table, people[from]!, people[to]!) === 0) to += 1
    if (to > from + 1) share(table, cityOf, Array.from(people.subarray(from, to)), earlier)
    from = to
  }
}

function share(table: OptionTable, cityOf: Uint16Array, equals: number[], earlier: (a: number, b: number) => number): void {
  const first = equals[0]!
  if (equals.every(person => cityOf[person] === cityOf[first])) return
  const places = equals.map(person => cityOf[person]!).sort((a, b) => costAt(table, first, a) - costAt(table, first, b) || a - b)
  equals.sort(earlier).forEach((person, i) => {
    cityOf[person] = places[i]!
  })
}

/** Everyone whose likeness is that of somebody not at the cheapest option, equals side by side. Most people are not among them. */
function likeTheDisplaced(table: OptionTable, cityOf: Uint16Array): Uint32Array {
  const marked = new Uint8Array(1 << 20)
  const likeness = Uint32Array.from({ length: table.people }, (_, person) => likenessOf(table, person))
  const place = (person: number) => likeness[person]! % marked.length
  for (let person = 0; person < table.people; person += 1) {
    if (isDisplaced(table, person, cityOf[person]!)) marked[place(person)] = 1
  }
  const found: number[] = []
  for (let person = 0; person < table.people; person += 1) {
    if (marked[place(person)] === 1) found.push(person)
  }
  return Uint32Array.from(found).sort((a, b) => likeness[a]! - likeness[b]! || compare(table, a, b) || a - b)
}

function isDisplaced(table: OptionTable, person: number, city: number): boolean {
  const own = person * table.slots
  const cost = costAt(table, person, city)
  for (let slot = own; slot < own + table.slots && table.city[slot] !== noCity; slot += 1) {
    if (table.cost[slot]! < cost) return true
  }
  return table.city[own] === noCity
}

/** A number that is the same for equals (FNV-1a over what makes them equal; Fowler, Noll, Vo; from memory). */
function likenessOf({ slots, city, cost, group, needs }: OptionTable, person: number): number {
  let hash = Math.imul(0x811c9dc5 ^ (group[person]! * 2 + needs[person]!), 0x01000193)
  for (let slot = person * slots; slot < (person + 1) * slots; slot += 1) {
    hash = Math.imul(hash ^ city[slot]!, 0x01000193)
    hash = Math.imul(hash ^ cost[slot]!, 0x01000193)
  }
  // Multiplication carries upwards only; the low bits are wanted too.
  return (hash ^ (hash >>> 15)) >>> 0
}

/** Orders by all that makes people equal; 0 for equals. */
function compare({ slots, city, cost, group, needs }: OptionTable, a: number, b: number): number {
  let difference = group[a]! - group[b]! || needs[a]! - needs[b]!
  for (let slot = 0; slot < slots && difference === 0; slot += 1) {
    difference = city[a * slots + slot]! - city[b * slots + slot]! || cost[a * slots + slot]! - cost[b * slots + slot]!
  }
  return difference
}
