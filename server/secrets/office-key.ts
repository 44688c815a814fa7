import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { readFileSync, statSync } from 'node:fs'

/**
 * What the database may hold only sealed: keys that sign, secrets of second factors. The key to them lies in a file that the operator keeps outside the database, so
 * that a copy of the database alone opens nothing. AES-256-GCM (NIST SP 800-38D) of Node's own library; what a secret is for is sealed in with it.
 */
const keyBytes = 32
const version = 1
const lengths = { iv: 12, tag: 16 }

let key: Buffer | null = null

/** The key from `LUCID_KEY_FILE`, read once. @throws Error when it is not set, not of its form, or readable by others than its owner. */
export function officeKey(): Buffer {
  key ??= readKeyFile(process.env.LUCID_KEY_FILE ?? '')
  return key
}

/** Reads a key file: 32 bytes in base64url. */
export function readKeyFile(path: string): Buffer {
  if (path === '') throw new Error('LUCID_KEY_FILE is not set. Start the server with "npm start", which makes the file, or name the one that was kept with the backup.')
  const { mode } = statSync(path)
  if ((mode & 0o077) !== 0) throw new Error(`the key file ${path} can be read by others than its owner (mode ${(mode & 0o777).toString(8)}). Set it to 600 ("chmod 600 ${path}") and start again.`)
  const found = Buffer.from(readFileSync(path, 'utf8').trim(), 'base64url')
  if (found.length !== keyBytes) throw new Error(`the key file ${path} holds ${found.length} bytes; ${keyBytes} in base64url are wanted`)
  return found
}

/** Another key than that of the file, for tests. */
export function useOfficeKey(other: Buffer): void {
  key = other
}

/** Seals a secret; `purpose` says whose it is and must be told again to open it. */
export function seal(secret: Uint8Array, purpose: string): Buffer {
  const iv = randomBytes(lengths.iv)
  const cipher = createCipheriv('aes-256-gcm', officeKey(), iv, { authTagLength: lengths.tag }).setAAD(Buffer.from(purpose))
  const sealed = Buffer.concat([cipher.update(secret), cipher.final()])
  return Buffer.concat([Buffer.of(version), iv, cipher.getAuthTag(), sealed])
}

/** Opens what was sealed. @throws Error when the key is another one, or the bytes were changed. */
export function unseal(sealed: Buffer, purpose: string): Buffer {
  if (sealed[0] !== version || sealed.length < 1 + lengths.iv + lengths.tag) throw new Error(`what should be sealed for ${purpose} is not`)
  const iv = sealed.subarray(1, 1 + lengths.iv)
  const decipher = createDecipheriv('aes-256-gcm', officeKey(), iv, { authTagLength: lengths.tag }).setAAD(Buffer.from(purpose)).setAuthTag(sealed.subarray(1 + lengths.iv, 1 + lengths.iv + lengths.tag))
  try {
    return Buffer.concat([decipher.update(sealed.subarray(1 + lengths.iv + lengths.tag)), decipher.final()])
  } catch {
    throw new Error(`the secret of ${purpose} cannot be opened: LUCID_KEY_FILE names another key than the one it was sealed with`)
  }
}

const textMark = 'sealed:'

/** The same for texts in columns of text. */
export const sealText = (secret: string, purpose: string): string => textMark + seal(Buffer.from(secret), purpose).toString('base64url')

/** A text that was sealed; one from before there was a key is given as it is. */
export function unsealText(kept: string, purpose: string): string {
  return kept.startsWith(textMark) ? unseal(Buffer.from(kept.slice(textMark.length), 'base64url'), purpose).toString() : kept
}

export const isSealedText = (kept: string): boolean => kept.startsWith(textMark)
