import { describe, expect, it } from 'vitest'
import { english } from './en'
import { languageCodes, languageOf, type Language } from './language'
import { screenText } from './screen-text'
import { formatMessage, placeholdersOf } from './message'
import { markMessage, markText } from './pseudo'

/** All messages of a language by their path: texts, and what records of texts hold. */
function messagesOf(value: unknown, path = ''): [string, string][] {
  if (typeof value === 'string') return [[path, value]]
  return typeof value === 'object' && value !== null
    ? Object.entries(value).flatMap(([key, one]) => messagesOf(one, path ? `${path}.${key}` : key))
    : []
}

describe('the languages', () => {
  it.each(languageCodes)('%s has the messages of English, each with the same parameters', (code) => {
    const [wanted, given] = [new Map(messagesOf(english)), new Map(messagesOf(languageOf(code)))]
    expect([...given.keys()]).toEqual([...wanted.keys()])
    const differing = [...wanted].filter(([path]) => path !== 'code' && path !== 'locale').filter(([path, message]) =>
      `${placeholdersOf(message)}` !== `${placeholdersOf(given.get(path) ?? '')}`
    )
    expect(differing).toEqual([])
  })

  it('hold no skeletons, which pages cannot read', () => {
    expect(messagesOf(english).filter(([, message]) => message.includes(', ::'))).toEqual([])
  })

  it('are found by their code, and English stands in for one that is not shipped', () => {
    expect(languageOf('en-XA').code).toBe('en-XA')
    for (const unknown of ['xx', '', null, undefined, 'constructor', '__proto__']) expect(languageOf(unknown).code).toBe('en')
  })

  it('say a sentence with what is put into it, in the plural that it needs', () => {
    const say = (language: Language, count: number) => screenText(language, 'house.measurementsInOrder', { inOrder: count })
    expect([say(english, 1), say(english, 3)]).toEqual(['1 measurement in order', '3 measurements in order'])
    expect(say(languageOf('en-XA'), 3)).toBe(`3 ${markText('measurements in order')}`)
    expect(() => screenText(english, 'house.measurementsInOrder')).toThrow('inOrder')
  })
})

describe('the made-up language', () => {
  it('marks what is said and leaves what is asked for', () => {
    const message = 'Send {count, plural, one {the page} other {{count} pages}}{has, select, true {, {size} KB} other {}}'
    const marked = markMessage(message)
    expect(placeholdersOf(marked)).toEqual(placeholdersOf(message))
    expect(formatMessage('en', marked, { count: 2, has: 'true', size: 'data' }))
      .toBe(`${markText('Send')} 2 ${markText('pages')}, data ${markText('KB')}`)
  })
})
