import { declarationId } from '../terms'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'

/**
 * Texts to accept that go by one name, or by that of the declaration; and texts that are signed by a name before the form has asked for
 * one.
 */
export const termFindings = ({ terms = [] }: Pick<Notice, 'terms'>): NoticeFinding[] =>
  terms.flatMap(({ id, title, asked, signed = 'ticked' }, i) => [
    ...id === declarationId || terms.findIndex(one => one.id === id) < i ? [found('id.twice', pointer('terms', i, 'id'), { id })] : [],
    ...asked === 'at the beginning' && signed !== 'ticked' ? [found('term.signed-first', pointer('terms', i, 'signed'), { title })] : [],
  ])
