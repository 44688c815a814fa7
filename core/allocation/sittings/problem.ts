import type { Sittings } from '../instance'
import { closed, costAt, type OptionTable } from '../option-table'
import type { SittingSeats } from './seats'

/**
 * People who are kept together: what each city costs all of them, Infinity where one may not sit, and what it costs that none has a seat.
 */
export interface Party {
  members: Uint32Array
  cost: Float64Array
  unseated: number
}

/** People with their options, what they sit, and who of them comes with others. `ofKind` holds those who come alone, by what they sit. */
export interface Problem {
  table: OptionTable
  sittings: Sittings
  alone: Uint32Array
  ofKind: Uint32Array[]
  parties: Party[]
}

/** Where everybody is while they are placed. */
export interface State extends Problem {
  cityOf: Uint16Array
  seats: SittingSeats
}

export function problemOf(table: OptionTable, sittings: Sittings): Problem {
  const parties = (sittings.together ?? []).map((members): Party => ({
    members,
    unseated: members.length * table.unseated,
    cost: Float64Array.from({ length: table.cities }, (_, city) =>
      members.reduce((sum, person) => {
        const cost = costAt(table, person, city)
        return cost >= closed ? Infinity : sum + cost
      }, 0)),
  }))
  const isMember = new Uint8Array(table.people)
  for (const { members } of parties) for (const person of members) isMember[person] = 1
  const alone = Uint32Array.from(sittings.kindOf.keys()).filter(person => isMember[person] === 0)
  return {
    table,
    sittings,
    alone,
    ofKind: sittings.kinds.map((_, kind) => alone.filter(person => sittings.kindOf[person] === kind)),
    parties,
  }
}

/** Places of what people of a kind in need, or not, pay: of both each kind has a row. */
export const rowOf = ({ table, sittings }: Problem, person: number): number => sittings.kindOf[person]! * 2 + table.needs[person]!
