import { found, pointer, type NoticeFinding } from '../finding'
import { unknownInBraces } from '../../words/braces'
import { placeholders } from '../placeholders'
import type { Notice } from '../schema'

/** The texts in which placeholders are filled, and where they stand. */
function textsForAll({ information, terms, declaration, card }: Notice): [at: string, text: string][] {
  return [
    ...terms?.map(({ text }, i): [string, string] => [pointer('terms', i, 'text'), text]) ?? [],
    [pointer('declaration'), declaration],
    ...card.instructions.map((text, i): [string, string] => [pointer('card', 'instructions', i), text]),
    ...information ? [[pointer('information', 'summary'), information.summary] as [string, string]] : [],
    ...information?.steps.map((text, i): [string, string] => [pointer('information', 'steps', i), text]) ?? [],
    ...information?.news.map(({ text }, i): [string, string] => [pointer('information', 'news', i, 'text'), text]) ?? [],
  ]
}

/** Words in braces that stand for nothing: people would read the braces. */
export const placeholderFindings = (notice: Notice): NoticeFinding[] =>
  textsForAll(notice).flatMap(([at, text]) =>
    unknownInBraces(text, placeholders).map(word => found('text.placeholder', at, { word, known: placeholders.join(', ') }))
  )
