import { and, sql, type SQL } from 'drizzle-orm'
import { nameKey } from '../../../core/identity/names'
import { facetOf, type RosterFilter } from '../../../shared/applications'
import { grouped } from '../../../shared/grouped'
import { likeText } from '../../database/text'

/** A question to the roster, ready for the database: `e` is an entry. */
export interface Asked {
  cycle: string
  /** The one point of the flow that is asked for, which has indexes of its own. */
  headline: string | null
  /** Tags by facet, without that point. */
  groups: string[][]
  /** What is asked besides cycle, point, tags and name. */
  rest: SQL | undefined
  /** The number or name that is searched for. */
  sought: SQL | undefined
  /** Words of a name that are searched for; none where a number is. */
  words: string[]
}

export function askedOf(cycle: string, { is = [], search, from, before, unread }: RosterFilter): Asked {
  const groups = [...grouped(is, facetOf).values()].map(tags => [...new Set(tags)])
  const single = groups.find(([first, second]) => first?.startsWith('at:') && second === undefined)
  const found = search?.trim() ? searchOf(search.trim()) : null
  return {
    cycle,
    headline: single?.[0]?.slice(3) ?? null,
    groups: groups.filter(group => group !== single),
    words: found?.words ?? [],
    sought: found?.condition,
    rest: and(
      from ? sql`e.since >= ${from}::timestamptz` : undefined,
      before ? sql`e.since < ${before}::timestamptz` : undefined,
      unread
        ? sql`exists (select 1 from message m where m.announcement_id = ${unread} and m.application_id = e.application_id and m.unseen)`
        : undefined,
    ),
  }
}

/** What is asked besides the place, as a condition: tags in one, so that their index joins them itself. */
export function conditionOf({ groups, sought, rest }: Pick<Asked, 'groups' | 'sought' | 'rest'>): SQL | undefined {
  const single = groups.flatMap(group => group.length === 1 ? group : [])
  const either = groups.filter(group => group.length > 1)
  return and(
    single.length > 0 ? sql`e.tags @> ${sql.param(single)}::text[]` : undefined,
    ...either.map(group => sql`e.tags && ${sql.param(group)}::text[]`),
    sought,
    rest,
  )
}
/** Where the list is read in its order. */
export const placeOf = ({ cycle, headline }: Asked): SQL =>
  headline === null ? sql`e.cycle = ${cycle}` : sql`e.cycle = ${cycle} and e.headline = ${headline}`
/** The whole question, for the index of tags. */
export function wholeOf({ cycle, headline, groups, ...more }: Asked): SQL {
  return and(sql`e.cycle = ${cycle}`, conditionOf({ groups: headline === null ? groups : [[`at:${headline}`], ...groups], ...more }))
    ?? sql`true`
}

/** A telephone's beginning, a number's beginning, or words of a name from their beginnings on, in any order. */
function searchOf(text: string): { condition: SQL, words: string[] } {
  const digits = text.replace(/\D/g, '')
  if (digits.length >= 4 && digits.length === text.replace(/[\s+()-]/g, '').length) {
    return { condition: sql`e.mobile_key like ${`${digits}%`}`, words: [] }
  }
  if (/^[A-Za-z]{2}\d{2}(-|$)/.test(text)) return { condition: sql`e.number like ${`${likeText(text.toUpperCase())}%`}`, words: [] }
  const words = wordsOf(text)
  if (words.length === 0) return { condition: sql`false`, words }
  return { condition: sql`e.words @@ to_tsquery('simple', ${words.map(word => `${lexeme(word)}:*`).join(' & ')})`, words }
}

/** The words that somebody searches for, as names are kept. */
export const wordsOf = (text: string): string[] => nameKey(text).split(' ').filter(word => word !== '').slice(0, 8)
/** A word inside a query, whatever is in it. */
export const lexeme = (word: string): string => `'${word.replaceAll("'", "''").replaceAll('\\', '\\\\')}'`
