import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoNotice } from '../../demo/notice'
import { sampleNotice, testNow } from '../../tests/support/sample'
import { conditionHolds } from '../application/answers'
import { evaluatePosts } from '../eligibility/evaluate'
import { noticeFindingWords, placeWords } from '../words/en/notices'
import { checkNotice, readableNotice, readNotice } from './check'
import { examplePerson } from './checks/reach'
import type { NoticeFinding } from './finding'
import type { Condition } from './schema'

// A notice as plain JSON that a test may spoil anywhere.
type Json = Record<string, unknown>
const findingsAfter = (change: (notice: Json) => void): string[] => {
  const notice = demoNotice(testNow) as Json
  change(notice)
  return readNotice(notice).findings.map(f => `${f.code} ${f.at}`)
}
const set = (path: string, value: unknown) => (notice: Json): void => {
  const keys = path.split('.')
  const last = keys.pop() ?? ''
  const place = keys.reduce<Json>((at, key) => at[key] as Json, notice)
  if (value === undefined) Reflect.deleteProperty(place, last)
  else place[last] = value
}

const wishes = (demoNotice(testNow) as { sections: { questions: Json[] }[] }).sections[5]?.questions[0] ?? {}
const deck = { id: 'deck', title: 'Deck', sessions: ['forenoon'] }
const ids = (demoNotice(testNow) as { posts: { id: string }[] }).posts.map(post => post.id)

describe('the preset for portraits', () => {
  it('gives the published bounds of ISO/IEC 39794-5 where a rule states none of its own (values from memory)', () => {
    const plain = sampleNotice()
    const withPreset = (preset: string) =>
      readNotice({
        ...plain,
        images: { ...plain.images, photograph: { ...plain.images.photograph, preset, face: { headHeight: { min: 65, max: 80 } } } },
      })
    const { notice, findings } = withPreset('ISO/IEC 39794-5 portrait')
    expect(findings).toEqual([])
    expect(notice?.images.photograph.face).toEqual({
      headHeight: { min: 65, max: 80 },
      eyeLine: { min: 30, max: 50 },
      offCentre: { max: 5 },
      eyeDistance: { min: 90 },
      roll: { min: -8, max: 8 },
      yaw: { min: -5, max: 5 },
      pitch: { min: -5, max: 5 },
    })
    expect(withPreset('something else').findings[0]?.at).toBe('/images/photograph/preset')
  })
})

describe('the check of a notice', () => {
  it('finds nothing in the demo', () => {
    expect(findingsAfter(() => undefined)).toEqual([])
  })

  it.each<[string, unknown, string]>([
    // Single values: what the schema refuses, each at its place.
    ['surprise', 1, 'shape.unknown-part /surprise'],
    ['title', undefined, 'shape.missing /title'],
    ['fees.waivedAlone', '12', 'shape.kind /fees/waivedAlone'],
    ['categories', [], 'shape.too-small /categories'],
    ['keyDates.ageOn', '2026-02-30', 'shape.date /keyDates/ageOn'],
    ['keyDates.opens', 'soon', 'shape.instant /keyDates/opens'],
    ['sessions.0.starts', '7', 'shape.time /sessions/0/starts'],
    ['code', 'harbour', 'shape.cycle-code /code'],
    ['posts.0.clauses.0.rule', { kind: 'age' }, 'shape.age-bound /posts/0/clauses/0/rule'],
    ['posts.0.clauses.0.rule', { kind: 'wish' }, 'shape.choice /posts/0/clauses/0/rule/kind'],
    ['boards.1.grades.0', { grade: 'A1' }, 'shape.grade-one /boards/1/grades/0'],
    ['accessibleSeatWhen', { question: 'stepFree' }, 'shape.condition-bound /accessibleSeatWhen'],
    ['format', 99, 'format.newer /format'],
    // Questions and conditions.
    ['sections.0.questions.3.id', 'bornAt', 'fact.missing /sections'],
    ['sections.0.questions.0.kind', 'email', 'fact.kind /sections/0/questions/0/kind'],
    ['sections.0.questions.1.id', 'certificateName', 'id.twice /sections/0/questions/1/id'],
    ['accessibleSeatWhen', { question: 'wings', in: ['yes'] }, 'condition.question /accessibleSeatWhen'],
    ['accessibleSeatWhen', { question: 'stepFree', in: ['perhaps'] }, 'condition.option /accessibleSeatWhen/in/0'],
    ['accessibleSeatWhen', { any: [{ question: 'gender', from: '3' }] }, 'condition.number /accessibleSeatWhen/any/0'],
    ['accessibleSeatWhen', { not: { question: 'periods', in: ['x'] } }, 'condition.table /accessibleSeatWhen/not'],
    ['sections.0.questions.7.shapes.1.example', 'PP2046111', 'number.example /sections/0/questions/7/shapes/1/example'],
    ['sections.0.questions.7.shapes.0.when', { question: 'pwd', in: ['yes'] }, 'condition.later /sections/0/questions/7/shapes/0/when'],
    ['sections.1.questions.5.sameAs', 'mobile', 'question.same-as /sections/1/questions/5/sameAs'],
    ['sections.1.questions.4.sameAs', 'postalAddress', 'question.same-as /sections/1/questions/4/sameAs'],
    ['sections.3.questions.1.options.3.when', { question: 'qualification', in: ['x'] },
      'condition.option /sections/3/questions/1/options/3/when/in/0'],
    ['sections.0.questions.0.when', { question: 'category', in: ['general'] }, 'condition.later /sections/0/questions/0/when'],
    ['sections.2.questions.1.when', { all: [{ question: 'category', in: ['general'] }, { question: 'category', in: ['outer-isles'] }] },
      'question.never /sections/2/questions/1/when'],
    ['documents.0.when', { all: [{ question: 'pwd', in: ['no'] }, { question: 'pwdDegree', in: ['benchmark'] }] },
      'document.never /documents/0/when'],
    ['body.quietHours', { from: '21:00', to: '21:00' }, 'quiet.whole-day /body/quietHours'],
    ['fees.severalWaivers', 'one only', 'waiver.both /fees/waivers/1'],
    ['fees.waivers.1.code', 'pwd', 'id.twice /fees/waivers/1/code'],
    ['fees.payers', [{
      code: 'fund',
      title: 'A fund',
      when: { all: [{ question: 'category', in: ['general'] }, { question: 'category', in: ['outer-isles'] }] },
    }], 'payer.never /fees/payers/0/when'],
    ['fees.waivers.1.when', { all: [{ question: 'lowIncome', in: ['yes'] }, { not: { question: 'lowIncome', in: ['yes'] } }] },
      'waiver.never /fees/waivers/1/when'],
    ['posts.2.clauses.0.rule.relaxations.0.when', {
      all: [{ question: 'category', in: ['general'] }, { question: 'serviceYears', from: '1' }],
    }, 'relaxation.never /posts/2/clauses/0/rule/relaxations/0/when'],
    // Rules.
    ['posts.0.clauses.1.rule.atLeast', 'knighthood', 'member.unknown /posts/0/clauses/1/rule/atLeast'],
    ['posts.0.clauses.0.rule.minYears', 30, 'rule.bounds /posts/0/clauses/0/rule'],
    ['posts.0.clauses.2.rule.min', '101', 'rule.percentage /posts/0/clauses/2/rule/min'],
    ['posts.0.clauses.3.rule.question', 'wings', 'rule.question /posts/0/clauses/3/rule/question'],
    ['posts.0.clauses.3.rule.values', ['martian'], 'condition.option /posts/0/clauses/3/rule/values/0'],
    ['posts.0.clauses.4.rule.question', 'gender', 'rule.no-number /posts/0/clauses/4/rule/question'],
    ['posts.0.clauses.0.rule.relaxations.0.by', '2.5', 'rule.relaxation-years /posts/0/clauses/0/rule/relaxations/0/by'],
    ['posts.2.clauses.0.rule.relaxations.2.by.answer', 'gender', 'rule.relaxation-answer /posts/2/clauses/0/rule/relaxations/2/by'],
    ['posts.0.clauses.0.rule.lowered', [{ title: 'Harbour school', by: '99' }], 'rule.lowered /posts/0/clauses/0/rule/lowered/0/by'],
    ['posts.0.clauses.0.rule.lowered', [{ title: 'Harbour school', by: '0.5' }],
      'rule.relaxation-years /posts/0/clauses/0/rule/lowered/0/by'],
    ['posts.2.clauses.0.rule.cap', '4', 'rule.relaxation-cap /posts/2/clauses/0/rule/cap'],
    ['posts.0.clauses.1.code', 'age', 'id.twice /posts/0/clauses/1/code'],
    ['posts.2.clauses.1.rule.rules.1.rules.1.wanted.0.anyOf', ['sailing'],
      'member.unknown /posts/2/clauses/1/rule/rules/1/rules/1/wanted/0/anyOf/0'],
    ['posts.2.clauses.1.rule.rules.1.rules.2.question', 'gender', 'rule.no-table /posts/2/clauses/1/rule/rules/1/rules/2/question'],
    ['posts.2.clauses.1.rule.rules.1.rules.2.from', 'employer', 'rule.no-date /posts/2/clauses/1/rule/rules/1/rules/2/from'],
    ['posts.2.clauses.1.rule.rules.0.disciplines', ['magic'], 'member.unknown /posts/2/clauses/1/rule/rules/0/disciplines/0'],
    ['boards.1.subjects.excluded', ['sailing'], 'member.unknown /boards/1/subjects/excluded/0'],
    ['claims.0.ifFalse', { wings: 'no' }, 'rule.question /claims/0/ifFalse/wings'],
    ['claims.0.ifFalse', { category: 'admirals' }, 'condition.option /claims/0/ifFalse/category'],
    ['qualifications.2.equals', 'knighthood', 'rung.equals /qualifications/2/equals'],
    ['posts.0.clauses.0.rule', { kind: 'all', rules: [{ kind: 'age', minYears: 30 }, { kind: 'age', maxYears: 20 }] },
      'post.nobody /posts/0/clauses/0'],
    ['posts.0.clauses.4.rule', { kind: 'age', minYears: 40 }, 'post.nobody /posts/0'],
    ['posts.0.clauses.0.text', 'Not above 28 years.', 'text.number /posts/0/clauses/0/text'],
    ['posts.0.clauses.0.rule.maxYears', 26, 'text.silent /posts/0/clauses/0/text'],
    // Files.
    ['documents.0.id', 'photograph', 'id.taken /documents/0/id'],
    ['images.signature.sameFace', true, 'image.no-face /images/signature/sameFace'],
    ['images.photograph.width', { min: 900, max: 200 }, 'bounds.empty /images/photograph/width'],
    ['documents.0.when', { question: 'shoeSize', in: ['9'] }, 'condition.question /documents/0/when'],
    ['documents.0.blur', { most: 3 }, 'shape.unknown-part /documents/0/blur/most'],
    ['documents.0.formats.0', 'docx', 'shape.choice /documents/0/formats/0'],
    ['documents.1.id', 'identity-proof', 'id.taken /documents/1/id'],
    ['images.photograph.aspect', { min: 9, max: 9.5 }, 'bounds.aspect /images/photograph/aspect'],
    ['documents.0.pages', { min: 1, max: 5000 }, 'bounds.door-pages /documents/0/pages/max'],
    ['documents.0.bytes', { max: 5_000_000_000 }, 'bounds.door-bytes /documents/0/bytes/max'],
    // Dates and lead times.
    ['keyDates.closes', '2020-01-01T00:00:00Z', 'dates.order /keyDates/closes'],
    ['keyDates.cardsFrom', '2026-11-25T00:00:00Z', 'dates.order /keyDates/cardsFrom'],
    ['keyDates.lastPayment', '2026-11-24T00:00:00Z', 'dates.order /keyDates/lastPayment'],
    ['keyDates.lastPayment', '2026-12-30T00:00:00Z', 'dates.cards /keyDates/cardsFrom'],
    ['keyDates.correctionCloses', '2026-12-30T00:00:00Z', 'dates.correction-late /keyDates/correctionCloses'],
    ['keyDates.opens', '2026-11-04T09:00:00+05:00', 'dates.offset /keyDates/opens'],
    ['body.holidays', ['2026-11-27'], 'dates.holiday /keyDates/closes'],
    ['body.restDays', [5], 'dates.holiday /keyDates/closes'],
    ['expected', { applicants: 10, openDays: 30 }, 'dates.short /keyDates/closes'],
    ['claims.0.leadDays', 40, 'claim.lead /claims/0/leadDays'],
    ['fees.late.0.from', '2026-12-20T09:00:00Z', 'dates.late-fee /fees/late/0/from'],
    ['sessions.0.starts', '07:00', 'session.times /sessions/0'],
    ['sessions.1.date', '2026-11-30', 'session.cards /sessions/1/date'],
    ['sessions.1.starts', '11:00', 'session.overlap /sessions/1'],
    // Fees, cities, seats.
    ['fees.base.0.category', 'admirals', 'fee.hole /fees/base'],
    ['fees.base.0.category', 'outer-isles', 'fee.overlap /fees/base/1'],
    ['fees.base.0.category', 'admirals', 'fee.category /fees/base/0/category'],
    ['cities.0.venues.0.rooms.0.accessibleSeats', 9999, 'room.accessible /cities/0'],
    ['cities.0.venues.0.rooms.0.unusable', [9999], 'room.unusable /cities/0'],
    ['body.zone', { name: 'Nowhere', utcOffsetMinutes: 0, timeZone: 'No/Where' }, 'zone.unknown /body/zone/timeZone'],
    ['cities.1.id', 'skarnholm', 'id.twice /cities/1/id'],
    ['expected', { applicants: 10_000_000, stepFree: 10_000_000 }, 'seats.few /expected/applicants'],
    ['expected', { applicants: 10, stepFree: 10_000_000 }, 'seats.step-free /expected/stepFree'],
    ['allocation.choiceCosts', [0, 3, 1, 6, 10], 'allocation.policy /allocation'],
    ['allocation.choiceCosts', [0, 3], 'allocation.costs /allocation/choiceCosts'],
    ['allocation.offListBase', 5, 'allocation.policy /allocation'],
    ['allocation.unseated', 100, 'allocation.policy /allocation'],
    ['allocation.restrictions', [{ title: 'x', when: { question: 'gender', in: ['woman'] }, closedCities: ['nowhere'] }],
      'allocation.city /allocation/restrictions/0/closedCities/0'],
    ...([[[{ city: 'nowhere', seats: 1 }], 'kept.city /allocation/kept/0/seats/0/city'], [[{ city: 'skarnholm', seats: 100_000 }],
      'kept.many /allocation/kept/0/seats/0/seats'], [[{ city: 'skarnholm', seats: 1 }, { city: 'skarnholm', seats: 2 }],
      'id.twice /allocation/kept/0/seats/1/city']] as const).map(([seats, code]): [string, unknown, string] => ['allocation.kept', [{
        title: 'x',
        when: { question: 'gender', in: ['woman'] },
        seats,
      }], code]),
    ['allocation.kept', [{
      title: 'x',
      when: { all: [{ question: 'gender', in: ['woman'] }, { not: { question: 'gender', in: ['woman'] } }] },
      seats: [{ city: 'skarnholm', seats: 1 }],
    }], 'kept.never /allocation/kept/0/when'],
    ['fees.posts', [{ post: 'admiral', amount: 1 }], 'member.unknown /fees/posts/0/post'],
    ['fees.posts', [{ post: 'pilot-cadet', amount: 1, when: { question: 'lowIncome', in: ['yes'] } }], 'fee.hole /fees/posts'],
    ['fees.posts', [{ post: 'pilot-cadet', amount: 1 }, { post: 'pilot-cadet', amount: 2, when: { question: 'lowIncome', in: ['yes'] } }],
      'fee.overlap /fees/posts/1'],
    ['fees.further', [{ from: 2, amount: 1 }, { from: 2, amount: 3 }], 'id.twice /fees/further/1/from'],
    ['fees.late', [{ from: '2026-11-20T00:00:00Z', amount: 1 }, { from: '2026-11-20T00:00:00Z', amount: 3 }], 'id.twice /fees/late/1/from'],
    ['fees.order', 'before submission', 'dates.paid-late /keyDates/lastPayment'],
    ['posts.0.opens', '2020-01-01T00:00:00Z', 'dates.post-early /posts/0/opens'],
    ['posts.0.opens', '2027-12-30T09:00:00Z', 'dates.order /posts/0/opens'],
    ['posts.0.closes', '2027-12-30T09:00:00Z', 'dates.post-late /posts/0/closes'],
    ['posts.0.closes', '2020-01-01T00:00:00Z', 'dates.order /posts/0/closes'],
    // Groups of posts.
    ...([
      [{ groups: [{ id: 'a', title: 'A', posts: ['admiral'] }] }, 'member.unknown /sections/5/questions/0/groups/0/posts/0'],
      [{ groups: [{ id: 'a', title: 'A', posts: ['pilot-cadet'], min: 1, max: 0 }] }, 'bounds.empty /sections/5/questions/0/groups/0'],
      [{ groups: [{ id: 'a', title: 'A', posts: ['pilot-cadet'], min: 2 }] }, 'posts.least /sections/5/questions/0/groups/0/min'],
      [{ max: 1, groups: ids.slice(0, 2).map(id => ({ id, title: id, posts: [id], min: 1 })) },
        'posts.groups /sections/5/questions/0/groups'],
    ] as [Json, string][]).map(([more, wanted]): [string, unknown, string] => ['sections.5.questions.0', { ...wishes, ...more }, wanted]),
    ['posts', [], 'shape.too-small /posts'],
    ['sections.5.questions.0.min', 9, 'posts.least /sections/5/questions/0/min'],
    ['sections.5.questions.0.max', 9, 'posts.most /sections/5/questions/0/max'],
  ])('with %s = %j finds: %s', (path, value, wanted) => {
    expect(findingsAfter(set(path, value))).toContain(wanted)
  })

  it.each<[string, Json, unknown, string]>([
    ['names no session', {}, [{ id: 'deck', title: 'Deck', sessions: ['midnight'] }], 'member.unknown /testPapers/0/sessions/0'],
    ['is named twice', {}, [deck, deck], 'id.twice /testPapers/1/id'],
    ['is wanted by no post', {}, [deck, { ...deck, id: 'spare' }], 'test-papers.unused /testPapers/1'],
    ['is not there', {}, [], 'member.unknown /posts/0/testPapers/0'],
    ['lacks on a post', { 1: [] }, [deck], 'test-papers.none /posts/1'],
    ['collides with another of its post', { 0: ['deck', 'engine'] }, [deck, { ...deck, id: 'engine' }],
      'test-papers.collide /posts/0/testPapers'],
    ['is sat by everybody, and finds nothing', {}, [deck], 'none'],
    ['collides with each other that must be chosen', { 1: ['engine'], 2: ['radio'], 3: ['desk'], min: 2 }, [deck,
      ...['engine', 'radio', 'desk'].map(id => ({ ...deck, id }))], 'test-papers.forced /sections/5/questions/0/min'],
  ])('finds a test paper that %s', (_, wants, testPapers, wanted) => {
    const found = findingsAfter((n) => {
      ids.forEach((__, i) => set(`posts.${i}.testPapers`, wants[i] ?? ['deck'])(n))
      set('testPapers', testPapers)(n)
      set('sections.5.questions.0.min', wants.min ?? 1)(n)
    })
    if (wanted === 'none') expect(found.filter(f => f.includes('test-papers'))).toEqual([])
    else expect(found).toContain(wanted)
  })

  it('finds hours of sessions that clocks never show, or show twice, where they are set', () => {
    const found = (date: string) =>
      findingsAfter((n) => {
        set('body.zone', { name: 'Eastern time', utcOffsetMinutes: -300, timeZone: 'America/New_York' })(n)
        set('sessions.0', {
          id: 'night',
          title: 'Night watch',
          date,
          reporting: '00:30',
          gateCloses: '01:15',
          starts: '01:30',
          ends: '02:30',
        })(n)
      }).filter(finding => finding.includes('hour'))
    expect([found('2027-03-14'), found('2027-11-07'), found('2027-06-01')]).toEqual([['session.no-hour /sessions/0/ends'], [
      'session.hour-twice /sessions/0/gateCloses',
      'session.hour-twice /sessions/0/starts',
    ], []])
  })

  it('finds groups of posts that ask for more load than is allowed', () => {
    const wanted = 'posts.load /sections/5/questions/0/mostLoad'
    const withLoad = (mostLoad: number) =>
      findingsAfter((n) => {
        set('posts.0.load', 5)(n)
        set('sections.5.questions.0', { ...wishes, mostLoad, groups: [{ id: 'a', title: 'A', posts: ids.slice(0, 1), min: 1 }] })(n)
      })
    expect([withLoad(4).includes(wanted), withLoad(5).includes(wanted)]).toEqual([true, false])
  })

  it('names a hole and an overlap of the fees by somebody whom they hit', () => {
    const notice = demoNotice(testNow) as { fees: { base: Json[] } }
    notice.fees.base[0] = { category: 'general', amount: 64000, when: { not: { question: 'pwdDegree', in: ['benchmark'] } } }
    const [hole] = readNotice(notice).findings
    expect(hole).toMatchObject({ code: 'fee.hole', severity: 'error', person: { category: 'general', pwd: 'yes', pwdDegree: 'benchmark' } })
    notice.fees.base.push({ category: 'general', amount: 0, when: { question: 'pwd', in: ['yes'] } })
    const [overlap] = readNotice(notice).findings
    expect(overlap).toMatchObject({ code: 'fee.overlap', at: '/fees/base/4', person: { pwd: 'yes', pwdDegree: 'below' } })
    expect(noticeFindingWords(sampleNotice(), overlap as NoticeFinding))
      .toBe('General: two base fees, IMK 640.00 and IMK 0.00, hold for somebody who answers: Category: General; Disability declared: Yes; Degree of the disability: Below 40 %. Narrow one of them.')
  })

  it('covers fees exactly as trying every person does', () => {
    const optionsOf = (id: string) =>
      sampleNotice().sections.flatMap(s => s.questions).flatMap(q => q.id === id && q.kind === 'choice' ? q.options.map(o => o.id) : [])
    const questions = { gender: optionsOf('gender'), lowIncome: optionsOf('lowIncome'), nationality: optionsOf('nationality') }
    const leaf = fc
      .oneof(...Object.entries(questions).map(([question, options]) =>
        fc.subarray(options, { minLength: 1 }).map((some): Condition => ({ question, in: some }))
      ))
    const condition = fc.oneof(
      leaf,
      fc.array(leaf, { minLength: 1, maxLength: 3 }).map((all): Condition => ({ all })),
      leaf.map((not): Condition => ({ not })),
      fc.array(leaf, { minLength: 1, maxLength: 3 }).map((any): Condition => ({ any })),
    )
    const sample = sampleNotice()
    const everybody = questions.gender.flatMap(gender =>
      questions.lowIncome.flatMap(lowIncome =>
        questions.nationality.map(nationality => ({ category: 'general', gender, lowIncome, nationality }))
      )
    )
    fc.assert(
      fc.property(fc.array(condition, { minLength: 1, maxLength: 4 }), (conditions) => {
        const base = [...sample.fees.base.slice(1), ...conditions.map((when, i) => ({ category: 'general', when, amount: i }))]
        const counts = everybody.map(person =>
          conditions.filter(when => conditionHolds(when, { answers: person, closed: new Set() }) === true).length
        )
        const codes = checkNotice({ ...sample, fees: { ...sample.fees, base } }).map(f => f.code)
        expect(codes.includes('fee.hole')).toBe(counts.includes(0))
        expect(codes.includes('fee.overlap')).toBe(counts.some(n => n > 1))
      }),
      { numRuns: 60 },
    )
  })

  it('finds for each post somebody whom the engine lets in', () => {
    const notice = sampleNotice()
    for (const post of notice.posts) {
      const person = examplePerson(notice, post)
      expect(evaluatePosts(notice, person ?? {}).find(v => v.post === post.id)?.verdict).toBe('pass')
    }
  })

  it('says each finding in words, and where it stands', () => {
    const notice = demoNotice(testNow) as Json
    set('posts.0.clauses.1.rule.atLeast', 'knighthood')(notice)
    set('posts.0.clauses.0.rule.minYears', 30)(notice)
    const { findings } = readNotice(notice)
    expect(findings.filter(f => f.severity === 'error').map(f =>
      `${placeWords(notice, f.at)}: ${noticeFindingWords(readableNotice(notice), f)}`
    )).toEqual([
      'Posts › Pilot cadet › Clauses › 4.1 › Rule: The least, 30, is above the most, 24.',
      'Posts › Pilot cadet › Clauses › 4.2 › Rule › At least: “knighthood” is not a rung of the ladder.',
    ])
  })

  it('goes on checking what can be read while something cannot', () => {
    const findings = findingsAfter((n) => {
      set('fees.waivedAlone', 'a lot')(n)
      set('keyDates.closes', '2020-01-01T00:00:00Z')(n)
      set('posts.0.clauses.0.rule.minYears', 30)(n)
    })
    expect(findings)
      .toEqual(expect.arrayContaining(['shape.kind /fees/waivedAlone', 'dates.order /keyDates/closes',
        'rule.bounds /posts/0/clauses/0/rule']))
  })

  it('names all that is wrong at once and never throws', () => {
    expect(readNotice(null).findings.length).toBeGreaterThan(0)
    expect(readNotice('a text').notice).toBeNull()
    expect(findingsAfter((n) => {
      set('allocation.offListBase', 5)(n)
      set('keyDates.closes', '2020-01-01T00:00:00Z')(n)
    }).length).toBeGreaterThan(1)
    expect(findingsAfter((n) => {
      set('images.photograph.face', undefined)(n)
      set('images.photograph.sameFace', true)(n)
    })).toEqual(['image.faces /images/photograph/sameFace'])
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(sampleNotice())), fc.jsonValue(), (part, value) => {
        const notice = demoNotice(testNow) as Json
        notice[part] = value
        const read = readNotice(notice)
        expect(read.notice === null).toBe(read.findings.some(f => f.severity === 'error'))
      }),
      { numRuns: 200 },
    )
  })
})
