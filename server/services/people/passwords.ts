import { createHash, randomBytes } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import { dictionary } from '@zxcvbn-ts/language-common'
import { refusal } from '../../../shared/refusal'

// Argon2id with the first recommended option for low memory of RFC 9106, section 4 (64 MiB, 3 passes), one lane.
const argon2id = { algorithm: 2, memoryCost: 65_536, timeCost: 3, parallelism: 1 } as const

/**
 * Bounds of NIST SP 800-63B-4, section 3.1.1.2 (from memory): 15 characters or more where the password may be the only factor, at least 64
 * taken, no rules of composition, none that is commonly used or expected. Characters are code points.
 */
export const passwordBounds = { least: 15, most: 200 } as const

const common = new Set(dictionary['passwords-common'].map(password => String(password).toLowerCase()))

/** @throws ProblemError naming the bound that a new password does not keep. */
export function refuseWeakPassword(password: string, signInName: string): void {
  const length = [...password].length
  if (length < passwordBounds.least) throw refusal('account.password-short', { length, least: passwordBounds.least })
  if (length > passwordBounds.most) throw refusal('account.password-long', { length, most: passwordBounds.most })
  const plain = password.normalize('NFKC').toLowerCase()
  if (common.has(plain) || isRepetition(plain)) throw refusal('account.password-common')
  const name = signInName.toLowerCase()
  if (new Set(plain).size < 3 || (name.length >= 3 && plain.replaceAll(name, '').length < 8)) throw refusal('account.password-own')
}

// A common password said twice, or a short one over and over, is as easy to guess as once.
function isRepetition(password: string): boolean {
  for (let part = 1; part <= password.length / 2; part += 1) {
    if (password.length % part === 0 && password === password.slice(0, part).repeat(password.length / part)) {
      return part < 8 || common.has(password.slice(0, part))
    }
  }
  return false
}

export function hashPassword(password: string): Promise<string> {
  return hash(password.normalize('NFKC'), argon2id)
}

/**
 * Whether a password is the one that was hashed. Without a hash it costs the same time and is never right, so that names cannot be found
 * out.
 */
export async function isPassword(passwordHash: string | null | undefined, password: string): Promise<boolean> {
  const good = await verify(passwordHash ?? await decoyHash(), password.normalize('NFKC'))
  return good && Boolean(passwordHash)
}

let decoy: Promise<string> | null = null
function decoyHash(): Promise<string> {
  decoy ??= hash(randomBytes(16).toString('hex'), argon2id)
  return decoy
}

/** SHA-256 in hex, for secrets that are long and random. */
export function sha256(text: string): string {
  return createHash('sha256').update(text).digest('hex')
}

/** A new secret that nobody can guess: 256 bits in base64url. */
export const newSecret = () => randomBytes(32).toString('base64url')
