import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../../tests/support/sample'
import { sheetFaults } from '../../application/sheet'
import type { Finding } from '../../finding/finding'
import { verdictWithin } from '../../finding/finding'
import { findingWords, spellMeasure } from './findings'

const finding = (change: Partial<Finding>): Finding => ({
  code: 'photograph.bytes',
  about: 'photograph',
  verdict: 'fail',
  value: 0,
  unit: 'none',
  bound: null,
  parameters: {},
  ...change,
})

describe('a bound', () => {
  // 500 KB pass and one byte more fails, for 1 KB = 1024 bytes. Limits of 500 and 300 KB: common practice, no source.
  it.each<[number, number, string]>([[500 * 1024, 500 * 1024, 'pass'], [500 * 1024 + 1, 500 * 1024, 'fail'], [300 * 1024, 300 * 1024,
    'pass'], [300 * 1024 + 1, 300 * 1024, 'fail']])('%i bytes of at most %i: %s', (value, max, verdict) => {
      expect(verdictWithin(value, { max })).toBe(verdict)
    })
  // Papers from 200 KB to 1 MB: common practice, no source.
  it.each<[number, string]>([[199, 'fail'], [200, 'pass'], [1024, 'pass'], [1025, 'fail']])(
    '%i KB of 200 to 1024: %s',
    (value, verdict) => {
      expect(verdictWithin(value, { min: 200, max: 1024 })).toBe(verdict)
    },
  )
  it('is unsure near its ends where the measure is not exact', () => {
    expect([8, 9.5, 10.5, 12].map(value => verdictWithin(value, { min: 10 }, 1))).toEqual(['fail', 'unsure', 'unsure', 'pass'])
    expect(verdictWithin(5, {})).toBe('pass')
  })
})

describe('the words of a finding', () => {
  it.each<[number, string]>([[0, '0 attempts'], [1, '1 attempt'], [2, '2 attempts']])('count %i as %s', (value, words) => {
    expect(findingWords(finding({
      code: 'eligibility.number',
      about: 'attempts',
      value,
      parameters: { question: 'Earlier attempts', unit: 'attempts' },
    })).value).toBe(words)
  })
  it('give sizes in kilobytes and in exact bytes', () => {
    expect(spellMeasure(547_390, 'bytes')).toBe('534.6 KB (547,390 bytes)')
    expect(findingWords(finding({ value: 547_390, unit: 'bytes', bound: { min: 12_288, max: 102_400 } }))).toMatchObject({
      title: 'File size',
      bound: '12 KB to 100 KB',
      advice: expect.stringContaining('more compression') as string,
    })
    expect(findingWords(finding({ value: 2000, unit: 'bytes', bound: { min: 12_288 } })).advice).toContain('too small')
  })

  it.each<[string, Partial<Finding>, RegExp]>([
    ['a blurred face', { code: 'photograph.sharpness', value: 4, unit: 'sharpness', bound: { min: 20 } }, /camera held still/],
    ['a dark picture', { code: 'photograph.exposure', value: 60, unit: 'level', bound: { min: 130 } }, /too dark/],
    ['a turned picture', { code: 'photograph.upright', value: 90, unit: 'degree' }, /Turn the picture/],
    ['a blank paper', {
      code: 'signature.inkShare',
      about: 'signature',
      value: 0,
      unit: 'percent',
      bound: { min: 1, max: 20 },
      parameters: { blank: true },
    }, /blank/],
    ['a tiny signature', { code: 'signature.inkShare', about: 'signature', value: 0.4, unit: 'percent', bound: { min: 1, max: 20 } },
      /tiny/],
    ['a faint pencil', { code: 'signature.contrast', about: 'signature', value: 40, unit: 'level', bound: { min: 70 } }, /dark pen/],
    ['an uneven wall', { code: 'photograph.backgroundEvenness', value: 40, unit: 'level', bound: { max: 14 } }, /plain wall/],
    ['another format', { code: 'photograph.format', parameters: { format: 'PNG', allowed: 'JPEG' } }, /Save the picture as JPEG/],
  ])('tell what to do about %s', (_, change, advice) => {
    expect(findingWords(finding(change)).advice).toMatch(advice)
  })

  it('say nothing more of what is in order', () => {
    for (const code of ['photograph.sharpness', 'photograph.bytes', 'signature.inkShare', 'photograph.aspect']) {
      expect(findingWords(finding({ code, verdict: 'pass', value: 1 })).advice).toBe('')
    }
  })

  it('name the question of every fault of a sheet, and show a code that has no words', () => {
    for (
      const fault of sheetFaults(sampleNotice(), {
        mobile: 'x',
        bornOn: '2030-01-01',
        cities: ['x'],
        worked: 'yes',
        periods: [{ employer: '', from: '2020-01-01', to: '2019-01-01' }],
      }, '2026-11-24')
    ) {
      expect(findingWords(fault).title).not.toContain('sheet.')
      expect(findingWords(fault).advice.length).toBeGreaterThan(10)
    }
    expect(findingWords(finding({ code: 'nothing.known' })).title).toBe('nothing.known')
  })
})
