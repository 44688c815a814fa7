import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../../tests/support/sample'
import { recordLines, recordPairs } from './records'

describe('what a record tells', () => {
  it('names nested parts by their path and cuts hashes', () => {
    expect(recordPairs({ version: 2, sha256: '0123456789abcdef'.repeat(4), fee: null })).toEqual([['version', '2'], ['sha256',
      '0123456789ab…'], ['fee', '–']])
    expect(recordPairs({ verdicts: { 'pilot-cadet': 'pass' }, reasons: [{ item: 'photograph', reason: 'blurred' }] })).toEqual([[
      'verdicts, pilot-cadet',
      'pass',
    ], ['reasons', 'photograph blurred']])
    expect(recordPairs(null)).toEqual([])
  })

  it('tells what differs in the words of the notice, with the value before where there was one', () => {
    const notice = sampleNotice()
    const room = notice.cities[0]?.venues[0]?.rooms[0]
    expect(recordLines(notice, { address: '4 Beacon Street', scrutiny: 'accepted', amount: 48_000 }, {
      address: '5 Net Lane',
      scrutiny: 'accepted',
      amount: 64_250,
      room: room?.id,
      applicationId: 'x',
      until: '2026-12-02T01:14:00.000Z',
    })).toEqual(['Street and house: 4 Beacon Street → 5 Net Lane', 'amount: IMK 480.00 → IMK 642.50', `room: ${room?.title}`,
      'until: Tue 1 Dec 2026, 23:59 Ilmara time'])
    expect(recordLines(notice, {}, { reasons: [{ item: 'photograph', reason: 'Blurred' }], slot: 'signature' })).toEqual([
      'reasons: Photograph: Blurred',
      'file: Signature',
    ])
    expect(recordLines(null, null, { version: 2 })).toEqual(['version: 2'])
  })
})
