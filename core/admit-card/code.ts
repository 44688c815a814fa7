import { ed25519 } from '@noble/curves/ed25519.js'
import { decode, encode } from 'cborg'
import { z } from 'zod'
import { base45Decode, base45Encode } from './base45'

/**
 * The signed code of a card: COSE_Sign1 (RFC 9052) over a CBOR map (RFC 8949), EdDSA with Ed25519 (RFC 8032), written
 * in base45 (RFC 9285) behind a short prefix. A telephone with the office's public keys checks it without a network.
 */
export const codePrefix = 'LR1:'

/** What the code says. Kept short: a smaller code reads from a worse print. */
export const codeContentSchema = z.object({
  cycle: z.string(),
  application: z.string(),
  roll: z.string(),
  name: z.string(),
  born: z.string(),
  session: z.string(),
  date: z.string(),
  venue: z.string(),
  seat: z.string(),
  identity: z.string(),
  version: z.int().min(1),
  /** First 8 bytes, in hex, of the SHA-256 of the photograph printed on the card. */
  photograph: z.string(),
})
export type CodeContent = z.infer<typeof codeContentSchema>

// The order is the wire format: field number = place in this list, from 1. Append only.
const fields = [
  'cycle',
  'application',
  'roll',
  'name',
  'born',
  'session',
  'date',
  'venue',
  'seat',
  'identity',
  'version',
  'photograph',
] as const satisfies readonly (keyof CodeContent)[]

const coseHeader = { algorithm: 1, keyId: 4 } as const
const algorithmEdDSA = -8
const tagCoseSign1 = 0xd2

export interface PublicKey {
  id: string
  key: Uint8Array
}
export interface SigningKey {
  id: string
  seed: Uint8Array
}

/** The public half of a signing key. */
export function publicKeyOf(key: SigningKey): PublicKey {
  return { id: key.id, key: ed25519.getPublicKey(key.seed) }
}

/** The text that goes into the QR code. Ed25519 has no randomness: equal content gives equal text. */
export function signCode(content: CodeContent, key: SigningKey): string {
  const payload = encode(new Map<number, string | number>(fields.map((name, i) => [i + 1, content[name]])))
  const header =
    encode(new Map<number, unknown>([[coseHeader.algorithm, algorithmEdDSA], [coseHeader.keyId, new TextEncoder().encode(key.id)]]))
  const signature = ed25519.sign(toBeSigned(header, payload), key.seed)
  return writeCode(header, payload, signature)
}

function writeCode(header: Uint8Array, payload: Uint8Array, signature: Uint8Array): string {
  return codePrefix + base45Encode(Uint8Array.from([tagCoseSign1, ...encode([header, new Map(), payload, signature])]))
}

export type CodeVerdict =
  | { ok: true, content: CodeContent, keyId: string }
  | { ok: false, why: 'not-a-code' | 'unknown-key' | 'bad-signature' }

/** Whether a code was signed by one of the keys, and what it says. Nothing of an unsigned code is ever returned. */
export function verifyCode(text: string, keys: PublicKey[]): CodeVerdict {
  const parts = openCode(text.trim())
  if (!parts) return { ok: false, why: 'not-a-code' }
  const key = keys.find(k => k.id === parts.keyId)
  if (!key) return { ok: false, why: 'unknown-key' }
  if (!ed25519.verify(parts.signature, toBeSigned(parts.header, parts.payload), key.key, { zip215: false })) {
    return { ok: false, why: 'bad-signature' }
  }
  const content = readPayload(parts.payload)
  return content ? { ok: true, content, keyId: key.id } : { ok: false, why: 'not-a-code' }
}

/** Sig_structure of RFC 9052, section 4.4, without external data. */
function toBeSigned(header: Uint8Array, payload: Uint8Array): Uint8Array {
  return encode(['Signature1', header, new Uint8Array(0), payload])
}

const bytes = z.instanceof(Uint8Array)
const coseSchema = z.tuple([bytes, z.unknown(), bytes, bytes.refine(b => b.length === 64)])

function openCode(text: string) {
  if (!text.startsWith(codePrefix)) return null
  const raw = base45Decode(text.slice(codePrefix.length))
  if (!raw || raw[0] !== tagCoseSign1) return null
  const parsed = coseSchema.safeParse(decodeOrNull(raw.subarray(1)))
  if (!parsed.success) return null
  const [header, unprotected, payload, signature] = parsed.data
  // Only what the signature does not cover could be changed unseen: it must be as it was written, bit for bit (RFC 8949, section 4.2).
  if (!(unprotected instanceof Map) || unprotected.size > 0 || writeCode(header, payload, signature) !== text) return null
  const map = decodeOrNull(header)
  if (!(map instanceof Map) || map.get(coseHeader.algorithm) !== algorithmEdDSA) return null
  const keyId: unknown = map.get(coseHeader.keyId)
  return keyId instanceof Uint8Array ? { header, payload, signature, keyId: new TextDecoder().decode(keyId) } : null
}

function decodeOrNull(data: Uint8Array): unknown {
  try {
    return decode(data, { useMaps: true })
  } catch {
    // Any malformed CBOR is simply not a code; the caller words it.
    return null
  }
}

function readPayload(payload: Uint8Array): CodeContent | null {
  const map = decodeOrNull(payload)
  if (!(map instanceof Map)) return null
  const parsed = codeContentSchema.safeParse(Object.fromEntries(fields.map((name, i) => [name, map.get(i + 1)])))
  return parsed.success ? parsed.data : null
}
