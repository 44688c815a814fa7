import { nameKey } from '../identity/names'
import type { Notice, Question } from '../notice/schema'
import { slotNames } from './file-names'

/**
 * Where the columns of a nominal roll belong on the sheet. A roll comes with headings of its own; what they most likely mean is suggested,
 * and whoever enters the roll says what is right.
 */

/**
 * What a column may hold: the sender's own number for the person, an answer, one cell of a table answer (rows count from 0), or the name of
 * a picture's or paper's file.
 */
export type RollField =
  | { id: 'reference', title: string }
  | { id: string, title: string, question: Question }
  | { id: string, title: string, question: Extract<Question, { kind: 'table' }>, row: number, column: string }
  | { id: string, title: string, slot: string }

export const referenceField = 'reference'

/** A member of a list that is chosen from. */
export interface Member {
  id: string
  title: string
}
/** Whether a field holds several choices, so that several columns may bring them. */
export const isListField = (field: RollField): boolean =>
  'question' in field && !('row' in field) && (field.question.kind === 'posts' || field.question.kind === 'cities')

/** What is chosen from in a field; empty where nothing is. */
export function listOf({ posts, cities }: Notice, field: RollField): readonly Member[] {
  if (!('question' in field)) return []
  const { question } = field
  switch (question.kind) {
    case 'posts':
      return posts
    case 'cities':
      return cities
    case 'choice':
      return question.options
    case 'table': {
      const column = 'column' in field ? question.columns.find(one => one.id === field.column) : undefined
      return column?.kind === 'choice' ? column.options : []
    }
    default:
      return []
  }
}
/** Rows of a table that a roll can bring, one set of columns a row. */
const tableRowsAtMost = 8

/** What fields of a roll are called that are no answers. */
export interface FieldTitles {
  reference: string
  file: (slot: string) => string
}

/** Every field of a notice that a roll can fill, in the order of the sheet. */
export function rollFields(notice: Notice, titles: FieldTitles): RollField[] {
  return [{ id: referenceField, title: titles.reference },
    ...notice.sections.flatMap(section => section.questions).flatMap<RollField>((question) => {
      if (question.kind !== 'table') return [{ id: question.id, title: question.label, question }]
      return Array.from({ length: Math.min(question.maxRows, tableRowsAtMost) }, (_, row) => row).flatMap(row =>
        question.columns.map(column => (
          {
            id: `${question.id}.${row}.${column.id}`,
            title: `${question.label} ${row + 1}: ${column.label}`,
            question,
            row,
            column: column.id,
          }
        ))
      )
    }), ...slotNames(notice).map(({ id, title }) => ({ id: `file.${id}`, title: titles.file(title), slot: id }))]
}

export interface Suggestion {
  field: string | null
  /** The heading is the field's own name or title. */
  isSure: boolean
}

/** How alike a heading and a title must be to be suggested, from 0 to 1; common practice, no source. */
const likenessLeast = 0.6
/** Other headings that people use, by kind of question or by the field's id. Common practice, no source. */
const alsoCalled: Readonly<Record<string, readonly string[]>> = {
  'reference': ['serial', 'serial no', 'sl no', 's no', 'roll no', 'roll number', 'register number', 'enrolment no', 'id', 'candidate no',
    'our number'],
  'email': ['email', 'e mail', 'mail', 'email address', 'e mail id'],
  'mobile': ['mobile', 'mobile no', 'phone', 'phone no', 'telephone', 'cell', 'contact no'],
  'postalCode': ['postal code', 'post code', 'zip', 'pin', 'pin code'],
  'bornOn': ['dob', 'd o b', 'date of birth', 'birth date', 'born'],
  'certificateName': ['name', 'full name', 'candidate name', 'name of candidate', 'student name'],
  'gender': ['sex'],
  'identityKind': ['id type', 'identity type', 'id proof', 'type of id'],
  'identityNumber': ['id no', 'id number', 'identity no', 'id proof no'],
  'identityName': ['name on id', 'name as in id', 'name on identity proof'],
  'file.photograph': ['photo', 'photograph', 'photo file', 'photo name', 'picture', 'image'],
  'file.signature': ['signature', 'sign', 'signature file', 'signature name'],
  'posts': ['post', 'posts', 'paper', 'papers', 'applied for'],
  'cities': ['city', 'cities', 'centre', 'centres', 'test city', 'choice of cities', 'choice', 'preference', 'centre choice'],
}

/** For each heading the field that it most likely means; none is suggested twice but for choices in columns of their own. */
export function suggestColumns(headings: readonly string[], fields: readonly RollField[]): Suggestion[] {
  const keys = headings.map(nameKey)
  const names = fields.map(field => namesOfField(field).map(nameKey))
  const pairs = keys.flatMap((key, heading) =>
    key === '' ? [] : names.flatMap((known, field) => {
      const isSure = known.includes(key)
      const likeness = isSure ? 1 : Math.max(...known.map(name => likenessOf(key, name)))
      return likeness >= likenessLeast ? [{ heading, field, likeness, isSure }] : []
    })
  )
  // The closest pairs first; of equal ones the field that stands first on the sheet.
  pairs.sort((a, b) => b.likeness - a.likeness || Number(b.isSure) - Number(a.isSure) || a.field - b.field || a.heading - b.heading)
  const suggestions: Suggestion[] = headings.map(() => ({ field: null, isSure: false }))
  const taken = new Set<number>()
  for (const { heading, field, isSure } of pairs) {
    const [one, chosen] = [suggestions[heading], fields[field]]
    if (!one || !chosen || one.field !== null || taken.has(field)) continue
    taken.add(field)
    suggestions[heading] = { field: chosen.id, isSure }
  }
  return withFurtherChoices(keys, suggestions, fields)
}

/** Choice 2 and Choice 3 are what Choice 1 is, where several can be chosen. */
function withFurtherChoices(keys: readonly string[], suggestions: readonly Suggestion[], fields: readonly RollField[]): Suggestion[] {
  const lists = new Set(fields.filter(isListField).map(field => field.id))
  const first = new Map(keys.flatMap((key, i) => {
    const field = suggestions[i]?.field ?? null
    const series = seriesOf(key)
    return field !== null && lists.has(field) && series !== null ? [[series, field] as const] : []
  }))
  return suggestions.map((one, i) => {
    const series = seriesOf(keys[i] ?? '')
    const field = one.field === null && series !== null ? first.get(series) ?? null : null
    return field === null ? one : { field, isSure: false }
  })
}

/** A heading without the number that tells it from its like; null where it has none. */
function seriesOf(key: string): string | null {
  const rest = key.replace(/\b(\d+(st|nd|rd|th)?|first|second|third|fourth|fifth|sixth|i{1,3}|iv|v|vi)\b/g, ' ').replace(/\s+/g, ' ').trim()
  return rest === key ? null : rest
}

/** Rows among which the heading is looked for: above it stand titles, and who sends it. Common practice, no source. */
export const headingAmong = 10

/** How many rows that say something stand above the heading: it is the row that names the most fields, of equal ones the first. */
export function headingPlace(rows: readonly (readonly string[])[], fields: readonly RollField[]): number {
  const named = rows.slice(0, headingAmong).map(row => suggestColumns(row, fields).filter(one => one.field !== null).length)
  return Math.max(0, named.indexOf(Math.max(...named, 2)))
}

function namesOfField(field: RollField): string[] {
  const kind = 'question' in field && !('row' in field) ? field.question.kind : ''
  return [field.title, field.id.replace(/([a-z])([A-Z])/g, '$1 $2'), ...alsoCalled[field.id] ?? [], ...alsoCalled[kind] ?? []]
}

/** Dice's coefficient over pairs of letters: twice the common pairs by all pairs, from 0 to 1 (L. R. Dice, 1945, Ecology 26). */
export function likenessOf(a: string, b: string): number {
  const [one, other] = [pairsOf(a), pairsOf(b)]
  if (one.length + other.length === 0) return a === b ? 1 : 0
  const left = new Map<string, number>()
  for (const pair of other) left.set(pair, (left.get(pair) ?? 0) + 1)
  let common = 0
  for (const pair of one) {
    const count = left.get(pair) ?? 0
    if (count === 0) continue
    left.set(pair, count - 1)
    common += 1
  }
  return 2 * common / (one.length + other.length)
}

function pairsOf(text: string): string[] {
  const letters = [...text.replaceAll(' ', '')]
  return letters.slice(1).map((letter, i) => `${letters[i] ?? ''}${letter}`)
}
