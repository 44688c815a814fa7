import { sha256 } from '@noble/hashes/sha2.js'

/**
 * Merkle trees as RFC 9162 (Certificate Transparency, version 2) defines them in section 2.1: the hash of a leaf is SHA-256 of a zero byte
 * and the entry, that of a node SHA-256 of a one byte and the two below; a tree of n leaves splits at the largest power of two below n.
 */
export type Hash = Uint8Array

const joined = (first: number, ...parts: Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(1 + parts.reduce((n, part) => n + part.length, 0))
  whole[0] = first
  let at = 1
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

export const leafHash = (entry: Uint8Array): Hash => sha256(joined(0, entry))
const nodeHash = (left: Hash, right: Hash): Hash => sha256(joined(1, left, right))

/** Whether two hashes are the same. */
export const isSame = (a: Hash, b: Hash): boolean => a.length === b.length && a.every((byte, i) => byte === b[i])

/**
 * A tree that leaves are added to, one after the other. Of what was added only the roots of its full subtrees are kept, the largest first:
 * one for each bit that is set in its size.
 */
export class GrowingTree {
  constructor(private peaks: Hash[] = [], private count = 0) {}

  get size(): number {
    return this.count
  }

  get roots(): readonly Hash[] {
    return this.peaks
  }

  add(leaf: Hash): void {
    let hash = leaf
    // As many full subtrees of the same size stand last as ones stand at the end of the size.
    for (let bits = this.count; bits % 2 === 1; bits = Math.floor(bits / 2)) hash = nodeHash(this.peaks.pop() ?? hash, hash)
    this.peaks.push(hash)
    this.count += 1
  }

  /** The root; of no leaves SHA-256 of nothing. */
  root(): Hash {
    const [last, ...rest] = [...this.peaks].reverse()
    if (!last) return sha256(new Uint8Array())
    return rest.reduce((right, left) => nodeHash(left, right), last)
  }
}

/** The root of the tree over leaves. */
export function rootOf(leaves: readonly Hash[]): Hash {
  const tree = new GrowingTree()
  leaves.forEach(leaf => tree.add(leaf))
  return tree.root()
}

/** The largest power of two below n; n is at least 2. */
function splitOf(n: number): number {
  let split = 1
  while (split * 2 < n) split *= 2
  return split
}

/** PATH(m, D_n), section 2.1.3.1: what proves that the leaf at place m, from 0, is in the tree. */
export function inclusionProof(place: number, leaves: readonly Hash[]): Hash[] {
  if (leaves.length <= 1) return []
  const split = splitOf(leaves.length)
  return place < split
    ? [...inclusionProof(place, leaves.slice(0, split)), rootOf(leaves.slice(split))]
    : [...inclusionProof(place - split, leaves.slice(split)), rootOf(leaves.slice(0, split))]
}

/** Section 2.1.3.2: whether a proof leads from a leaf to the root of a tree of so many leaves. */
export function isIncluded(leaf: Hash, place: number, size: number, proof: readonly Hash[], root: Hash): boolean {
  if (place >= size) return false
  let [fn, sn, hash] = [place, size - 1, leaf]
  for (const one of proof) {
    if (sn === 0) return false
    if (fn % 2 === 1 || fn === sn) {
      hash = nodeHash(one, hash)
      while (fn % 2 === 0 && fn !== 0) [fn, sn] = [fn / 2, Math.floor(sn / 2)]
    } else hash = nodeHash(hash, one)
    ;[fn, sn] = [Math.floor(fn / 2), Math.floor(sn / 2)]
  }
  return sn === 0 && isSame(hash, root)
}

/** PROOF(m, D_n), section 2.1.4.1: what proves that the tree of the first m leaves is the beginning of the whole. */
export function consistencyProof(first: number, leaves: readonly Hash[]): Hash[] {
  const sub = (m: number, part: readonly Hash[], isWhole: boolean): Hash[] => {
    if (m === part.length) return isWhole ? [] : [rootOf(part)]
    const split = splitOf(part.length)
    return m <= split
      ? [...sub(m, part.slice(0, split), isWhole), rootOf(part.slice(split))]
      : [...sub(m - split, part.slice(split), false), rootOf(part.slice(0, split))]
  }
  return first === 0 ? [] : sub(first, leaves, true)
}

/** Section 2.1.4.2: whether a proof leads from the root of a smaller tree to that of a larger one that it begins. */
export function isConsistent(first: number, second: number, proof: readonly Hash[], firstRoot: Hash, secondRoot: Hash): boolean {
  if (first === second) return proof.length === 0 && isSame(firstRoot, secondRoot)
  if (first === 0 || first > second) return first === 0 && proof.length === 0
  const isPower = Number.isInteger(Math.log2(first))
  const path = isPower ? [firstRoot, ...proof] : [...proof]
  const begin = path.shift()
  if (!begin) return false
  let [fn, sn] = [first - 1, second - 1]
  while (fn % 2 === 1) [fn, sn] = [Math.floor(fn / 2), Math.floor(sn / 2)]
  let [fr, sr] = [begin, begin]
  for (const one of path) {
    if (sn === 0) return false
    if (fn % 2 === 1 || fn === sn) {
      ;[fr, sr] = [nodeHash(one, fr), nodeHash(one, sr)]
      while (fn % 2 === 0 && fn !== 0) [fn, sn] = [fn / 2, Math.floor(sn / 2)]
    } else sr = nodeHash(sr, one)
    ;[fn, sn] = [Math.floor(fn / 2), Math.floor(sn / 2)]
  }
  return sn === 0 && isSame(fr, firstRoot) && isSame(sr, secondRoot)
}
