import type { Headline } from '~~/core/application/tracks'
import { spellMinutes } from '~~/core/calendar/zone'
import type { RosterRow } from '~~/shared/applications'

const columns = ['number', 'name', 'category', 'posts', 'headline', 'since', 'fee', 'doubt', 'matter', 'unread', 'telephone'] as const
/** Columns that are left out until they are asked for. */
const outAtFirst = 'fee,doubt,matter,unread'

/** The columns of the roster, and what stands in them. */
export function useRosterColumns() {
  const spelling = useSpelling()
  const now = useNow()
  const { headlineWords } = useWords().states
  const { value: spellTag } = useTags()
  const columnWords: Record<typeof columns[number], string> = {
    number: say('roster.number'),
    name: say('roster.name'),
    category: say('roster.category'),
    posts: say('roster.posts'),
    headline: say('roster.standsAt'),
    since: say('roster.since'),
    fee: say('roster.fee'),
    doubt: say('roster.doubt'),
    matter: say('roster.matter'),
    unread: say('roster.unread'),
    telephone: say('roster.telephone'),
  }
  const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))
  function cell(row: RosterRow, column: typeof columns[number]): string {
    switch (column) {
      case 'number':
        return row.number
      case 'name':
        return row.name || say('roster.noNameYet')
      case 'category':
        return row.category ? spelling.category(row.category) : '–'
      case 'posts':
        return row.posts.map(spelling.post).join(', ') || '–'
      case 'since':
        return age(row.since)
      case 'fee':
      case 'doubt':
      case 'matter':
      case 'unread':
        return row.tags.filter(tag => tag.startsWith(`${column}:`)).map(spellTag).join(', ') || '–'
      case 'telephone':
        return row.mobile || '–'
      default:
        return headlineWords[row.headline as Headline] ?? row.headline
    }
  }
  return { columns, columnWords, outAtFirst, cell }
}
