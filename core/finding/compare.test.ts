import { describe, expect, it } from 'vitest'
import { changesBetween } from './compare'
import type { Finding, Verdict } from './finding'

const finding = (code: string, verdict: Verdict, value: number): Finding => ({
  code,
  about: 'photograph',
  verdict,
  value,
  unit: 'count',
  bound: { min: 5 },
  parameters: {},
})

describe('two versions compared', () => {
  it('tell what was mended, what fell, and what moved without being mended; never what was and is in order', () => {
    const changes = changesBetween(
      [finding('mended', 'fail', 2), finding('fell', 'pass', 9), finding('moved', 'fail', 1), finding('same', 'fail', 3),
        finding('fine', 'pass', 7), finding('gone', 'unsure', 4)],
      [finding('mended', 'pass', 8), finding('fell', 'unsure', 5), finding('moved', 'fail', 4), finding('same', 'fail', 3),
        finding('fine', 'pass', 20), finding('new', 'fail', 0)],
    )
    expect(changes.map(({ code, before, after }) => [code, before?.verdict, after?.verdict])).toEqual([
      ['mended', 'fail', 'pass'],
      ['fell', 'pass', 'unsure'],
      ['moved', 'fail', 'fail'],
      ['new', undefined, 'fail'],
      ['gone', 'unsure', undefined],
    ])
  })

  it('find nothing between a version and itself', () => {
    const all = [finding('a', 'fail', 1), finding('b', 'unsure', 2), finding('c', 'pass', 3)]
    expect(changesBetween(all, all)).toEqual([])
  })
})
