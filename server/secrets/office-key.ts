import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { chownSync, closeSync, fsyncSync, openSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'

/**
 * What the database may hold only sealed: keys that sign, secrets of second factors. The key to them lies in a file that the operator keeps
 * outside the database, so that a copy of the database alone opens nothing. AES-256-GCM (NIST SP 800-38D) of Node's own library; what a
 * secret is for is sealed in with it.
 *
 * The file holds a key a line. The first one seals; older ones below it still open what was sealed under them, such as what an old backup
 * holds.
 */
const keyBytes = 32
const version = 1
const lengths = { iv: 12, tag: 16 }

export type OfficeKeys = readonly [Buffer, ...Buffer[]]

let known: OfficeKeys | null = null
let areFromFile = true

/** The keys from `LUCID_KEY_FILE`. @throws Error when it is not set, not of its form, or readable by others than its owner. */
function officeKeys(): OfficeKeys {
  known ??= readKeyFile(process.env.LUCID_KEY_FILE ?? '')
  return known
}

/** The key that seals. */
export const officeKey = (): Buffer => officeKeys()[0]

/** Reads a key file: lines of 32 bytes each in base64url, the key that seals first. */
export function readKeyFile(path: string): OfficeKeys {
  if (path === '') {
    throw new Error('LUCID_KEY_FILE is not set. Start the server with "npm start", which makes the file, or name the one that was kept with the backup.')
  }
  const { mode } = statSync(path)
  if ((mode & 0o077) !== 0) {
    throw new Error(`the key file ${path} can be read by others than its owner (mode ${
      (mode & 0o777).toString(8)
    }). Set it to 600 ("chmod 600 ${path}") and start again.`)
  }
  const [first, ...older] = readFileSync(path, 'utf8').trim().split(/\s+/).map(line => Buffer.from(line, 'base64url'))
  const strange = [first, ...older].find(found => found?.length !== keyBytes)
  if (!first || strange) {
    throw new Error(`the key file ${path} holds a key of ${strange?.length ?? 0} bytes; ${keyBytes} in base64url are wanted`)
  }
  return [first, ...older]
}

/**
 * Puts a new key before those of a key file; what was sealed stays open to the older ones until it is sealed anew. The file is replaced
 * whole: whoever reads it meanwhile sees the one or the other, and a machine that goes down loses no key.
 */
export function addOfficeKey(path: string): void {
  const lines = [randomBytes(keyBytes), ...readKeyFile(path)].map(one => one.toString('base64url'))
  const [fresh, folder, { uid, gid }] = [`${path}.new`, dirname(path), statSync(path)]
  rmSync(fresh, { force: true })
  writeFileSync(fresh, `${lines.join('\n')}\n`, { mode: 0o600, flush: true })
  // Whoever rotates may be another user than the one that the server runs as.
  chownSync(fresh, uid, gid)
  renameSync(fresh, path)
  const handle = openSync(folder, 'r')
  fsyncSync(handle)
  closeSync(handle)
  known = readKeyFile(path)
}

/** Other keys than those of the file, for tests. */
export function useOfficeKey(...others: [Buffer, ...Buffer[]]): void {
  known = others
  areFromFile = false
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
  const opened = openedBy(officeKeys(), sealed, purpose) ?? openedBy(keysSince(), sealed, purpose)
  if (!opened) {
    throw new Error(`the secret of ${purpose} cannot be opened: LUCID_KEY_FILE names another key than the one it was sealed with`)
  }
  return opened
}

function openedBy(keys: readonly Buffer[], sealed: Buffer, purpose: string): Buffer | null {
  const [iv, tag, secret] = [sealed.subarray(1, 1 + lengths.iv), sealed.subarray(1 + lengths.iv, 1 + lengths.iv + lengths.tag),
    sealed.subarray(1 + lengths.iv + lengths.tag)]
  for (const key of keys) {
    const decipher = createDecipheriv('aes-256-gcm', key, iv, { authTagLength: lengths.tag }).setAAD(Buffer.from(purpose)).setAuthTag(tag)
    try {
      return Buffer.concat([decipher.update(secret), decipher.final()])
    } catch {
      // Another key sealed it, or nobody: the next one tells.
    }
  }
  return null
}

/** Keys that came into the file since this process read it: another one may seal with them already. */
function keysSince(): readonly Buffer[] {
  if (!areFromFile) return []
  const before = officeKeys()
  known = null
  return officeKeys().filter(key => !before.some(old => old.equals(key)))
}

const textMark = 'sealed:'

/** The same for texts in columns of text. */
export const sealText = (secret: string, purpose: string): string => textMark + seal(Buffer.from(secret), purpose).toString('base64url')

/** A text that was sealed; one from before there was a key is given as it is. */
export function unsealText(kept: string, purpose: string): string {
  return kept.startsWith(textMark) ? unseal(Buffer.from(kept.slice(textMark.length), 'base64url'), purpose).toString() : kept
}
