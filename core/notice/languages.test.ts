import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { checkNotice } from './check'
import { languageFindings } from './checks/languages'
import { languageName, languagesOf, noticeIn, textsToRead } from './languages'
import type { Notice } from './schema'

const base = sampleNotice()
const texts = textsToRead(base)
/** Every text in a made-up tongue that leaves figures and words in braces alone. */
const inFrench = (change: (rows: { text: string, as: string }[]) => { text: string, as: string }[] = rows => rows): Notice => ({
  ...base,
  translations: [{ language: 'fr', texts: change(texts.map(text => ({ text, as: `Fr. ${text}` }))) }],
})
const codes = (notice: Notice) =>
  languageFindings(notice).map(({ code, at, parameters }) => [code, at, parameters.missing ?? parameters.tag])

describe('a notice in other languages', () => {
  it('has every text that people read once, and none of names, places and what the office alone reads', () => {
    expect(texts)
      .toEqual(expect.arrayContaining([base.title, base.declaration, base.posts[0]?.title, base.sections[0]?.questions[0]?.label,
        base.card.instructions[0]]))
    expect(new Set(texts).size).toBe(texts.length)
    for (const kept of [base.body.name, base.cities[0]?.title, base.cities[0]?.venues[0]?.title]) expect(texts).not.toContain(kept)
  })

  it('is read in a chosen one, with ids, numbers and rules as they are, and what lacks as it was written', () => {
    const notice = inFrench(rows => rows.map(row => row.text === base.declaration ? { ...row, as: '' } : row))
    const read = noticeIn(notice, 'fr')
    expect([read.title, read.declaration, read.posts.map(post => post.id), read.fees.base]).toEqual([`Fr. ${base.title}`, base.declaration,
      base.posts.map(post => post.id), base.fees.base])
    expect([read.body, read.cities]).toEqual([base.body, base.cities])
    expect(noticeIn(notice, 'de').title).toBe(base.title)
    // Translations are only named: somebody on a slow line gets one language, not all.
    expect(read.translations).toEqual([{ language: 'fr', texts: [] }])
    expect([languagesOf(notice), languageName('fr'), languageName('no tag')]).toEqual([['en', 'fr'], 'français', 'no tag'])
  })

  it('has letters in them, and leaves what is taught by the name of a subject alone', () => {
    const letters = [{ act: 'submit' as const, subject: 'In', text: 'Dear {name}', short: 'It is in' }]
    const notice: Notice = { ...base, letters, translations: [{ language: 'fr', texts: [{ text: 'In', as: 'Reçu' }] }] }
    expect(textsToRead(notice).filter(text => !texts.includes(text))).toEqual(['In', 'Dear {name}', 'It is in'])
    expect(noticeIn(notice, 'fr').letters).toEqual([{ ...letters[0], subject: 'Reçu' }])
    expect(textsToRead({ rules: [{ kind: 'subject', subject: 'mathematics' }] })).toEqual([])
  })

  it('is found to lack texts, to hold idle ones, and to say other numbers or other words in braces', () => {
    expect(codes(inFrench())).toEqual([])
    expect(codes(inFrench(rows => rows.slice(3)))).toEqual([['language.missing', '/translations/0/texts', 3]])
    expect(codes(inFrench(rows => [...rows, { text: 'Gone.', as: 'Partie.' }]))).toEqual([['language.unknown',
      `/translations/0/texts/${texts.length}`, 'fr']])
    const of = (text: string, as: string) =>
      languageFindings({ ...base, declaration: text, translations: [{ language: 'fr', texts: [{ text, as }] }] }).map(one => one.code)
        .filter(code => code !== 'language.missing')
    expect([of('Within 1,024 bytes.', 'En 1 024 octets.'), of('28 years.', '27 ans.'), of('By {closes}.', 'Avant {closes}.'),
      of('By {closes}.', 'Avant {opens}.')]).toEqual([[], ['language.numbers'], [], ['language.braces']])
  })

  it('wants tags of languages, each once', () => {
    expect(codes({
      ...base,
      language: 'no tag',
      translations: [{ language: 'fr', texts: [] }, { language: 'fr', texts: [] }, { language: '!', texts: [] }],
    }).filter(([code]) => code !== 'language.missing')).toEqual([
      ['language.tag', '/language', 'no tag'],
      ['language.twice', '/translations/1/language', 'fr'],
      ['language.tag', '/translations/2/language', '!'],
    ])
    expect(checkNotice({ ...base, translations: [{ language: 'en', texts: [] }] }).map(one => one.code)).toContain('language.twice')
  })
})
