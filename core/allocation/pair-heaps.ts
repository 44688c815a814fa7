/**
 * Many small heaps over one fixed set of entries, each entry in at most one heap: pairing heaps (Fredman, Sedgewick,
 * Sleator, Tarjan, "The pairing heap", Algorithmica 1, 1986; from memory), kept in typed arrays. An entry is a number from 0;
 * what it means is the caller's. `least[heap]` is the smallest key of a heap, `nothing` when it is empty.
 *
 * Insertion takes constant time, removal of any entry logarithmic amortised time. Among equal keys the order depends on
 * nothing but the sequence of calls.
 */
export class PairHeaps {
  /** Key of an empty heap: above every key that may be inserted. */
  static readonly nothing = 0x3fff_ffff
  readonly least: Int32Array
  /** Entry of the smallest key, -1 when the heap is empty. */
  readonly top: Int32Array
  private readonly key: Int32Array
  private readonly child: Int32Array
  private readonly next: Int32Array
  /** The left sibling, of a first child its parent, of a top -1. */
  private readonly previous: Int32Array

  constructor(heaps: number, entries: number) {
    this.least = new Int32Array(heaps).fill(PairHeaps.nothing)
    this.top = new Int32Array(heaps).fill(-1)
    // Links are written before they are read, so that untouched pages cost no memory.
    this.key = new Int32Array(entries)
    this.child = new Int32Array(entries)
    this.next = new Int32Array(entries)
    this.previous = new Int32Array(entries)
  }

  insert(heap: number, entry: number, key: number): void {
    this.key[entry] = key
    this.child[entry] = -1
    const top = this.top[heap]!
    if (top < 0 || key < this.least[heap]!) {
      this.next[entry] = -1
      this.previous[entry] = -1
      if (top >= 0) this.adopt(entry, top)
      this.top[heap] = entry
      this.least[heap] = key
    } else {
      this.adopt(top, entry)
    }
  }

  remove(heap: number, entry: number): void {
    const orphans = this.child[entry]!
    const rest = orphans < 0 ? -1 : this.combine(orphans)
    if (this.top[heap] === entry) {
      this.top[heap] = rest
      this.least[heap] = rest < 0 ? PairHeaps.nothing : this.key[rest]!
      if (rest >= 0) this.previous[rest] = -1
      return
    }
    const left = this.previous[entry]!
    const right = this.next[entry]!
    if (this.child[left] === entry) this.child[left] = right
    else this.next[left] = right
    if (right >= 0) this.previous[right] = left
    // What hung below cannot be smaller than the top.
    if (rest >= 0) this.adopt(this.top[heap]!, rest)
  }

  private adopt(parent: number, entry: number): void {
    const eldest = this.child[parent]!
    this.next[entry] = eldest
    this.previous[entry] = parent
    if (eldest >= 0) this.previous[eldest] = entry
    this.child[parent] = entry
  }

  /** Melds two trees whose sibling links are of no account; the one kept on top. */
  private meld(a: number, b: number): number {
    if (this.key[b]! < this.key[a]!) {
      this.adopt(b, a)
      return b
    }
    this.adopt(a, b)
    return a
  }

  /** Two passes over siblings: pair them from the left, then gather the pairs from the right. */
  private combine(first: number): number {
    const { next } = this
    let pairs = -1
    let at = first
    while (at >= 0) {
      const partner = next[at]!
      if (partner < 0) {
        next[at] = pairs
        pairs = at
        break
      }
      const after = next[partner]!
      const kept = this.meld(at, partner)
      next[kept] = pairs
      pairs = kept
      at = after
    }
    let result = pairs
    at = next[pairs]!
    while (at >= 0) {
      const after = next[at]!
      result = this.meld(result, at)
      at = after
    }
    next[result] = -1
    return result
  }
}
