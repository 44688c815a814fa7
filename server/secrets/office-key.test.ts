import { chmodSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { addOfficeKey, readKeyFile, seal, unseal, useOfficeKey } from './office-key'

const folder = mkdtempSync(join(tmpdir(), 'lucid-key-'))
afterAll(() => rmSync(folder, { recursive: true }))
const kept = (text: string, mode: number) => {
  const path = join(folder, `${mode}-${text.length}`)
  writeFileSync(path, text)
  chmodSync(path, mode)
  return path
}

describe('the key of the office', () => {
  it('is read from a file that only its owner may read', () => {
    expect(readKeyFile(kept(Buffer.alloc(32, 7).toString('base64url'), 0o600))).toEqual([Buffer.alloc(32, 7)])
    expect(() => readKeyFile(kept(Buffer.alloc(32, 7).toString('base64url'), 0o640))).toThrow('mode 640')
    expect(() => readKeyFile(kept('too short', 0o600))).toThrow('32 in base64url')
    expect(() => readKeyFile('')).toThrow('LUCID_KEY_FILE is not set')
  })

  it('opens what it sealed, for the purpose that it was sealed for, and nothing else', () => {
    useOfficeKey(Buffer.alloc(32, 1))
    const sealed = seal(Buffer.from('a secret'), 'card-key:k1')
    expect(unseal(sealed, 'card-key:k1').toString()).toBe('a secret')
    expect(sealed.includes('a secret')).toBe(false)
    expect(() => unseal(sealed, 'card-key:k2')).toThrow('another key')
    for (let at = 1; at < sealed.length; at += 1) {
      const changed = Buffer.from(sealed)
      changed[at] = (changed[at] ?? 0) ^ 1
      expect(() => unseal(changed, 'card-key:k1')).toThrow('another key')
    }
    useOfficeKey(Buffer.alloc(32, 2))
    expect(() => unseal(sealed, 'card-key:k1')).toThrow('another key')
  })

  it('gives way to a new one: what the old one sealed stays open, what the new one seals does not open to the old one alone', () => {
    const path = kept(Buffer.alloc(32, 3).toString('base64url'), 0o600)
    useOfficeKey(...readKeyFile(path))
    const before = seal(Buffer.from('of before'), 'card-key:k1')
    addOfficeKey(path)
    expect(statSync(path).mode & 0o777).toBe(0o600)
    expect(readKeyFile(path)).toHaveLength(2)
    useOfficeKey(...readKeyFile(path))
    const since = seal(Buffer.from('of since'), 'card-key:k1')
    expect([before, since].map(sealed => unseal(sealed, 'card-key:k1').toString())).toEqual(['of before', 'of since'])
    useOfficeKey(Buffer.alloc(32, 3))
    expect(() => unseal(since, 'card-key:k1')).toThrow('another key')
  })
})
