import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { hexToBytes } from '@noble/hashes/utils.js'
import { describe, expect, it } from 'vitest'
import { publicKeyOf } from '../admit-card/code'
import { consistencyProof, GrowingTree, inclusionProof, isConsistent, isIncluded, isSame, leafHash, rootOf } from './merkle'
import { commitmentOf, LogCheck, leafOf, signHead, type SealedHead, type SealedRow } from './sealed-log'

const sha = (...parts: Uint8Array[]) => createHash('sha256').update(Buffer.concat(parts)).digest()

/** MTH of RFC 9162, section 2.1.1, written from its text alone and with another hash library. */
function plainRoot(entries: readonly Uint8Array[]): Buffer {
  if (entries.length === 0) return sha(Buffer.alloc(0))
  if (entries.length === 1) return sha(Buffer.of(0), entries[0] ?? Buffer.alloc(0))
  const k = 2 ** Math.floor(Math.log2(entries.length - 1))
  return sha(Buffer.of(1), plainRoot(entries.slice(0, k)), plainRoot(entries.slice(k)))
}
const entriesOf = (n: number) => Array.from({ length: n }, (_, i) => Buffer.from(`entry ${i}`))
const leavesOf = (n: number) => entriesOf(n).map(leafHash)

describe('a Merkle tree', () => {
  it('has the roots that the standard defines, grown or at once', () => {
    const tree = new GrowingTree()
    for (let n = 0; n <= 70; n += 1) {
      expect(Buffer.from(tree.root()).equals(plainRoot(entriesOf(n)))).toBe(true)
      expect(isSame(rootOf(leavesOf(n)), tree.root())).toBe(true)
      tree.add(leafHash(Buffer.from(`entry ${n}`)))
    }
  })

  // RFC 9162, section 2.1.5: the tree of seven leaves, with the letters of its drawing.
  it("gives the proofs of the standard's example of seven leaves", () => {
    const d = leavesOf(7)
    const node = (x: Uint8Array, y: Uint8Array) => new Uint8Array(sha(Buffer.of(1), x, y))
    const [a, b, c, dd, e, f, j] = d as [Uint8Array, Uint8Array, Uint8Array, Uint8Array, Uint8Array, Uint8Array, Uint8Array]
    const [g, h, i] = [node(a, b), node(c, dd), node(e, f)]
    const [k, l] = [node(g, h), node(i, j)]
    expect(rootOf(d)).toEqual(node(k, l))
    expect(inclusionProof(0, d)).toEqual([b, h, l])
    expect(inclusionProof(3, d)).toEqual([c, g, l])
    expect(inclusionProof(4, d)).toEqual([f, j, k])
    expect(inclusionProof(6, d)).toEqual([i, k])
    expect(consistencyProof(3, d)).toEqual([c, dd, g, l])
    expect(consistencyProof(4, d)).toEqual([l])
    expect(consistencyProof(6, d)).toEqual([i, j, k])
  })

  it('proves what is in it and what it grew from, and nothing else', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 60 }), fc.nat(), fc.nat(), (n, x, y) => {
      const [leaves, place, first] = [leavesOf(n), x % n, 1 + y % n]
      const root = rootOf(leaves)
      const proof = inclusionProof(place, leaves)
      expect(isIncluded(leaves[place] as Uint8Array, place, n, proof, root)).toBe(true)
      expect(isIncluded(leafHash(Buffer.from('another')), place, n, proof, root)).toBe(false)
      if (n > 1) expect(isIncluded(leaves[place] as Uint8Array, (place + 1) % n, n, proof, root)).toBe(false)
      const grown = consistencyProof(first, leaves)
      expect(isConsistent(first, n, grown, rootOf(leaves.slice(0, first)), root)).toBe(true)
      const other = [leafHash(Buffer.from('another')), ...leaves.slice(1, first)]
      expect(isConsistent(first, n, grown, rootOf(other), root)).toBe(false)
    }))
  })
})

const seed = new Uint8Array(32).fill(3)
const keys = [publicKeyOf({ id: 'k1', seed })]
const at = (minute: number) => new Date(Date.UTC(2026, 10, 24, 12, minute)).toISOString()

/** A log of so many rows, a minute and a head after every third. */
function sealed(count: number, releasedAt = -1, alone: Partial<SealedRow> = {}): { rows: SealedRow[], heads: SealedHead[] } {
  const [tree, heads] = [new GrowingTree(), [] as SealedHead[]]
  const rows = Array.from({ length: count }, (_, place): SealedRow => {
    const personal = { salt: `salt ${place}`, reason: null, before: null, after: { name: `Person ${place}`, list: [1, { b: 2, a: 'ä' }] } }
    const values = {
      id: place + 10,
      at: at(place),
      actor: 'officer',
      ...(place === releasedAt
        ? { act: 'release-erasing', subjectKind: 'cycle', subject: 'HL27', ...alone }
        : { act: 'save-answers', subjectKind: 'application', subject: `a${place % 4}` }),
      cycle: 'HL27',
      outsideDates: false,
      noticeVersion: 1,
      requestId: 'r',
      commitment: commitmentOf(personal),
    }
    const leaf = leafOf(values)
    tree.add(leaf)
    if ((place + 1) % 3 === 0) {
      heads.push(signHead({ size: place + 1, root: Buffer.from(tree.root()).toString('hex'), at: at(place + 1) }, { id: 'k1', seed }))
    }
    return { ...values, place, personal, leaf: Buffer.from(leaf).toString('hex') }
  })
  return { rows, heads }
}

function faultOf(rows: readonly SealedRow[], heads: readonly SealedHead[], known = keys): LogCheck['fault'] {
  const check = new LogCheck(heads, known)
  for (const row of rows) if (!check.row(row)) break
  return check.end()
}
/** A row sealed anew, as somebody would who can write to every table. */
const resealed = (row: SealedRow, change: Partial<SealedRow>): SealedRow => {
  const changed = { ...row, ...change }
  const commitment = changed.personal ? commitmentOf(changed.personal) : changed.commitment
  return { ...changed, commitment, leaf: Buffer.from(leafOf({ ...changed, commitment })).toString('hex') }
}

describe('a sealed log', () => {
  const { rows, heads } = sealed(20)
  const changedAt = (place: number, change: (row: SealedRow) => SealedRow) => rows.map((row, i) => i === place ? change(row) : row)

  it('that nobody touched is whole, also when personal values were erased', () => {
    expect(faultOf(rows, heads)).toBeNull()
    const over = sealed(20, 15)
    expect(faultOf(over.rows.map((row, place) => place < 15 ? { ...row, personal: null } : row), over.heads)).toBeNull()
    // Released alone: the rows of that application, and no others.
    const one = sealed(20, 15, { act: 'release-data', subjectKind: 'application', subject: 'a2' })
    const without = (...gone: string[]) =>
      one.rows.map(row => gone.includes(row.subject) && row.place < 15 ? { ...row, personal: null } : row)
    expect(faultOf(without('a2'), one.heads)).toBeNull()
    expect(faultOf(without('a2', 'a3'), one.heads)).toEqual({ code: 'erased-unasked', place: 3 })
    // Nobody had released the cycle.
    expect(faultOf(changedAt(7, row => ({ ...row, personal: null })), heads)).toEqual({ code: 'erased-unasked', place: 7 })
    // The order of members is the database's own affair.
    expect(faultOf(
      changedAt(
        4,
        row => ({ ...row, personal: row.personal && { ...row.personal, after: { list: [1, { a: 'ä', b: 2 }], name: 'Person 4' } } }),
      ),
      heads,
    )).toBeNull()
  })

  it('tells the first place where a row was changed, taken away, put in, or dated back', () => {
    expect(faultOf(changedAt(7, row => ({ ...row, actor: 'somebody else' })), heads)).toEqual({ code: 'row-changed', place: 7 })
    expect(faultOf(changedAt(7, row => ({ ...row, personal: row.personal && { ...row.personal, after: { name: 'Another' } } })), heads))
      .toEqual({ code: 'personal-changed', place: 7 })
    expect(faultOf(rows.filter((_, i) => i !== 7), heads)).toEqual({ code: 'row-missing', place: 7 })
    expect(faultOf(rows.slice(0, 16), heads)).toEqual({ code: 'rows-too-few', size: 18, rows: 16 })
    // Sealed anew by somebody who cannot sign: between the last head that holds and the first that does not.
    expect(faultOf(changedAt(7, row => resealed(row, { act: 'submit' })), heads)).toEqual({ code: 'head-differs', size: 9, from: 6 })
    const added = [...rows.slice(0, 7), resealed(rows[7] as SealedRow, { id: 99 }), ...rows.slice(7)].map((row, place) => ({
      ...row,
      place,
    }))
    expect(faultOf(added, heads)).toEqual({ code: 'head-differs', size: 9, from: 6 })
    expect(faultOf([...rows, resealed(rows[3] as SealedRow, { place: 20, at: '2026-11-01T12:00:00.000Z' })], heads)).toEqual({
      code: 'dated-back',
      place: 20,
    })
  })

  it('believes no head that its keys did not sign', () => {
    const forged = heads.map((head, i) => i === 2 ? { ...head, root: heads[1]?.root ?? '' } : head)
    expect(faultOf(rows, forged)).toEqual({ code: 'head-unsigned', size: 9 })
    expect(faultOf(rows, heads, [publicKeyOf({ id: 'k1', seed: hexToBytes('07'.repeat(32)) })])).toEqual({ code: 'head-unsigned', size: 3 })
  })
})
