import { assignSeats, seatKey, type Seat } from './seats'

/** A seat for one test paper; `paper` is empty where a cycle has none. */
export interface Sitting extends Seat {
  paper: string
}

/** Somebody who sits several papers in one city: the session of each. `has` are the seats they have there already. */
export interface Sitter {
  id: string
  needsAccessible: boolean
  papers: readonly string[]
  sessions: readonly string[]
  has?: readonly Sitting[]
}

/**
 * The seats of all people of one city in a cycle with test papers. Whoever has seats keeps them where they are open, suit, and lie in the
 * right sessions; a chair of another session of the same person is given next, so that as few as can be change rooms between two papers;
 * the rest are filled in the order of ids. Step-free seats as in `assignSeats`: somebody in need comes before whoever needs none.
 *
 * @param open every seat of the city that may be given out.
 * @returns for each person the seats in the order of their papers.
 * @throws RangeError when the people do not fit.
 */
export function assignSittings(city: string, open: readonly Seat[], people: readonly Sitter[]): Map<string, Sitting[]> {
  const given = new Map(people.map(person => [person.id, person.papers.map((): Seat | null => null)]))
  const ordered = [...people].sort((a, b) => a.id < b.id ? -1 : a.id > b.id ? 1 : 0)
  for (
    const session of [...new Set(open.map(seat => seat.session)), ...new Set(people.flatMap(person => person.sessions))].filter((
      s,
      i,
      all,
    ) => all.indexOf(s) === i)
  ) {
    const free = new Map(open.filter(seat => seat.session === session).map(seat => [seatKey(seat), seat]))
    const sitters = ordered.flatMap(person => person.sessions.flatMap((s, at) => s === session ? [{ person, at }] : []))
    const inNeed = sitters.filter(({ person }) => person.needsAccessible).length
    const chairs = new Chairs(free, inNeed)
    for (const need of [true, false]) {
      for (const wanted of [ownSeats, otherChairs]) {
        for (const { person, at } of sitters) {
          const own = given.get(person.id)
          if (!own || own[at] || person.needsAccessible !== need) continue
          own[at] = chairs.take(wanted(person, own, session), need)
        }
      }
    }
    const rest = sitters.filter(({ person, at }) => !given.get(person.id)?.[at])
    const seats = assignSeats(
      city,
      [...free.values()],
      rest.map(({ person }) => ({ id: person.id, needsAccessible: person.needsAccessible })),
    )
    for (const { person, at } of rest) {
      const [own, seat] = [given.get(person.id), seats.get(person.id)]
      if (own && seat) own[at] = seat
    }
  }
  return new Map(people.map(
    ({ id, papers }) => [id, (given.get(id) ?? []).flatMap((seat, at) => seat ? [{ ...seat, paper: papers[at] ?? '' }] : [])]
  ))
}

const ownSeats = ({ has }: Sitter, _: unknown, session: string) => (has ?? []).filter(seat => seat.session === session)
const otherChairs = ({ has }: Sitter, own: readonly (Seat | null)[], session: string) =>
  [...own.flatMap(seat => seat ?? []), ...has ?? []].map(seat => ({ ...seat, session }))

/** Seats of one session while chairs are asked for by name. */
class Chairs {
  private accessible: number

  constructor(private readonly free: Map<string, Seat>, private inNeed: number) {
    this.accessible = [...free.values()].filter(seat => seat.accessible).length
  }

  /** The first of the chairs that is free and suits; whoever needs no step-free one takes one only when there are more than are needed. */
  take(wanted: readonly Seat[], need: boolean): Seat | null {
    for (const one of wanted) {
      const seat = this.free.get(seatKey(one))
      if (!seat || (need ? !seat.accessible : seat.accessible && this.accessible <= this.inNeed)) continue
      this.free.delete(seatKey(seat))
      if (seat.accessible) this.accessible -= 1
      if (need) this.inNeed -= 1
      return seat
    }
    return null
  }
}
