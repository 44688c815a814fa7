import { noticeFormat } from '../../core/notice/formats'
import {
  afternoon,
  allocation,
  body,
  card,
  categories,
  categoryCertificate,
  claimQuestions,
  claims,
  contact,
  declaration,
  disabilityCertificate,
  disabled,
  identityProof,
  images,
  keyDates,
  ladder,
  person,
  schooling,
  session,
  wishes,
} from './pieces'

/**
 * Notices to begin from. Each is whole but for what only the office knows: code, title, body and cities. Dates are relative to the day on
 * which a draft is made of it.
 */
export const patternNames = ['empty', 'recruitment', 'entrance', 'language'] as const
export type PatternName = typeof patternNames[number]

const common = {
  format: noticeFormat,
  code: '',
  title: '',
  body,
  keyDates,
  outcomes: { unanswered: 'as it stood', answerDays: 7 },
  secondPerson: ['publish-run'],
  leapDayBirthday: 'mar-01',
  percentageCompared: 'exact',
  categories,
  qualifications: ladder,
  disciplines: [],
  subjects: [],
  boards: [],
  claims,
  accessibleSeatWhen: { question: 'stepFree', in: ['yes'] },
  images,
  documents: [identityProof, categoryCertificate, disabilityCertificate],
  cities: [],
  allocation,
  declaration,
  card,
}
const waiver = { code: 'disability', title: 'Disability of 40 % and above', when: disabled, percent: 100 }
const fees = {
  base: [{ category: 'general', amount: 50_000 }, { category: 'reserved', amount: 25_000 }],
  surcharges: [],
  waivers: [waiver],
  paymentWindowSeconds: 180,
}

const age = (clause: string, minYears: number, maxYears: number) => ({
  code: 'age',
  clause,
  text:
    `Not below ${minYears} and not above ${maxYears} years; reserved category 3 years more, persons with a disability of 40 % and above 5 years more.`,
  rule: {
    kind: 'age',
    minYears,
    maxYears,
    relaxations: [{ title: 'Reserved', when: { question: 'category', in: ['reserved'] }, by: '3' }, {
      title: 'PwD',
      when: disabled,
      by: '5',
    }],
    combine: 'largest',
  },
})
const marks = (clause: string, min: number) => ({
  code: 'marks',
  clause,
  text: `${min} % in the qualifying examination; 5 % less for the reserved category and persons with a disability of 40 % and above.`,
  rule: {
    kind: 'percentage',
    min: String(min),
    relaxations: [{ title: 'Reserved', when: { question: 'category', in: ['reserved'] }, by: '5' }, {
      title: 'PwD',
      when: disabled,
      by: '5',
    }],
    combine: 'largest',
  },
})
const schoolLeft = (clause: string, rung: string, text: string) => ({
  code: 'schooling',
  clause,
  text,
  rule: { kind: 'qualification', atLeast: rung },
})

/** Several posts, each with its own bounds. */
const recruitment = {
  ...common,
  fees,
  sections: [person, contact, claimQuestions, schooling, wishes('Posts applied for', 2)],
  posts: [
    { id: 'clerk', title: 'Clerk', clauses: [age('3.1', 18, 27), schoolLeft('3.2', 'year-12', 'Year 12 passed.'), marks('3.3', 50)] },
    { id: 'inspector', title: 'Inspector', clauses: [age('4.1', 21, 30), schoolLeft('4.2', 'degree', 'A degree.'), marks('4.3', 55)] },
  ],
  sessions: [session('forenoon', 'Forenoon', 'today+84')],
}

/** What has to be read before anything is written: who asks afterwards has read it. */
const instructions = {
  id: 'instructions',
  title: 'Before you begin',
  text:
    'Have at hand: a photograph and your signature as files, your last certificate with its marks, and an identity proof that you will carry.\n\nThe form closes {closes}; the fee can be paid until {lastPayment}. What is handed in is frozen: read it through before.',
  asked: 'at the beginning',
}

/** Several papers on different days; whoever has finished school or is about to may sit them. */
const entrance = {
  ...common,
  fees: { ...fees, further: [{ from: 2, amount: 10_000 }], late: [{ from: 'today+38 09:00', amount: 20_000 }] },
  terms: [instructions],
  // Of whoever is not 18 on the day of the first session.
  endorsements: [{
    id: 'guardian',
    kind: 'consent',
    title: "Guardian's consent",
    when: { question: 'bornOn', from: 'today-6490' },
    text: 'I am the guardian of this person and agree that they take part in {title} of {body}.',
    holds: 'decision',
  }],
  sections: [person, contact, claimQuestions, schooling, wishes('Papers chosen', 3)],
  testPapers: [['Sciences', 'day-1'], ['Humanities', 'day-1-afternoon'], ['Design', 'day-2']].map(([title = '', day = '']) => ({
    id: `${title.toLowerCase()}-paper`,
    title,
    sessions: [day],
  })),
  posts: ['Sciences', 'Humanities', 'Design'].map((title, i) => ({
    id: title.toLowerCase(),
    title,
    testPapers: [`${title.toLowerCase()}-paper`],
    clauses: [
      {
        code: 'schooling',
        clause: `${i + 2}.1`,
        text: 'Year 12 passed, or its result awaited.',
        rule: { kind: 'qualification', atLeast: 'year-12', awaitedUntil: 'today+150' },
      },
    ],
  })),
  sessions: [session('day-1', 'First day', 'today+84'), session('day-1-afternoon', 'First day, afternoon', 'today+84', afternoon),
    session('day-2', 'Second day', 'today+85')],
}

/** Levels of a language, sat in any of several weeks. */
const language = {
  ...common,
  qualifications: [],
  fees: { ...fees, surcharges: [] },
  sections: [person, contact, claimQuestions, wishes('Level', 1)],
  posts: ['Elementary', 'Intermediate', 'Advanced'].map((title, i) => ({
    id: title.toLowerCase(),
    title,
    clauses: [{ code: 'age', clause: `${i + 1}`, text: 'Not below 14 years.', rule: { kind: 'age', minYears: 14 } }],
  })),
  sessions: [84, 91, 98, 105].map((days, i) => session(`week-${i + 1}`, `Week ${i + 1}`, `today+${days}`)),
}

/** What every notice needs, and nothing of one examination. */
const empty = {
  ...common,
  fees: { ...fees, base: [], waivers: [] },
  categories: [],
  qualifications: [],
  claims: [],
  documents: [],
  posts: [],
  sessions: [],
  declaration: '',
  card: { title: 'Admit card', instructions: [] },
  secondPerson: [],
  accessibleSeatWhen: { question: 'stepFree', in: ['yes'] },
  sections: [person, contact, {
    ...claimQuestions,
    questions: claimQuestions.questions.map(q => q.id === 'category' ? { ...q, options: [] } : q),
  }, wishes('Posts applied for', 1)],
}

const patterns: Record<PatternName, object> = { empty, recruitment, entrance, language }

/** A pattern as JSON of its own, dates still relative. */
export const patternOf = (name: PatternName): Record<string, unknown> =>
  JSON.parse(JSON.stringify(patterns[name])) as Record<string, unknown>
