import { declarationId } from '../terms'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'

/** Texts to accept that go by one name, or by that of the declaration. */
export const termFindings = ({ terms = [] }: Pick<Notice, 'terms'>): NoticeFinding[] =>
  terms.flatMap(({ id }, i) =>
    id === declarationId || terms.findIndex(one => one.id === id) < i ? [found('id.twice', pointer('terms', i, 'id'), { id })] : []
  )
