/** What an examination has of a room. Seats are numbered from 1; the first of them are step-free. */
export interface RoomUse {
  seats: number
  stepFree: number
  unusable: readonly number[]
  closedIn: readonly string[]
  lost: boolean
}

/** What does not go together in a room: more step-free seats than seats, or a number that no seat has. */
export interface RoomFault {
  kind: 'stepFree' | 'unusable'
  value: number
  seats: number
}

export function roomFaults({ seats, stepFree, unusable }: RoomUse): RoomFault[] {
  return [...stepFree > seats ? [{ kind: 'stepFree' as const, value: stepFree, seats }] : [],
    ...unusable.filter(seat => seat > seats).map(value => ({ kind: 'unusable' as const, value, seats }))]
}

const sorted = <T>(list: readonly T[]) => [...new Set(list)].sort().join()

/** Whether a room is used as it was. */
export function isRoomAsBefore(before: Omit<RoomUse, 'stepFree'> & { accessibleSeats: number }, after: RoomUse): boolean {
  return before.seats === after.seats && before.accessibleSeats === after.stepFree && before.lost === after.lost
    && sorted(before.unusable) === sorted(after.unusable) && sorted(before.closedIn) === sorted(after.closedIn)
}

/** Seats of a room that people can be given in a session in which it is free; those that are step-free are among them. */
export function usableSeats({ seats, stepFree, unusable, lost }: RoomUse): { seats: number, stepFree: number } {
  const out = new Set(unusable)
  return lost
    ? { seats: 0, stepFree: 0 }
    : { seats: seats - out.size, stepFree: stepFree - [...out].filter(seat => seat <= stepFree).length }
}
