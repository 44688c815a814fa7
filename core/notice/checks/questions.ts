import { found, pointer, type NoticeFinding } from '../finding'
import type { People } from '../person'
import { numberFault } from '../../identity/number-shape'
import { resultForms } from '../../marks/result'
import type { PostGroup } from '../questions'
import type { Condition, Notice, Question } from '../schema'
import type { ConditionPlace, Questions } from './conditions'

/**
 * Facts that the rest of the core reads by name, with the kind of question that gives each. A notice that leaves one
 * out cannot be opened: the work would stop at the first application.
 */
export const factQuestions = {
  certificateName: 'name',
  identityName: 'name',
  bornOn: 'date',
  mobile: 'mobile',
  category: 'choice',
  posts: 'posts',
  cities: 'cities',
  postalCode: 'postalCode',
  identityKind: 'choice',
  identityNumber: 'text',
} as const

/** Facts that rules read by name where a notice asks for them; a rule that cannot do without one says so itself. */
export const optionalFacts = {
  printedName: 'name',
  qualification: 'choice',
  marksObtained: 'marks',
  marksTotal: 'marks',
  board: 'choice',
  resultForm: 'choice',
  subjects: 'table',
  gradePoint: 'marks',
  equivalentPercentage: 'marks',
  discipline: 'choice',
  resultAwaited: 'choice',
  resultBy: 'date',
  passedIn: 'number',
} as const

/** Columns that a table of subjects must have. */
const subjectColumns = ['subject', 'obtained', 'total']

/** Questions that are missing, of another kind than is read from them, or share an id. */
export function questionFindings(notice: Notice, questions: Questions): NoticeFinding[] {
  const findings: NoticeFinding[] = []
  const seen = new Set<string>()
  notice.sections.forEach((section, s) =>
    section.questions.forEach((question, i) => {
      const at = pointer('sections', s, 'questions', i)
      if (seen.has(question.id)) findings.push(found('id.twice', `${at}/id`, { id: question.id }))
      seen.add(question.id)
      const wanted = { ...factQuestions, ...optionalFacts }[question.id as keyof typeof factQuestions]
      if (wanted !== undefined && question.kind !== wanted) {
        findings.push(found('fact.kind', `${at}/kind`, { question: question.id, found: question.kind, wanted }))
      }
      if (question.kind === 'date' && question.monthOnly && wanted !== undefined) {
        findings.push(found('fact.day', `${at}/monthOnly`, { question: question.id }))
      }
      if (question.id === 'subjects' && question.kind === 'table') {
        for (const column of subjectColumns) {
          if (!question.columns.some(c => c.id === column)) {
            findings.push(found('fact.column', `${at}/columns`, { question: question.id, column }))
          }
        }
      }
      if (question.kind === 'choice') {
        const known = optionsOf(notice, question.id)
        question.options.forEach(({ id }, o) => {
          if (known && !known.includes(id)) {
            findings.push(found('fact.option', `${at}/options/${o}/id`, { value: id, question: question.id, known: known.join(', ') }))
          }
        })
      }
      if (question.kind === 'text') findings.push(...shapeFindings(question, at))
      if ('sameAs' in question && question.sameAs !== undefined) {
        const earlier = questions.get(question.sameAs)
        const fits = earlier?.kind === question.kind || (question.kind === 'text' && earlier?.kind === 'postalCode')
        if (!earlier || !fits || !seen.has(earlier.id) || earlier.id === question.id) {
          findings.push(found('question.same-as', `${at}/sameAs`, { question: question.id, other: question.sameAs }))
        }
      }
      if (question.kind === 'posts' && question.min > notice.posts.length) {
        findings.push(found('posts.least', `${at}/min`, { min: question.min, posts: notice.posts.length }))
      }
      if (question.kind === 'posts') findings.push(...groupFindings(notice, question, at))
      if (question.kind === 'posts' && question.max > notice.posts.length) {
        findings.push(found('posts.most', `${at}/max`, { max: question.max, posts: notice.posts.length }))
      }
      if ('min' in question && question.min > question.max) {
        findings.push(found('bounds.empty', at, { min: question.min, max: question.max }))
      }
    })
  )
  for (const [question, kind] of Object.entries(factQuestions)) {
    if (!questions.has(question)) findings.push(found('fact.missing', '/sections', { question, kind }))
  }
  return findings
}

/** Ways of writing a number whose own example is not written so. */
const shapeFindings = ({ shapes = [] }: Extract<Question, { kind: 'text' }>, at: string): NoticeFinding[] =>
  shapes.flatMap((shape, i) => {
    const fault = numberFault(shape.example, [shape])
    return fault ? [found('number.example', `${at}/shapes/${i}/example`, { example: shape.example, shape: shape.shape, fault })] : []
  })

/** Groups of posts that name none of the notice's, cannot be met, or ask for more together than may be chosen. */
function groupFindings({ posts }: Notice, { groups, max, mostLoad }: Extract<Question, { kind: 'posts' }>, at: string): NoticeFinding[] {
  const ids = new Set(posts.map(post => post.id))
  const own = groups.flatMap((group, g) => {
    const place = `${at}/groups/${g}`
    return [
      ...groups.findIndex(one => one.id === group.id) < g ? [found('id.twice', `${place}/id`, { id: group.id })] : [],
      ...group.posts.flatMap((post, p) =>
        ids.has(post) ? [] : [found('member.unknown', `${place}/posts/${p}`, { value: post, of: 'posts' })]
      ),
      ...group.max !== undefined && group.min > group.max ? [found('bounds.empty', place, { min: group.min, max: group.max })] : [],
      ...group.min > group.posts.length ? [found('posts.least', `${place}/min`, { min: group.min, posts: group.posts.length })] : [],
    ]
  })
  // Of everybody so many are wanted at least: what groups without a post in common ask for adds up.
  const apart: PostGroup[] = []
  for (const group of groups) {
    if (group.when === undefined && group.min > 0 && !apart.some(one => one.posts.some(post => group.posts.includes(post)))) {
      apart.push(group)
    }
  }
  const wanted = apart.reduce((sum, { min }) => sum + min, 0)
  if (wanted > max) own.push(found('posts.groups', `${at}/groups`, { wanted, max }))
  const lightest = apart.flatMap(({ posts: of, min }) =>
    of.map(id => posts.find(post => post.id === id)?.load ?? 0).sort((a, b) => a - b).slice(0, min)
  ).reduce((sum, load) => sum + load, 0)
  if (mostLoad !== undefined && lightest > mostLoad) own.push(found('posts.load', `${at}/mostLoad`, { load: lightest, max: mostLoad }))
  return own
}

/** What the options of a question must be taken from; null for one that is free. */
function optionsOf(notice: Notice, question: string): readonly string[] | null {
  switch (question) {
    case 'board':
      return notice.boards.map(b => b.id)
    case 'discipline':
      return notice.disciplines.map(d => d.id)
    case 'qualification':
      return notice.qualifications.map(q => q.id)
    case 'category':
      return notice.categories.map(c => c.id)
    case 'resultForm':
      return resultForms
    default:
      return null
  }
}

const neverCodes = {
  question: 'question.never',
  document: 'document.never',
  relaxation: 'relaxation.never',
  waiver: 'waiver.never',
  surcharge: 'surcharge.never',
  payer: 'payer.never',
  kept: 'kept.never',
} as const

/** Questions, papers and easings that nobody would ever meet. */
export function neverFindings(places: readonly ConditionPlace[], people: People): NoticeFinding[] {
  // The same relaxation often stands at many posts.
  const known = new Map<string, boolean>()
  const isNever = (condition: Condition) => {
    const text = JSON.stringify(condition)
    const before = known.get(text)
    const is = before ?? people.find([{ condition, holds: true }]) === null
    known.set(text, is)
    return is
  }
  return places.flatMap(({ condition, at, of, title }) => {
    const code = of in neverCodes ? neverCodes[of as keyof typeof neverCodes] : null
    return code && isNever(condition) ? [found(code, at, { title })] : []
  })
}
