import type { Notice } from '../notice/schema'
import type { Room, Session } from '../notice/centre-schema'
import { seatsOfRoom } from './seats'

/** A seat that somebody holds. */
export interface HeldSeat {
  city: string
  venue: string
  room: string
  session: string
  paper: string
  seat: number
  accessible: boolean
}

/**
 * What becomes of a seat that was told when rooms, sessions or test papers change: it stands, it stands at another hour or day, or it is
 * gone.
 */
export type SeatFate = 'stands' | 'another hour' | 'gone'

const hoursOf = ({ date, reporting, gateCloses, starts, ends }: Session) => [date, reporting, gateCloses, starts, ends].join()

/** Whether what differs between two notices, rooms included, can touch a seat that was given. */
export function touchesSeats(before: Notice, after: Notice): boolean {
  return (['cities', 'sessions', 'testPapers'] as const).some(part => JSON.stringify(before[part]) !== JSON.stringify(after[part]))
    || papersByPost(before) !== papersByPost(after)
}

/** Which test papers each post asks for: what people must sit changes with it. */
export const papersByPost = ({ posts }: Notice) => JSON.stringify(posts.map(post => [post.id, post.testPapers]))

/** Says of each seat that was given under one notice what becomes of it under another. */
export class StandingSeats {
  private readonly rooms: ReadonlyMap<string, Room>
  private readonly open = new Map<string, ReadonlySet<number>>()
  private readonly hours: ReadonlyMap<string, { was: string | null, is: string }>

  constructor(before: Notice, private readonly after: Notice) {
    this.rooms =
      new Map(after.cities.flatMap(city =>
        city.venues.flatMap(venue => venue.rooms.map(room => [[city.id, venue.id, room.id].join('/'), room] as const))
      ))
    const former = new Map(before.sessions.map(session => [session.id, hoursOf(session)]))
    this.hours = new Map(after.sessions.map(session => [session.id, { was: former.get(session.id) ?? null, is: hoursOf(session) }]))
  }

  /** Whether the seat is step-free now. */
  isStepFree(held: HeldSeat): boolean {
    return held.seat <= (this.roomOf(held)?.accessibleSeats ?? 0)
  }

  fateOf(held: HeldSeat, needs: boolean): SeatFate {
    const hours = this.hours.get(held.session)
    const room = this.roomOf(held)
    if (!hours || !room || !this.seatsOf(room, held).has(held.seat) || !this.isPaperHeld(held)) return 'gone'
    if (needs && !this.isStepFree(held)) return 'gone'
    return hours.was === null || hours.was === hours.is ? 'stands' : 'another hour'
  }

  private roomOf({ city, venue, room }: HeldSeat): Room | undefined {
    return this.rooms.get([city, venue, room].join('/'))
  }

  private seatsOf(room: Room, { session }: HeldSeat): ReadonlySet<number> {
    const key = `${room.id} ${session}`
    const known = this.open.get(key) ?? new Set(seatsOfRoom(room, session))
    this.open.set(key, known)
    return known
  }

  /** Whether the test paper of a seat is held in its session, which there is. A cycle without test papers has seats without one. */
  isPaperHeld({ paper, session }: HeldSeat): boolean {
    const { testPapers } = this.after
    return testPapers.length === 0 ? paper === '' : testPapers.some(one => one.id === paper && one.sessions.includes(session))
  }
}
