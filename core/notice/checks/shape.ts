import type { z } from 'zod'
import { found, noticeFindings, pointer, type NoticeFinding, type NoticeFindingCode } from '../finding'

type Issue = z.core.$ZodIssue

/** What the schema refuses, each at its place. */
export function shapeFindings(issues: readonly Issue[]): NoticeFinding[] {
  return issues.flatMap(issue => findingsOf(issue, []))
}

function findingsOf(issue: Issue, before: readonly PropertyKey[]): NoticeFinding[] {
  const path = [...before, ...issue.path]
  const at = pointer(...path.map(String))
  // What was not written yet is missing, whatever form it is to have.
  if (issue.input === '') return [found('shape.missing', at)]
  // Our own rules give the code of a finding as their message.
  if (issue.message in noticeFindings) return [found(issue.message as NoticeFindingCode, at, valueOf(issue))]
  switch (issue.code) {
    case 'invalid_type':
      return [
        issue.input === undefined
          ? found('shape.missing', at)
          : found('shape.kind', at, { wanted: issue.expected, found: kindOf(issue.input) }),
      ]
    case 'unrecognized_keys':
      return issue.keys.map(key => found('shape.unknown-part', `${at}${pointer(key)}`, { part: key }))
    case 'too_small':
      return [found('shape.too-small', at, { bound: Number(issue.minimum), of: issue.origin })]
    case 'too_big':
      return [found('shape.too-large', at, { bound: Number(issue.maximum), of: issue.origin })]
    case 'invalid_value':
      return [
        issue.input === undefined
          ? found('shape.missing', at)
          : found('shape.choice', at, { values: issue.values.map(String).join(', '), ...valueOf(issue) }),
      ]
    case 'invalid_union':
      return formFindings(issue.errors, issue, path)
    case 'invalid_key':
      return [found('shape.question-id', at, { value: String(path.at(-1) ?? '') })]
    default:
      return [found('shape.form', at, valueOf(issue))]
  }
}

/** Complaints of the form whose `kind` fits, else of the one with the fewest, the deepest first: it was most likely meant. */
function formFindings(forms: readonly (readonly Issue[])[], { input }: Issue, path: readonly PropertyKey[]): NoticeFinding[] {
  const kind = typeof input === 'object' && input !== null && 'kind' in input ? input.kind : undefined
  const named = forms.filter(issues => !issues.some(isOtherKind))
  // No form bears that name: say which there are.
  if (kind !== undefined && named.length === 0) {
    const kinds = forms.flatMap(issues =>
      issues.flatMap(issue => isOtherKind(issue) && issue.code === 'invalid_value' ? issue.values.map(String) : [])
    )
    return [
      found('shape.choice', pointer(...path.map(String), 'kind'), {
        values: [...new Set(kinds)].join(', '),
        value: String(kind).slice(0, 80),
      }),
    ]
  }
  const weight = (issues: readonly Issue[]) => issues.length - Math.max(0, ...issues.map(({ path: inner }) => inner.length)) / 10
  const [nearest = []] = [...(named.length > 0 ? named : forms)].sort((a, b) => weight(a) - weight(b))
  return nearest.length > 0 ? nearest.flatMap(issue => findingsOf(issue, path)) : [found('shape.form', pointer(...path.map(String)))]
}

const isOtherKind = ({ path, code }: Issue): boolean => path.length === 1 && path[0] === 'kind' && code === 'invalid_value'
const valueOf = ({ input }: Issue): { value?: string | number } =>
  typeof input === 'string' || typeof input === 'number' ? { value: typeof input === 'string' ? input.slice(0, 80) : input } : {}
const kindOf = (input: unknown): string => input === null ? 'null' : Array.isArray(input) ? 'array' : typeof input
