/** A small seeded generator (mulberry32): the demo is the same on every machine. For made-up data only. */
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
}
