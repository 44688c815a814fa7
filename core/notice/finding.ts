/**
 * What a check of a notice finds, as data. An error keeps a cycle from being opened; a warning is passed by an officer's recorded word.
 */
export type Severity = 'error' | 'warning'

/**
 * Every finding by its lasting code, with its severity. Codes that begin with `shape` are about single values, whatever their part of the
 * notice.
 */
export const noticeFindings = {
  'format.newer': 'error',
  'shape.missing': 'error',
  'shape.kind': 'error',
  'shape.unknown-part': 'error',
  'shape.too-small': 'error',
  'shape.too-large': 'error',
  'shape.choice': 'error',
  'shape.form': 'error',
  'shape.id': 'error',
  'shape.question-id': 'error',
  'shape.date': 'error',
  'shape.time': 'error',
  'shape.instant': 'error',
  'shape.decimal': 'error',
  'shape.number-or-day': 'error',
  'shape.cycle-code': 'error',
  'shape.currency-code': 'error',
  'shape.colour': 'error',
  'shape.digits': 'error',
  'shape.condition-bound': 'error',
  'shape.age-bound': 'error',
  'shape.age-upper': 'error',
  'shape.age-lower': 'error',
  'shape.age-lowered': 'error',
  'shape.qualification-one': 'error',
  'shape.number-bound': 'error',
  'shape.day-bound': 'error',
  'shape.board-named': 'error',
  'shape.board-compulsory': 'error',
  'shape.board-points': 'error',
  'shape.grade-one': 'error',
  'shape.claim-effect': 'error',
  'id.twice': 'error',
  'term.signed-first': 'error',
  'id.taken': 'error',
  'fact.missing': 'error',
  'fact.kind': 'error',
  'fact.day': 'error',
  'fact.option': 'error',
  'fact.column': 'error',
  'condition.question': 'error',
  'condition.later': 'error',
  'condition.number': 'error',
  'condition.table': 'error',
  'condition.option': 'error',
  'question.never': 'error',
  'question.same-as': 'error',
  'number.example': 'error',
  'document.never': 'error',
  'relaxation.never': 'warning',
  'waiver.never': 'warning',
  'surcharge.never': 'warning',
  'quiet.whole-day': 'error',
  'payer.never': 'warning',
  'waiver.both': 'error',
  'image.faces': 'error',
  'image.no-face': 'error',
  'bounds.empty': 'error',
  'bounds.door-bytes': 'error',
  'bounds.door-pages': 'error',
  'bounds.aspect': 'error',
  'dates.order': 'error',
  'dates.cards': 'warning',
  'dates.correction-late': 'warning',
  'dates.offset': 'warning',
  'dates.holiday': 'warning',
  'dates.short': 'warning',
  'dates.late-fee': 'warning',
  'dates.paid-late': 'warning',
  'dates.post-late': 'error',
  'dates.post-early': 'error',
  'claim.lead': 'warning',
  'session.times': 'error',
  'session.cards': 'error',
  'session.overlap': 'error',
  'fee.hole': 'error',
  'fee.overlap': 'error',
  'fee.category': 'error',
  'text.placeholder': 'warning',
  'letter.twice': 'error',
  'letter.braces': 'error',
  'letter.long': 'warning',
  'language.tag': 'error',
  'language.twice': 'error',
  'language.missing': 'warning',
  'language.unknown': 'warning',
  'language.braces': 'warning',
  'language.numbers': 'warning',
  'zone.unknown': 'error',
  'session.no-hour': 'error',
  'session.hour-twice': 'warning',
  'city.empty': 'error',
  'city.no-seats': 'warning',
  'room.accessible': 'error',
  'room.unusable': 'error',
  'seats.few': 'warning',
  'seats.step-free': 'warning',
  'allocation.city': 'error',
  'kept.city': 'error',
  'kept.many': 'error',
  'kept.never': 'warning',
  'allocation.policy': 'error',
  'allocation.costs': 'error',
  'rule.percentage': 'error',
  'rule.relaxation-answer': 'error',
  'rule.relaxation-years': 'error',
  'rule.relaxation-cap': 'warning',
  'rule.lowered': 'error',
  'rule.bounds': 'error',
  'rule.born': 'error',
  'rule.question': 'error',
  'rule.subjects-least': 'error',
  'rule.no-number': 'error',
  'rule.no-table': 'error',
  'rule.no-date': 'error',
  'rule.no-day': 'error',
  'rule.no-column': 'error',
  'member.unknown': 'error',
  'rung.equals': 'error',
  'post.nobody': 'error',
  'post.unseen': 'warning',
  'posts.least': 'error',
  'posts.most': 'warning',
  'posts.groups': 'error',
  'posts.load': 'error',
  'test-papers.none': 'error',
  'test-papers.unused': 'warning',
  'test-papers.collide': 'error',
  'test-papers.forced': 'error',
  'request.overlap': 'warning',
  'text.number': 'warning',
  'text.silent': 'warning',
} as const satisfies Record<string, Severity>
export type NoticeFindingCode = keyof typeof noticeFindings

/**
 * `at` points to the value in the notice's document (JSON Pointer, RFC 6901); the empty text is the whole. `person` are answers of somebody
 * whom it hits.
 */
export interface NoticeFinding {
  code: NoticeFindingCode
  severity: Severity
  at: string
  parameters: Readonly<Record<string, string | number>>
  person?: Readonly<Record<string, string | string[]>>
}

export type PointerStep = string | number

/** A JSON Pointer of these steps: `~` and `/` inside a step are escaped (RFC 6901, section 3). */
export const pointer = (...steps: readonly PointerStep[]): string =>
  steps.map(step => `/${String(step).replace(/~/g, '~0').replace(/\//g, '~1')}`).join('')

/** The steps of a JSON Pointer. */
export const stepsOf = (at: string): string[] => at.split('/').slice(1).map(step => step.replace(/~1/g, '/').replace(/~0/g, '~'))

/** The value that a JSON Pointer leads to; nothing where it leads nowhere. */
export function valueAt(document: unknown, at: string): unknown {
  return stepsOf(at).reduce<unknown>(
    (value, step) =>
      typeof value === 'object' && value !== null && Object.hasOwn(value, step) ? (value as Record<string, unknown>)[step] : undefined,
    document,
  )
}

export function found(
  code: NoticeFindingCode,
  at: string,
  parameters: NoticeFinding['parameters'] = {},
  person?: NoticeFinding['person'],
): NoticeFinding {
  return { code, severity: noticeFindings[code], at, parameters, ...(person ? { person } : {}) }
}

export const isError = ({ severity }: NoticeFinding): boolean => severity === 'error'
