import { ed25519 } from '@noble/curves/ed25519.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js'
import { z } from 'zod'
import { GrowingTree, isSame, leafHash, type Hash } from './merkle'

/**
 * The log of acts, sealed: each row is a leaf of one growing Merkle tree, whose head is signed every minute. Whoever kept a head can tell
 * later from an export of the log whether anything that was sealed by then was changed, taken away, put in or dated back.
 */

/** One row of the log as it is exported. What may be erased one day, since it tells of people, stands in the leaf only as a salted hash. */
export const sealedRowSchema = z.strictObject({
  /** Place in the tree, from 0. */
  place: z.int().min(0),
  id: z.int(),
  at: z.iso.datetime(),
  actor: z.string(),
  act: z.string(),
  subjectKind: z.string(),
  subject: z.string(),
  cycle: z.string().nullable(),
  outsideDates: z.boolean(),
  noticeVersion: z.int().nullable(),
  requestId: z.string(),
  /** SHA-256 of salt and personal values, in hex. */
  commitment: z.string().regex(/^[0-9a-f]{64}$/),
  /** Null once it was erased. */
  personal: z.strictObject({ salt: z.string(), reason: z.string().nullable(), before: z.unknown(), after: z.unknown() }).nullable(),
  /** The leaf's hash as it was sealed, in hex. */
  leaf: z.string().regex(/^[0-9a-f]{64}$/),
})
export type SealedRow = z.infer<typeof sealedRowSchema>
export type RowValues = Omit<SealedRow, 'leaf' | 'commitment' | 'place'>

/** A signed head: what the log was when it held so many rows. */
export const sealedHeadSchema = z.strictObject({
  size: z.int().min(0),
  root: z.string().regex(/^[0-9a-f]{64}$/),
  at: z.iso.datetime(),
  key: z.string(),
  signature: z.string().regex(/^[0-9a-f]{128}$/),
})
export type SealedHead = z.infer<typeof sealedHeadSchema>

/** JSON with the members of every object in one order, so that equal values give equal bytes. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`
  if (typeof value === 'object' && value !== null) {
    return `{${
      Object.entries(value).filter(([, inner]) => inner !== undefined).sort(([a], [b]) => a < b ? -1 : 1).map(([key, inner]) =>
        `${JSON.stringify(key)}:${canonical(inner)}`
      ).join(',')
    }}`
  }
  return JSON.stringify(value) ?? 'null'
}

/** The salted hash of what a row tells of people. */
export function commitmentOf({ salt, reason, before, after }: NonNullable<SealedRow['personal']>): string {
  return bytesToHex(sha256(concatBytes(
    utf8ToBytes(salt),
    utf8ToBytes(canonical({ reason, before: before ?? null, after: after ?? null })),
  )))
}

/** The leaf of a row: everything that is never erased, and the commitment to the rest. */
export function leafOf(row: Omit<SealedRow, 'leaf' | 'personal' | 'place'>): Hash {
  const { id, at, actor, act, subjectKind, subject, cycle, outsideDates, noticeVersion, requestId, commitment } = row
  return leafHash(utf8ToBytes(canonical({
    id,
    at,
    actor,
    act,
    subjectKind,
    subject,
    cycle,
    outsideDates,
    noticeVersion,
    requestId,
    commitment,
  })))
}

const headText = ({ size, root, at, key }: Omit<SealedHead, 'signature'>) =>
  utf8ToBytes(`lucid-roster log head 1\n${size}\n${root}\n${at}\n${key}`)

/** Signs a head (Ed25519, RFC 8032). */
export function signHead(head: Omit<SealedHead, 'signature' | 'key'>, key: { id: string, seed: Uint8Array }): SealedHead {
  const named = { ...head, key: key.id }
  return { ...named, signature: bytesToHex(ed25519.sign(headText(named), key.seed)) }
}

export function isSigned(head: SealedHead, keys: readonly { id: string, key: Uint8Array }[]): boolean {
  const key = keys.find(one => one.id === head.key)
  return key !== undefined && ed25519.verify(hexToBytes(head.signature), headText(head), key.key)
}

/** What is wrong with a sealed log, and where: the place of the first row that it shows in. */
export type LogFault =
  | { code: 'head-unsigned', size: number }
  | { code: 'row-missing', place: number }
  | { code: 'personal-changed', place: number }
  | { code: 'row-changed', place: number }
  | { code: 'head-differs', size: number, from: number }
  | { code: 'rows-too-few', size: number, rows: number }
  | { code: 'dated-back', place: number }
  | { code: 'not-sealed', place: number }
  | { code: 'erased-unasked', place: number }

/** Rows of accounts belong to no cycle: they go when all applications of the account are erased. */
const ofAccounts = ''

/** Longest that a row may be older than the head before it: work that runs long writes rows of when it began. */
const dateTolerance = 3600_000

/** Where values of a cycle are gone: the first place, and that of each application; null once they are more than are released alone. */
interface Erased {
  place: number
  people: Map<string, number> | null
}
/** Most applications of a cycle that the check remembers one by one: beyond that only a release of the whole cycle explains them. */
const mostAlone = 100_000

/**
 * Checks an export row by row, in the order of their places; memory stays flat however long it is. Heads come in the order of their sizes;
 * of what no head covers yet nothing is said.
 */
export class LogCheck {
  private readonly tree = new GrowingTree()
  private nextHead = 0
  private before: SealedHead | null = null
  /** By cycle, where personal values are gone; and the cycles, and the applications by their cycle, that were released for that. */
  private readonly erased = new Map<string, Erased>()
  private readonly released = new Set<string>()
  private readonly releasedAlone = new Map<string, string>()
  fault: LogFault | null = null

  constructor(private readonly heads: readonly SealedHead[], keys: readonly { id: string, key: Uint8Array }[]) {
    const forged = heads.find(head => !isSigned(head, keys))
    if (forged) this.fault = { code: 'head-unsigned', size: forged.size }
  }

  get rows(): number {
    return this.tree.size
  }

  /** Takes the next row; whether to go on. */
  row(row: SealedRow): boolean {
    if (this.fault) return false
    this.fault = this.faultOf(row)
    if (this.fault) return false
    if (row.act === 'release-erasing') this.released.add(row.subject)
    if (row.act === 'release-data') this.releasedAlone.set(row.subject, row.cycle ?? ofAccounts)
    if (row.act === 'keep-data') this.releasedAlone.delete(row.subject)
    if (row.personal === null) this.noteErased(row)
    this.tree.add(hexToBytes(row.leaf))
    while (this.heads[this.nextHead]?.size === this.tree.size) {
      const head = this.heads[this.nextHead] as SealedHead
      if (!isSame(hexToBytes(head.root), this.tree.root())) {
        this.fault = { code: 'head-differs', size: head.size, from: this.before?.size ?? 0 }
      }
      this.before = head
      this.nextHead += 1
    }
    return this.fault === null
  }

  /** What is wrong with the whole; null when nothing is. */
  end(): LogFault | null {
    const head = this.heads[this.nextHead]
    if (!this.fault && head) this.fault = { code: 'rows-too-few', size: head.size, rows: this.tree.size }
    const unasked = [...this.erased].flatMap(([cycle, erased]) => this.unaskedIn(cycle, erased) ?? [])
    if (!this.fault && unasked.length > 0) this.fault = { code: 'erased-unasked', place: Math.min(...unasked) }
    return this.fault
  }

  private noteErased({ cycle, place, subjectKind, subject }: SealedRow): void {
    const erased = this.erased.get(cycle ?? ofAccounts) ?? { place, people: new Map<string, number>() }
    this.erased.set(cycle ?? ofAccounts, erased)
    const who = subjectKind === 'application' ? subject : ''
    if (!erased.people || erased.people.has(who)) return
    erased.people.set(who, place)
    if (erased.people.size > mostAlone) erased.people = null
  }

  /** The first place of a cycle where values are gone that nobody had released: the cycle whole, or their application alone. */
  private unaskedIn(cycle: string, { place, people }: Erased): number | null {
    if (this.released.has(cycle)) return null
    if (cycle === ofAccounts) return this.released.size + this.releasedAlone.size > 0 ? null : place
    if (!people) return place
    // What was proposed of somebody does not tell of whom once it is erased.
    const isAsked = (who: string) => who === '' ? [...this.releasedAlone.values()].includes(cycle) : this.releasedAlone.has(who)
    return [...people].find(([who]) => !isAsked(who))?.[1] ?? null
  }

  private faultOf(row: SealedRow): LogFault | null {
    const { place } = row
    if (place !== this.tree.size) return { code: 'row-missing', place: this.tree.size }
    if (row.personal && commitmentOf(row.personal) !== row.commitment) return { code: 'personal-changed', place }
    if (bytesToHex(leafOf(row)) !== row.leaf) return { code: 'row-changed', place }
    if (this.before && Date.parse(row.at) < Date.parse(this.before.at) - dateTolerance) return { code: 'dated-back', place }
    return null
  }
}
