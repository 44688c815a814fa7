import { describe, expect, it } from 'vitest'
import { recordChanges, recordPairs } from './records'

describe('what a record tells', () => {
  it('names nested parts by their path and cuts hashes', () => {
    expect(recordPairs({ version: 2, sha256: '0123456789abcdef'.repeat(4), fee: null })).toEqual([['version', '2'], ['sha256', '0123456789ab…'], ['fee', '–']])
    expect(recordPairs({ verdicts: { 'pilot-cadet': 'pass' }, reasons: [{ item: 'photograph', reason: 'blurred' }] })).toEqual([['verdicts, pilot-cadet', 'pass'], ['reasons', 'photograph blurred']])
    expect(recordPairs(null)).toEqual([])
  })

  it('tells what differs, with the value before where there was one', () => {
    expect(recordChanges({ fee: 48_000, scrutiny: 'accepted', verdicts: { a: 'pass', b: 'pass' } }, { fee: 64_000, scrutiny: 'accepted', verdicts: { a: 'fail', b: 'pass' }, claim: 'Outer Isles' }))
      .toEqual(['fee: 48000 → 64000', 'verdicts, a: pass → fail', 'claim: Outer Isles'])
  })
})
