import fc from 'fast-check'
import reference from 'jaro-winkler'
import { describe, expect, it } from 'vitest'
import { identityKeys, identityNumberKey, keyHash, likelyFrom, pairScore, type Identity } from './likely-pair'
import { jaroWinkler, nameLikeness, plainLetters, plainName, soundKey } from './likeness'

describe('likeness of texts', () => {
  // Winkler, "Overview of Record Linkage and Current Research Directions", U.S. Bureau of the Census (2006), table of string comparators;
  // values from memory.
  it.each([['MARTHA', 'MARHTA', 0.961], ['DIXON', 'DICKSONX', 0.813], ['DWAYNE', 'DUANE', 0.84], ['SHACKLEFORD', 'SHACKELFORD', 0.982], [
    'NICHLESON',
    'NICHULSON',
    0.956,
  ], ['JONES', 'JOHNSON', 0.832]])('of %s and %s is published as %f', (a, b, value) => {
    expect(jaroWinkler(a, b)).toBeCloseTo(value, 3)
  })

  it('is that of the package jaro-winkler for any two words', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'abcdeghikmnorst'), minLength: 1, maxLength: 12 }),
        fc.string({ unit: fc.constantFrom(...'abcdeghikmnorst'), minLength: 1, maxLength: 12 }),
        (a, b) => {
          expect(jaroWinkler(a, b)).toBeCloseTo(reference(a, b), 9)
          expect(jaroWinkler(a, b)).toBeCloseTo(jaroWinkler(b, a), 9)
        },
      ),
      { numRuns: 2000 },
    )
  })
})

describe('names', () => {
  it('sound alike whatever their vowels, doubled letters and aspirates, in any script', () => {
    expect(new Set(['Mohammed', 'Muhamad', 'Mohamed', 'محمد'].map(soundKey)).size).toBe(1)
    for (
      const [a, b] of [['Cathrine', 'Katherine'], ['Phillip', 'Filip'], ['Виктор', 'Viktor'], ['Γιώργος', 'Giorgos'], ['Singh', 'Sing'], [
        'Wasim',
        'Vaseem',
      ]] as const
    ) expect([a, soundKey(a)]).toEqual([a, soundKey(b)])
    expect(soundKey('Anil')).not.toBe(soundKey('Nila'))
    expect(soundKey('...')).toBe('')
    expect(plainLetters('Zéphra')).toBe('zephra')
  })

  it('are alike in any order, with initials, and written together', () => {
    const likeness = (a: string, b: string) => nameLikeness(plainName(a), plainName(b))
    expect(likeness('Tavirel Osk-Anundé', 'Osk Anunde Tavirel')).toBe(1)
    expect(likeness('Osk Anund', 'Oskanund')).toBe(1)
    expect(likeness('T. Anund', 'Tavirel Anund')).toBeGreaterThan(0.9)
    expect(likeness('Tavirel Anund', 'Tavierl Anund')).toBeGreaterThan(0.9)
    expect(likeness('Tavirel Anund', 'Berrow Quindal')).toBeLessThan(0.5)
    expect(likeness('', 'Anund')).toBe(0)
  })

  it('are as alike one way as the other, and most to themselves', () => {
    const name = fc.array(fc.string({ unit: fc.constantFrom(...'aeioklmnrst'), minLength: 2, maxLength: 8 }), {
      minLength: 1,
      maxLength: 4,
    })
    fc.assert(fc.property(name, (words) => {
      expect(nameLikeness(words, [...words].reverse())).toBe(1)
    }))
  })
})

const person: Identity = {
  name: 'Tavirel Anund',
  bornOn: '2004-06-15',
  identityKind: 'passport',
  identityNumber: 'SB4471923',
  mobile: '5550112233',
  email: 'tavirel@post.example',
}
const score = (change: Partial<Identity>) => pairScore(person, { ...person, ...change }).score

describe('two applications', () => {
  it('are likely of one person when something was typed otherwise', () => {
    const fresh = { mobile: '5550999888', email: 'other@post.example' }
    for (
      const change of [{}, { name: 'Anund Tavirel', ...fresh }, { name: 'T. Anund', ...fresh }, { bornOn: '2004-06-25' }, {
        identityNumber: 'SB4471932',
        ...fresh,
      }, { identityKind: 'voter-card', identityNumber: 'VC99887766' }, { name: 'Тавирел Анунд', ...fresh }]
    ) {
      expect([change, score(change) >= likelyFrom]).toEqual([change, true])
    }
  })

  it('are not when they share a name, a telephone or a birthday alone', () => {
    const other: Identity = {
      name: 'Berrow Quindal',
      bornOn: '1999-01-02',
      identityKind: 'passport',
      identityNumber: 'SB9911223',
      mobile: '5550444555',
      email: 'berrow@post.example',
    }
    for (
      const change of [{ name: person.name }, { mobile: person.mobile }, { bornOn: person.bornOn }, {
        email: person.email,
        mobile: person.mobile,
      }]
    ) expect([change, pairScore(person, { ...other, ...change }).score < likelyFrom]).toEqual([change, true])
    expect(pairScore(person, { ...other, identityNumber: person.identityNumber }).reasons.map(r => r.code)).toEqual(['number', 'name-other',
      'born-other'])
  })

  it('are less so the more bear their name, unless something else tells', () => {
    const otherwise: Identity = {
      ...person,
      identityKind: 'another',
      identityNumber: 'P7719024',
      mobile: '5550999888',
      email: 'another@post.example',
    }
    const scores = [1, 2, 10, 12, 1000].map(namesakes => pairScore(person, otherwise, namesakes).score)
    expect(scores).toEqual([...scores].sort((a, b) => b - a))
    // Bits of evidence worked by hand: 6 for the name, 7 for the birth date, -0.5 for a paper of another kind, 9 to begin with; ten
    // namesakes take 3.3 of them, rounded to a half.
    expect([scores[0], scores[2], scores[3]]).toEqual([92, 50, 50])
    expect((scores.at(-1) ?? 100) < likelyFrom).toBe(true)
    expect(pairScore(person, { ...otherwise, email: person.email, mobile: person.mobile }, 1000).score >= likelyFrom).toBe(true)
    expect(pairScore(person, person, 1000).score).toBeGreaterThan(95)
  })

  it('share a key whenever one thing was typed otherwise, and hashes of keys are of 64 bits', () => {
    const keys = new Set(identityKeys(person))
    for (
      const change of [{ name: 'Tavirell Anunt' }, { bornOn: '2004-06-25' }, { bornOn: '2005-06-15' }, {
        identityNumber: '',
        mobile: '',
        email: '',
      }]
    ) {
      expect(identityKeys({ ...person, identityNumber: '', mobile: '', email: '', ...change }).some(key => keys.has(key))).toBe(true)
    }
    expect(identityNumberKey(' sb 447-19.23 ')).toBe('SB4471923')
    expect(identityNumberKey('12')).toBe('')
    const hashes = Array.from({ length: 20_000 }, (_, i) => keyHash(`d:2004-06-15:${i}`))
    expect(new Set(hashes).size).toBe(20_000)
    expect(hashes.every(hash => BigInt.asIntN(64, hash) === hash)).toBe(true)
  })
})
