import { z } from 'zod'
import type { Reference } from './questions'
import { noticeFileSchema } from './schema'

/**
 * How each value of a notice is entered, read from the schema that checks it: an editor made from this knows every part that a notice can
 * hold, and a part added to the schema is there at once.
 */

/** The part of JSON Schema (draft 2020-12) that the schema of a notice is made of. */
export interface SchemaNode {
  type?: string
  const?: string | number
  enum?: string[]
  default?: unknown
  format?: string
  form?: string
  refers?: string
  properties?: Record<string, SchemaNode>
  required?: string[]
  items?: SchemaNode
  anyOf?: SchemaNode[]
  oneOf?: SchemaNode[]
  additionalProperties?: SchemaNode | boolean
  $ref?: string
  $defs?: Record<string, SchemaNode>
  minItems?: number
  maxItems?: number
  minimum?: number
  maximum?: number
  maxLength?: number
}

export interface Part {
  key: string
  node: SchemaNode
  required: boolean
}
export type Form =
  | { kind: 'parts', parts: Part[] }
  | { kind: 'members', of: SchemaNode }
  /** Several forms told apart by `kind`. */
  | { kind: 'kinds', kinds: { kind: string, node: SchemaNode }[], isRule: boolean }
  /** Several forms told apart by what they hold. */
  | { kind: 'either', forms: SchemaNode[] }
  | { kind: 'condition' }
  | { kind: 'yes-no' }
  | { kind: 'map' }
  | { kind: 'choice', values: string[] }
  | { kind: 'reference', to: Reference }
  | { kind: 'number', whole: boolean }
  | { kind: 'text', form: 'plain' | 'id' | 'question-id' | 'date' | 'time' | 'moment' | 'decimal' | 'long' | 'colour' }
  | { kind: 'amount' }

/** The JSON Schema of a notice's file. */
export const noticeJsonSchema = (): SchemaNode => z.toJSONSchema(noticeFileSchema, { io: 'input' }) as SchemaNode

/** The schema of a notice, asked for the form of its nodes. */
export class NoticeForms {
  readonly root = noticeJsonSchema()

  /** A node as it stands, a reference followed. */
  resolve(node: SchemaNode): SchemaNode {
    if (node.$ref === undefined) return node
    const target = this.root.$defs?.[node.$ref.split('/').at(-1) ?? '']
    return target ? { ...target, ...node, $ref: undefined } : node
  }

  formOf(reference: SchemaNode): Form {
    const node = this.resolve(reference)
    if (node.form === 'condition') return { kind: 'condition' }
    const forms = node.anyOf ?? node.oneOf
    if (forms) return formsOf(forms.map(form => this.resolve(form)), node.form === 'rule')
    if (node.refers !== undefined) return { kind: 'reference', to: node.refers as Reference }
    if (node.enum) return { kind: 'choice', values: node.enum }
    switch (node.type) {
      case 'object':
        return node.properties ? { kind: 'parts', parts: partsOf(node) } : { kind: 'map' }
      case 'array':
        return { kind: 'members', of: node.items ?? {} }
      case 'boolean':
        return { kind: 'yes-no' }
      case 'integer':
      case 'number':
        return node.form === 'amount' ? { kind: 'amount' } : { kind: 'number', whole: node.type === 'integer' }
      default:
        return { kind: 'text', form: textForm(node) }
    }
  }

  /** A value to begin with: every part that must be there, each as empty as its form allows. */
  blankOf(reference: SchemaNode): unknown {
    const node = this.resolve(reference)
    if (node.const !== undefined) return node.const
    const form = this.formOf(node)
    switch (form.kind) {
      case 'parts':
        return Object.fromEntries(form.parts.filter(part => part.required).map(part => [part.key, this.blankOf(part.node)]))
      case 'members':
        return []
      case 'kinds':
        return { kind: form.kinds[0]?.kind, ...this.blankOf(form.kinds[0]?.node ?? {}) as object }
      case 'either':
        return this.blankOf(form.forms[0] ?? {})
      case 'condition':
        return { question: '', in: [] }
      case 'yes-no':
        return false
      case 'map':
        return {}
      case 'choice':
        return form.values[0] ?? ''
      case 'number':
      case 'amount':
        return node.minimum !== undefined && node.minimum > 0 ? node.minimum : 0
      default:
        return ''
    }
  }
}

function partsOf({ properties = {}, required = [] }: SchemaNode): Part[] {
  // What people know a thing by comes before the id that is made from it.
  const rank = (key: string) => key === 'title' || key === 'label' ? -1 : 0
  return Object.entries(properties).filter(([, node]) => node.const === undefined).map(([key, node]) => ({
    key,
    node,
    required: required.includes(key),
  })).sort((a, b) => rank(a.key) - rank(b.key))
}

function formsOf(forms: SchemaNode[], isRule: boolean): Form {
  const kinds = forms.map(node => ({ kind: node.properties?.kind?.const, node }))
  const named = kinds.flatMap(({ kind, node }) => typeof kind === 'string' ? [{ kind, node }] : [])
  return named.length === forms.length ? { kind: 'kinds', kinds: named, isRule } : { kind: 'either', forms }
}

const textForms = ['id', 'question-id', 'date', 'time', 'moment', 'decimal', 'long', 'colour'] as const
const textForm = ({ form }: SchemaNode): Extract<Form, { kind: 'text' }>['form'] => textForms.find(known => known === form) ?? 'plain'

/** The parts of a notice in the order in which one is made. Every part stands in exactly one group. */
export const noticeGroups = {
  examination: ['code', 'title', 'body', 'expected'],
  dates: ['keyDates', 'sessions', 'outcomes'],
  lists: ['categories', 'qualifications', 'disciplines', 'subjects', 'boards'],
  sheet: ['sections', 'claims'],
  posts: ['testPapers', 'posts', 'leapDayBirthday', 'percentageCompared'],
  fees: ['fees'],
  files: ['images', 'documents'],
  centres: ['cities', 'accessibleSeatWhen', 'allocation'],
  texts: ['terms', 'declaration', 'declarationSigned', 'card', 'information', 'letters', 'language', 'translations'],
  acts: ['scrutiny', 'corrections', 'requests', 'endorsements', 'secondPerson'],
} as const satisfies Record<string, readonly string[]>
export type NoticeGroup = keyof typeof noticeGroups

/** The group of the part that a pointer leads into; the first for the whole. */
export function groupOf(part: string): NoticeGroup {
  const names = Object.keys(noticeGroups) as NoticeGroup[]
  return names.find(name => (noticeGroups[name] as readonly string[]).includes(part)) ?? 'examination'
}

/**
 * An id made from a title: `Pilot cadet` becomes `pilot-cadet`, or `pilotCadet` for a question. Empty for a title without plain letters.
 */
export function idFrom(title: string, form: 'id' | 'question-id'): string {
  const words = title.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().match(/[a-z0-9]+/g) ?? []
  const named = words.join('-').replace(/^[0-9-]+/, '').slice(0, 40).replace(/-$/, '')
  return form === 'id' ? named : named.replace(/-([a-z0-9])/g, (_, letter: string) => letter.toUpperCase())
}

/** Whether a list is shown as a table: its members are few values side by side. */
export function isTabular(forms: NoticeForms, of: SchemaNode): boolean {
  const form = forms.formOf(of)
  return form.kind === 'parts' && form.parts.length <= 7 && form.parts.every(({ node }) => {
    const inner = forms.formOf(node)
    return ['number', 'amount', 'choice', 'reference', 'condition', 'either'].includes(inner.kind)
      || (inner.kind === 'text' && inner.form !== 'long')
  })
}

/**
 * The members of a list that values are taken from, as the document has them; `beside` is the question that options and columns belong to.
 */
export function referenceMembers(document: unknown, to: Reference, beside: string): { id: string, title: string }[] {
  const list = (value: unknown) =>
    Array.isArray(value) ? value.filter((one): one is Record<string, unknown> => typeof one === 'object' && one !== null) : []
  const part = (key: string) =>
    list(typeof document === 'object' && document !== null ? (document as Record<string, unknown>)[key] : undefined)
  const named = (members: Record<string, unknown>[]) =>
    members.flatMap(({ id, title, label }) =>
      typeof id === 'string'
        ? [{ id, title: typeof title === 'string' && title !== '' ? title : typeof label === 'string' ? label : id }]
        : []
    )
  const questions = part('sections').flatMap(section => list(section.questions))
  if (to === 'questions') return named(questions)
  if (to === 'items') return [...named(questions), ...imagesOf(document), ...named(part('documents'))]
  if (to !== 'options' && to !== 'columns') return named(part(to))
  return named(list(questions.find(q => q.id === beside)?.[to]))
}

/** The kinds of image that a document asks for, by their ids. */
function imagesOf(document: unknown): { id: string, title: string }[] {
  const images = typeof document === 'object' && document !== null ? (document as { images?: unknown }).images : undefined
  return typeof images === 'object' && images !== null
    ? Object.entries(images).map(([id, rule]) => ({ id, title: String((rule as { title?: unknown } | null)?.title ?? id) }))
    : []
}
