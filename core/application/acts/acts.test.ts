import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice, testNow } from '../../../tests/support/sample'
import { may, permissions } from '../../access/permissions'
import { anybody, product, staffRoles, type Principal } from '../../access/principal'
import { candidateWords } from '../../words/en/candidates'
import { headline, newTracks, type Tracks } from '../tracks'
import { answerUntil, isFormOpen, periodRefusal } from './dates'
import { judgeAct } from './judge'
import { isOpened, openedBy } from './opened'
import { actIds, type ActFacts } from './rule'
import { actRule } from './table'

const notice = sampleNotice()
const officer: Principal = { id: 'o', kind: 'staff', name: 'officer', roles: ['officer'], venues: [] }
const scrutineer: Principal = { ...officer, roles: ['scrutineer'] }
const candidate: Principal = { ...officer, kind: 'candidate', roles: [] }
const facts = (tracks: Partial<Tracks> = {}, more: Partial<ActFacts> = {}): ActFacts => {
  const all = { ...newTracks, ...tracks }
  return {
    number: 'HL27-1',
    tracks: all,
    headline: headline(all),
    openUntil: null,
    isEmpty: false,
    isDecided: false,
    isPaid: false,
    hasOpenPayment: false,
    isCorrected: false,
    hasCard: false,
    heldBy: null,
    correction: null,
    slip: null,
    isAsking: false,
    isAwaited: false,
    isRelieved: false,
    isPaidFirst: false,
    keying: null,
    receivedAt: null,
    isSaid: false,
    isOwned: false,
    isReleased: false,
    ...more,
  }
}
const code = (act: Parameters<typeof judgeAct>[0], who: Principal, what: ActFacts, at = testNow) =>
  judgeAct(act, who, [], what, notice, at).refusal?.code ?? null

describe('an act that candidates may do', () => {
  it('has its words in the part of them that is light enough for a telephone', () => {
    const own = actIds.filter(act => may(candidate, actRule(act).permission, ['own application']))
    expect(own.filter(act => !Object.hasOwn(candidateWords.acts.actButtons, act))).toEqual([])
  })
})

describe('periods of a notice', () => {
  const instant = (text: string, milliseconds = 0) => new Date(Date.parse(text) + milliseconds)

  it('are half open: the moment of the end itself is late', () => {
    const { opens, closes, lastPayment, correctionCloses, cardsFrom } = notice.keyDates
    // The closing hour is 17:00 (common practice, no source); 16:59:59 is in time, 17:00:00 is not (our reading).
    expect([isFormOpen(notice, instant(closes, -1000)), isFormOpen(notice, instant(closes)), isFormOpen(notice, instant(opens, -1)),
      isFormOpen(notice, instant(opens))]).toEqual([true, false, false, true])
    expect([periodRefusal(notice, 'payments', instant(lastPayment, -1)), periodRefusal(notice, 'payments', instant(lastPayment))?.code])
      .toEqual([null, 'dates.payment-over'])
    expect([periodRefusal(notice, 'corrections', instant(correctionCloses, -1)),
      periodRefusal(notice, 'corrections', instant(correctionCloses))?.code]).toEqual([null, 'dates.correction-over'])
    expect([periodRefusal(notice, 'publication', instant(closes, -1))?.code, periodRefusal(notice, 'publication', instant(closes))])
      .toEqual(['dates.before-close', null])
    expect([periodRefusal(notice, 'cards', instant(cardsFrom, -1))?.code, periodRefusal(notice, 'cards', instant(cardsFrom))]).toEqual([
      'dates.before-cards',
      null,
    ])
  })

  it('give a return its days in the zone of the body, and never end after the correction period', () => {
    expect(answerUntil(notice, testNow).toISOString()).toBe('2026-12-02T01:14:00.000Z')
    // Just before midnight in the body's zone (75 minutes behind UTC) it is the day before still.
    expect(answerUntil(notice, new Date('2026-11-25T01:10:00Z')).toISOString()).toBe('2026-12-02T01:14:00.000Z')
    expect(answerUntil(notice, new Date(Date.parse(notice.keyDates.correctionCloses) - 86_400_000)).toISOString())
      .toBe(new Date(notice.keyDates.correctionCloses).toISOString())
    fc.assert(fc.property(fc.integer({ min: 0, max: 40 * 86_400 }), (seconds) => {
      const now = new Date(Date.parse(notice.keyDates.opens) + seconds * 1000)
      const until = answerUntil(notice, now)
      expect(until > now).toBe(true)
      if (now < new Date(notice.keyDates.correctionCloses)) expect(until <= new Date(notice.keyDates.correctionCloses)).toBe(true)
    }))
  })
})

describe('the rules of acts', () => {
  it('name a permission that somebody has, and a way back that exists', () => {
    for (const act of actIds) {
      const { permission, takenBackBy } = actRule(act)
      expect(permissions).toContain(permission)
      expect([...staffRoles.map(role => ({ ...officer, roles: [role] })), product].some(who => may(who, permission, ['any']))).toBe(true)
      if (takenBackBy) expect(actIds).toContain(takenBackBy)
    }
  })

  it('give every combination of tracks an answer, and never a state without a headline', () => {
    const anyTracks = fc.record({
      form: fc.constantFrom('drafting', 'submitted', 'correcting', 'withdrawn', 'lapsed'),
      fee: fc.constantFrom('not assessed', 'nothing due', 'due', 'confirming', 'settled', 'refund due'),
      scrutiny: fc.constantFrom('not started', 'waiting', 'returned', 'accepted', 'refused'),
      placement: fc.constantFrom('unplaced', 'placed', 'published', 'moved'),
      card: fc.constantFrom('not issued', 'withheld', 'issued', 'replaced'),
    }) as fc.Arbitrary<Tracks>
    fc.assert(fc.property(anyTracks, fc.constantFrom(...actIds), (tracks, act) => {
      const rule = actRule(act)
      if (rule.refuse(facts(tracks))) return
      const after = { ...tracks, ...rule.change?.(facts(tracks), {}) }
      expect(headline(after)).toBeTruthy()
      // Nobody is accepted while the fee is open, nobody placed who is not accepted.
      if (act === 'accept') expect(['settled', 'nothing due', 'refund due']).toContain(after.fee)
      if (act === 'publish-seat') expect([after.form, after.scrutiny]).toEqual(['submitted', 'accepted'])
      if (after.form === 'withdrawn' && act === 'withdraw') expect([after.placement, after.card]).toEqual(['unplaced', 'not issued'])
    }))
  })

  it("say why an act is not somebody's: by role, by relation, by date, by state", () => {
    expect(code('accept', officer, facts({ form: 'submitted', fee: 'due', scrutiny: 'waiting' }))).toBe('act.fee-open')
    expect(code('submit', scrutineer, facts())).toBe('access.role')
    expect(code('submit', candidate, facts())).toBe('access.relation')
    expect(judgeAct('submit', candidate, ['own application'], facts(), notice, testNow).refusal).toBeNull()
    expect(code('submit', anybody, facts())).toBe('session.none')
    const late = new Date(Date.parse(notice.keyDates.closes) + 1)
    expect(judgeAct('submit', candidate, ['own application'], facts(), notice, late).refusal?.code).toBe('dates.closed')
    // An officer may, and is told first.
    expect(judgeAct('submit', officer, [], facts(), notice, late)).toMatchObject({ refusal: null, outsideDates: { code: 'dates.closed' } })
    expect(code('take-back-submission', officer, facts({ form: 'submitted', scrutiny: 'waiting', fee: 'settled' }, { isPaid: true })))
      .toBe('act.paid')
    expect(code(
      'return',
      scrutineer,
      facts({ form: 'submitted', scrutiny: 'waiting', fee: 'settled' }),
      new Date(notice.keyDates.correctionCloses),
    )).toBe('dates.correction-over')
    expect(code('delete-draft', officer, facts())).toBe('act.not-empty')
  })

  it('ask for a second person always, or where the notice says so', () => {
    expect(judgeAct('reopen', officer, [], facts({ form: 'submitted', scrutiny: 'refused' }), notice, testNow).needsSecond).toBe(true)
    expect(judgeAct('withdraw', officer, [], facts(), notice, testNow).needsSecond).toBe(false)
    expect(judgeAct('withdraw', officer, [], facts(), { ...notice, secondPerson: ['withdraw'] }, testNow).needsSecond).toBe(true)
  })
})

describe('what a correction opens', () => {
  it('is what was named; of a post, all that its verdict is read from', () => {
    expect(openedBy(notice, ['address', 'photograph'])).toEqual(['address', 'photograph'])
    const opened = openedBy(notice, ['pilot-cadet'])
    for (const item of ['posts', 'bornOn', 'category']) expect(opened).toContain(item)
    expect([isOpened(notice, opened, 'bornOn'), isOpened(notice, opened, 'address'), isOpened(notice, null, 'address')]).toEqual([true,
      false, true])
    // What only an opened answer brings up is open, too: the number of the certificate that the category asks for.
    expect(isOpened(notice, ['category'], 'islesCertificate')).toBe(true)
  })
})
