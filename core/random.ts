/**
 * A small seeded generator (mulberry32, published by its author without a paper; from memory): the same seed gives the same on every
 * machine. For made-up data and for searches, never for what nobody may foresee.
 */
export class Random {
  constructor(private state: number) {}

  /** A number from 0 up to, not including, 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }

  between(low: number, high: number): number {
    return low + this.next() * (high - low)
  }

  /** A whole number from low to high, both possible. */
  whole(low: number, high: number): number {
    return Math.floor(this.between(low, high + 1))
  }

  chance(probability: number): boolean {
    return this.next() < probability
  }

  pick<T>(list: readonly T[]): T {
    const found = list[Math.floor(this.next() * list.length)]
    if (found === undefined) throw new RangeError('nothing to pick from')
    return found
  }

  /** One of some, in proportion to weights; where all are 0, as if they were alike. */
  weighed<T>(list: readonly T[], weight: (one: T) => number): T {
    const whole = list.reduce((sum, one) => sum + Math.max(0, weight(one)), 0)
    if (whole === 0) return this.pick(list)
    let left = this.next() * whole
    return list.find(one => (left -= Math.max(0, weight(one))) < 0) ?? this.pick(list.filter(one => weight(one) > 0))
  }

  /** From low to high, most often near `most` (triangular distribution). */
  around(low: number, most: number, high: number): number {
    const [u, width] = [this.next(), high - low]
    if (width <= 0) return low
    const cut = (most - low) / width
    return u < cut ? low + Math.sqrt(u * width * (most - low)) : high - Math.sqrt((1 - u) * width * (high - most))
  }
}
