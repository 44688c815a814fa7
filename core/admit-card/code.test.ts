import { ed25519 } from '@noble/curves/ed25519.js'
import fc from 'fast-check'
import { createPrivateKey, sign } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { base45Decode, base45Encode } from './base45'
import { codePrefix, publicKeyOf, signCode, verifyCode, type CodeContent } from './code'

const seed = Uint8Array.from({ length: 32 }, (_, i) => i)
const key = { id: 'k1', seed }
const keys = [publicKeyOf(key)]
const content: CodeContent = {
  cycle: 'HL27',
  application: 'HL27-0048213-6',
  roll: '07000136',
  name: 'कामिशा Osk-Anundé',
  born: '2004-02-29',
  session: 'Forenoon session',
  date: '2027-01-02',
  venue: 'Harbour School',
  seat: 'Hall A / 12',
  identity: "Seafarer's book ending 1923",
  version: 1,
  photograph: '0123456789abcdef',
}
const text = signCode(content, key)
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex')

describe('base45', () => {
  // The examples of RFC 9285, sections 4.3 and 4.4.
  it.each([['AB', 'BB8'], ['Hello!!', '%69 VD92EX0'], ['base-45', 'UJCLQE7W581'], ['ietf!', 'QED8WEX0']])(
    'writes %s as %s and reads it back',
    (plain, coded) => {
      expect(base45Encode(new TextEncoder().encode(plain))).toBe(coded)
      expect(new TextDecoder().decode(base45Decode(coded) ?? undefined)).toBe(plain)
    },
  )

  it.each(['A', 'GGW', '::', 'AB$c', 'ABCD'])('refuses "%s"', (coded) => {
    expect(base45Decode(coded)).toBeNull()
  })

  it('brings any bytes back', () => {
    fc.assert(fc.property(
      fc.uint8Array({ maxLength: 200 }),
      bytes => hex(base45Decode(base45Encode(bytes)) ?? new Uint8Array(1)) === hex(bytes),
    ))
  })
})

describe('Ed25519 as used here', () => {
  // RFC 8032, section 7.1, tests 1 to 3.
  it.each([
    ['9d61b19deffd5a60ba844af492ec2cc44449c5697b326919703bac031cae7f60', 'd75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a',
      '',
      'e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46bd25bf5f0595bbe24655141438e7a100b'],
    ['4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb', '3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c',
      '72',
      '92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00'],
    ['c5aa8df43f9f837bedb7442f31dcb7b166d38535076f094b85ce3a2e0b4458f7', 'fc51cd8e6218a1a38da47ed00230f0580816ed13ba3303ac5deb911548908025',
      'af82',
      '6291d657deec24024827e69c3abe01a30ce548a284743a445e3680d7db5ac3ac18ff9b538d16f290ae67f760984dc6594a7c15e9716ed28dc027beceea1ec40a'],
  ])('signs with %s as the standard does', (secret, open, message, signature) => {
    const [secretBytes, messageBytes] = [Buffer.from(secret, 'hex'), Buffer.from(message, 'hex')]
    expect(hex(publicKeyOf({ id: 'x', seed: secretBytes }).key)).toBe(open)
    expect(hex(ed25519.sign(messageBytes, secretBytes))).toBe(signature)
    const der = Buffer.concat([Buffer.from('302e020100300506032b657004220420', 'hex'), secretBytes])
    expect(sign(null, messageBytes, createPrivateKey({ key: der, format: 'der', type: 'pkcs8' })).toString('hex')).toBe(signature)
  })
})

describe('the signed code of a card', () => {
  it('says what was signed, in letters that fit the alphanumeric mode of a QR code', () => {
    expect(text).toMatch(/^LR1:[0-9A-Z $%*+\-./:]+$/)
    expect(verifyCode(text, keys)).toEqual({ ok: true, content, keyId: 'k1' })
    expect(signCode(content, key)).toBe(text)
  })

  it('is refused with any one letter changed', () => {
    const letters = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:'
    fc.assert(
      fc.property(fc.integer({ min: codePrefix.length, max: text.length - 1 }), fc.constantFrom(...letters), (at, letter) => {
        if (text[at] === letter) return
        expect(verifyCode(text.slice(0, at) + letter + text.slice(at + 1), keys).ok).toBe(false)
      }),
      { numRuns: 300 },
    )
  })

  it('is refused with any one bit changed, also where the signature does not cover it', () => {
    const raw = base45Decode(text.slice(codePrefix.length)) ?? new Uint8Array()
    const passed = Array.from({ length: raw.length * 8 }, (_, bit) => bit).filter((bit) => {
      const changed = raw.slice()
      changed[bit >> 3] = (changed[bit >> 3] ?? 0) ^ (1 << (bit & 7))
      return verifyCode(codePrefix + base45Encode(changed), keys).ok
    })
    expect(passed).toEqual([])
  })

  it('is refused when signed by another key, and says so when the key is not known', () => {
    const other = { id: 'k1', seed: seed.map(b => b ^ 1) }
    expect(verifyCode(signCode(content, other), keys)).toEqual({ ok: false, why: 'bad-signature' })
    expect(verifyCode(signCode(content, { ...key, id: 'k9' }), keys)).toEqual({ ok: false, why: 'unknown-key' })
  })

  it.each(['', 'LR1:', 'hello', 'LR1:BB8', text.slice(0, -3), text.replace('LR1', 'LR2')])('is not seen in "%s"', (other) => {
    expect(verifyCode(other, keys)).toEqual({ ok: false, why: 'not-a-code' })
  })
})
