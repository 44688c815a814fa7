import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice, testNow } from '../../tests/support/sample'
import { conditionHolds, cityOfPostalCode, liveSheet, printedName, type Answers } from './answers'
import type { Condition } from '../notice/schema'
import { nextKeyDate, placeableOf, sheetDoubts, sheetFaults } from './sheet'

const notice = sampleNotice()
const faultsOf = (change: Answers) => sheetFaults(notice, { ...sampleAnswers, ...change }, '2026-11-24').map(f => `${f.about}: ${f.code}`)

describe('the sheet', () => {
  it('finds nothing wrong with a complete one', () => {
    expect(faultsOf({})).toEqual([])
  })

  it('names every required question of an empty one, and asks nothing that hangs on an answer not given', () => {
    const faults = sheetFaults(notice, {}, '2026-11-24')
    expect(faults.every(f => f.code === 'sheet.missing')).toBe(true)
    expect(faults.map(f => f.about)).toContain('bornOn')
    expect(faults.map(f => f.about)).not.toContain('islesCertificate')
  })

  it.each<[Answers, string]>([
    // Ten digits: common practice, no source.
    [{ mobile: '555010004' }, 'mobile: sheet.digits'],
    [{ mobile: '55501000422' }, 'mobile: sheet.digits'],
    [{ mobile: '555010004x' }, 'mobile: sheet.digits'],
    [{ bornOn: '2004-02-30' }, 'bornOn: sheet.date'],
    [{ bornOn: '2026-11-25' }, 'bornOn: sheet.future'],
    [{ marksObtained: '501' }, 'marksObtained: sheet.marksAbove'],
    [{ marksObtained: '-4' }, 'marksObtained: sheet.decimal'],
    [{ marksObtained: 'four' }, 'marksObtained: sheet.decimal'],
    [{ certificateName: 'T4virel' }, 'certificateName: sheet.name'],
    [{ email: 'a@b' }, 'email: sheet.email'],
    [{ postalCode: '99999' }, 'postalCode: sheet.postalCode'],
    [{ category: 'admirals' }, 'category: sheet.option'],
    [{ cities: ['skarnholm', 'skarnholm'] }, 'cities: sheet.double'],
    [{ cities: ['atlantis'] }, 'cities: sheet.option'],
    [{ posts: [] }, 'posts: sheet.missing'],
    [{ category: ['general'] }, 'category: sheet.shape'],
    [{ category: 'outer-isles' }, 'islesCertificate: sheet.missing'],
  ])('with %j is faulty: %s', (change, wanted) => {
    expect(faultsOf(change)).toEqual([wanted])
  })

  it('holds the posts chosen to every group that is for this person, and to the load', () => {
    const [first = '', second = '', third = ''] = notice.posts.map(post => post.id)
    const group = { id: 'sea', title: 'At sea', posts: [first, second], min: 0, max: 1 }
    const asksMore = {
      ...notice,
      requests: [{
        id: 'more',
        kind: 'limits' as const,
        title: 'More posts',
        when: { question: 'lowIncome', in: ['yes'] },
        proof: 'A reason',
        about: [],
        papers: [],
        holds: 'decision' as const,
      }],
    }
    const withGroups = (groups: object[], mostLoad?: number, from = notice) => ({
      ...from,
      posts: from.posts.map((post, i) => ({ ...post, load: i + 1 })),
      sections: from.sections.map(section => ({
        ...section,
        questions: section.questions.map(q => q.kind === 'posts' ? { ...q, max: 3, groups, mostLoad } as typeof q : q),
      })),
    })
    const faults = (of: typeof notice, posts: string[], more: Answers = {}) =>
      sheetFaults(of, { ...sampleAnswers, posts, ...more }, '2026-11-24').map(f =>
        `${f.code} ${f.parameters.chosen}/${f.parameters.bound ?? f.parameters.max}`
      )
    expect([faults(withGroups([group]), [first, third]), faults(withGroups([group]), [first, second])]).toEqual([[], [
      'sheet.groupMost 2/1',
    ]])
    expect(faults(withGroups([{ ...group, min: 1 }]), [third])).toEqual(['sheet.groupLeast 0/1'])
    // A group is only for those for whom its condition holds.
    expect(faults(withGroups([{ ...group, when: { question: 'gender', in: ['nobody'] } }]), [first, second])).toEqual([])
    expect([faults(withGroups([], 4), [first, third]), faults(withGroups([], 4), [second, third])]).toEqual([[], ['sheet.load 5/4']])
    // Whoever asks for more may hand the form in, and may not once that was declined; too few stays too few.
    const more = withGroups([{ ...group, min: 1 }], undefined, asksMore)
    expect([faults(more, [first, second], { lowIncome: 'yes' }),
      faults(more, [first, second], { 'lowIncome': 'yes', 'request:more': 'declined' }), faults(more, [third], { lowIncome: 'yes' })])
      .toEqual([[], ['sheet.groupMost 2/1'], ['sheet.groupLeast 0/1']])
  })

  it('takes a telephone number with blanks and hyphens, and up to five cities', () => {
    const cities = notice.cities.map(c => c.id)
    expect(faultsOf({ mobile: '555 010-00 42', cities: cities.slice(0, 5) })).toEqual([])
    // At most 5 choices, at least 1: common practice, no source.
    expect(faultsOf({ cities: cities.slice(0, 6) })).toEqual(['cities: sheet.listLength'])
  })

  it('doubts names that differ and blocks nothing', () => {
    expect(sheetDoubts({ ...sampleAnswers, identityName: 'T. Osk Anunde' })).toMatchObject([{
      code: 'sheet.names.initials',
      verdict: 'unsure',
    }])
    expect(sheetDoubts(sampleAnswers)).toEqual([])
    expect(sheetDoubts({ ...sampleAnswers, printedName: 'Somebody Else' }).map(f => [f.about, f.code])).toEqual([['printedName',
      'sheet.names.different']])
    expect([printedName(sampleAnswers), printedName({ ...sampleAnswers, printedName: 'T. Osk' })]).toEqual([sampleAnswers.certificateName,
      'T. Osk'])
  })

  it('holds a number against what papers of its kind have, and offers only what is open to somebody', () => {
    expect(faultsOf({ identityNumber: 'SB447192' })).toEqual(['identityNumber: sheet.number.shape'])
    expect(faultsOf({ identityKind: 'passport' })).toEqual(['identityNumber: sheet.number.check'])
    expect(faultsOf({ identityKind: 'passport', identityNumber: 'pp 204-6110' })).toEqual([])
    expect(faultsOf({ qualification: 'watch-certificate', discipline: 'commerce' })).toContain('discipline: sheet.option')
    expect(faultsOf({ qualification: 'diploma', discipline: 'commerce' })).not.toContain('discipline: sheet.option')
  })
})

describe('a condition', () => {
  const pwd = { question: 'pwd', in: ['yes'] }
  it('is open while an answer that could decide it is missing', () => {
    const holds = (condition: Condition, answers: Answers, closed: string[] = []) =>
      conditionHolds(condition, { answers, closed: new Set(closed) })
    expect(holds(pwd, {})).toBeNull()
    expect(holds({ any: [pwd, { question: 'category', in: ['general'] }] }, { category: 'general' })).toBe(true)
    expect(holds({ all: [pwd, { question: 'category', in: ['general'] }] }, { category: 'outer-isles' })).toBe(false)
    expect(holds({ not: pwd }, { pwd: 'no' })).toBe(true)
    expect(holds({ question: 'residenceYears', from: '5' }, { residenceYears: '5' })).toBe(true)
    expect(holds({ question: 'residenceYears', from: '5', to: '9' }, { residenceYears: '10' })).toBe(false)
    expect(holds({ question: 'residenceYears', to: '9' }, { residenceYears: 'many' })).toBeNull()
  })

  it('is not open on a question that this person is not asked', () => {
    const live = liveSheet(notice, { pwd: 'no' })
    expect(conditionHolds({ question: 'pwdDegree', in: ['benchmark'] }, live)).toBe(false)
    expect(conditionHolds({ question: 'pwdDegree', in: ['benchmark'] }, liveSheet(notice, {}))).toBeNull()
  })

  it('asks its question only when it holds, and forgets an answer that is no longer asked for', () => {
    const asks = (answers: Answers) => liveSheet(notice, answers).asked.some(q => q.id === 'pwdDegree')
    expect(asks({ pwd: 'yes' })).toBe(true)
    expect(asks({ pwd: 'no' })).toBe(false)
    const { answers } = liveSheet(notice, { pwd: 'no', pwdDegree: 'benchmark', stepFree: 'yes' })
    expect(Object.entries(answers).filter(([, answer]) => answer !== '')).toEqual([['pwd', 'no']])
    expect(placeableOf(notice, { ...sampleAnswers, pwd: 'no', stepFree: 'yes' })?.needsAccessible).toBe(false)
  })
})

describe('place, time and need', () => {
  it('finds the town of a postal code', () => {
    expect(cityOfPostalCode(notice, '11042')?.id).toBe('skarnholm')
    expect(cityOfPostalCode(notice, '99042')).toBeNull()
    expect(placeableOf(notice, sampleAnswers)).toEqual({
      home: 'skarnholm',
      choices: sampleAnswers.cities,
      needsAccessible: false,
      held: 0,
      kept: 0,
    })
    expect(placeableOf(notice, { ...sampleAnswers, pwd: 'yes', pwdDegree: 'below', stepFree: 'yes' })?.needsAccessible).toBe(true)
    expect(placeableOf(notice, { ...sampleAnswers, cities: [] })).toBeNull()
  })

  it('counts down to one key date after the other', () => {
    expect(nextKeyDate(notice, testNow)?.code).toBe('closes')
    expect(nextKeyDate(notice, new Date(Date.parse(notice.keyDates.closes) + 1))?.code).toBe('payments')
    expect(nextKeyDate(notice, new Date(Date.parse(notice.keyDates.lastPayment) + 1))?.code).toBe('corrections')
    expect(nextKeyDate(notice, new Date(Date.parse(notice.keyDates.correctionCloses) + 1))?.code).toBe('cards')
    expect(nextKeyDate(notice, new Date('2030-01-01'))).toBeNull()
  })
})
