import { filledText } from './placeholders'
import type { Notice, Term } from './schema'

/** What candidates accept in so many words: the texts of a notice, and its declaration last. */
export interface TextToAccept {
  id: string
  /** None for the declaration, which the notice gives no title. */
  title: string
  text: string
  asked: Term['asked']
}

/** How the declaration is called among the texts. */
export const declarationId = 'declaration'

/** The texts that are accepted, as people read them in the notice that is given. */
export const textsToAccept = (notice: Notice): TextToAccept[] =>
  [
    ...notice.terms ?? [],
    { id: declarationId, title: '', text: notice.declaration, asked: 'at the end' as const },
  ].map(one => ({ ...one, text: filledText(notice, one.text) }))
