import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { Answers } from '../core/application/answers'
import { headline, type Tracks } from '../core/application/tracks'
import { applicationNumber } from '../core/identity/check-digit'
import { nameKey } from '../core/identity/names'
import type { Notice } from '../core/notice/schema'
import { makePerson } from '../demo/people'
import { Random } from '../demo/random'
import type { Database } from '../server/database/client'

/** What was changed when somebody applied once more, so that it is known which applications are of one person. */
export type Twist = 'as before' | 'spelling' | 'initials' | 'order' | 'birth date' | 'other paper' | 'other script' | 'new contact'
const twists: readonly Twist[] = ['as before', 'spelling', 'initials', 'order', 'birth date', 'other paper', 'other script', 'new contact']
export interface Twice {
  first: string
  second: string
  twist: Twist
}

const [onsets, vowels, ends] = [['b', 'd', 'f', 'g', 'h', 'k', 'l', 'm', 'n', 'p', 'r', 's', 't', 'v', 'sh', 'th', 'kr', 'tr', 'br', 'qu',
  'j', 'z', 'w'], ['a', 'e', 'i', 'o', 'u', 'ai', 'ee', 'ou'], ['', '', 'n', 'r', 's', 'l', 'm', 'd', 'k', 'sh', 'rt', 'nd']]
/** Letters of another script for those of a made-up name, sound by sound. */
const letters: Record<string, string> = {
  a: 'а',
  b: 'б',
  d: 'д',
  e: 'е',
  f: 'ф',
  g: 'г',
  h: 'х',
  i: 'и',
  j: 'ж',
  k: 'к',
  l: 'л',
  m: 'м',
  n: 'н',
  o: 'о',
  p: 'п',
  q: 'к',
  r: 'р',
  s: 'с',
  t: 'т',
  u: 'у',
  v: 'в',
  w: 'в',
  z: 'з',
}
const inOtherScript = (name: string) => [...name.toLowerCase()].map(letter => letters[letter] ?? letter).join('')

/** Names by Zipf's law: the first of a list is the commonest, as names are in life. */
class Names {
  private readonly words: readonly string[]
  constructor(random: Random, count: number, private readonly exponent: number) {
    const made = new Set<string>()
    while (made.size < count) {
      const word = Array.from({ length: random.whole(2, 3) }, () => random.pick(onsets) + random.pick(vowels) + random.pick(ends)).join('')
      made.add(word.charAt(0).toUpperCase() + word.slice(1))
    }
    this.words = [...made]
  }

  draw(random: Random): string {
    const rank = Math.floor(this.words.length ** random.next() ** this.exponent) - 1
    return this.words[Math.min(this.words.length - 1, Math.max(0, rank))] ?? ''
  }
}

function misspelt(random: Random, name: string): string {
  const at = random.whole(2, Math.max(2, name.length - 2))
  switch (random.whole(0, 3)) {
    case 0:
      return name.slice(0, at) + name.slice(at + 1)
    case 1:
      return name.slice(0, at) + (name[at] ?? '') + name.slice(at)
    case 2:
      return name.slice(0, at) + (name[at + 1] ?? '') + (name[at] ?? '') + name.slice(at + 2)
    default:
      return name.replace(/ee/, 'i').replace(/th/, 't').replace(/ou/, 'u').replace(/sh/, 's')
  }
}

function twisted(random: Random, before: Answers, twist: Twist): Answers {
  const name = String(before.certificateName)
  const words = name.split(' ')
  const born = String(before.bornOn)
  const fresh = { mobile: `55502${random.whole(100_000, 999_999)}`, email: `again${random.whole(1, 10 ** 9)}@post.example` }
  const other = { identityKind: 'passport', identityNumber: `PX${random.whole(10_000_000, 99_999_999)}` }
  switch (twist) {
    case 'as before':
      return before
    case 'spelling':
      return { ...before, certificateName: misspelt(random, name), ...(random.chance(0.5) ? fresh : other) }
    case 'initials':
      return { ...before, certificateName: [`${words[0]?.[0] ?? ''}.`, ...words.slice(1)].join(' '), ...fresh }
    case 'order':
      return { ...before, certificateName: [...words].reverse().join(' '), ...other, ...(random.chance(0.5) ? fresh : {}) }
    case 'birth date':
      return {
        ...before,
        bornOn: Number(born.slice(8)) <= 12
          ? `${born.slice(0, 5)}${born.slice(8)}-${born.slice(5, 7)}`
          : `${born.slice(0, 3)}${(Number(born[3]) + 1) % 10}${born.slice(4)}`,
        ...(random.chance(0.5) ? fresh : other),
      }
    case 'other paper':
      return { ...before, ...other }
    case 'other script':
      return { ...before, certificateName: inOtherScript(name), ...(random.chance(0.5) ? fresh : other) }
    case 'new contact':
      return { ...before, ...fresh }
  }
}

const states: readonly (readonly [number, Tracks])[] = [
  [18, { form: 'drafting', fee: 'not assessed', scrutiny: 'not started', placement: 'unplaced', card: 'not issued' }],
  [12, { form: 'submitted', fee: 'due', scrutiny: 'not started', placement: 'unplaced', card: 'not issued' }],
  [30, { form: 'submitted', fee: 'settled', scrutiny: 'waiting', placement: 'unplaced', card: 'not issued' }],
  [3, { form: 'correcting', fee: 'settled', scrutiny: 'returned', placement: 'unplaced', card: 'not issued' }],
  [25, { form: 'submitted', fee: 'nothing due', scrutiny: 'accepted', placement: 'unplaced', card: 'not issued' }],
  [8, { form: 'submitted', fee: 'settled', scrutiny: 'accepted', placement: 'published', card: 'not issued' }],
  [2, { form: 'submitted', fee: 'settled', scrutiny: 'refused', placement: 'unplaced', card: 'not issued' }],
  [2, { form: 'withdrawn', fee: 'refund due', scrutiny: 'waiting', placement: 'unplaced', card: 'not issued' }],
]

/**
 * Many made-up applications at all points of the flow, without pictures: written in one sweep and not through the services, which would
 * take days. One in a hundred is of somebody who has applied before, with something changed.
 *
 * @param db null to be told only who they are: the same seed gives the same people.
 * @returns who applied twice, by the numbers of both applications.
 */
export async function writeMany(
  db: Database | null,
  notice: Notice,
  count: number,
  seed = 1,
  tell: (done: number) => void = () => undefined,
): Promise<Twice[]> {
  const random = new Random(seed)
  const [given, family] = [new Names(random, 9000, 0.75), new Names(random, 14_000, 0.75)]
  const table = states.flatMap(([share, tracks]) => Array.from({ length: share }, () => tracks))
  const recent: { number: string, answers: Answers }[] = []
  const twice: Twice[] = []
  const now = Date.now()
  for (let from = 0; from < count; from += 5000) {
    const rows = Array.from({ length: Math.min(5000, count - from) }, (_, i) => {
      const { answers: made } = makePerson(random, notice, from + i)
      const [id, number] = [randomUUID(), applicationNumber(notice.code, 100_000 + from + i)]
      const third = random.chance(0.3) ? ` ${given.draw(random)}` : ''
      let answers: Answers = {
        ...made,
        certificateName: `${given.draw(random)}${third} ${family.draw(random)}`,
        mobile: `5550${random.whole(1_000_000, 9_999_999)}`,
      }
      const before = random.chance(0.01) ? recent[random.whole(0, recent.length - 1)] : undefined
      if (before) {
        const twist = random.pick(twists)
        answers = {
          ...answers,
          ...Object
            .fromEntries(['certificateName', 'bornOn', 'identityKind', 'identityNumber', 'mobile', 'email'].map(
              key => [key, before.answers[key] ?? '']
            )),
        }
        answers = twisted(random, answers, twist)
        twice.push({ first: before.number, second: number, twist })
      } else if (random.chance(0.1)) {
        if (recent.length < 200_000) recent.push({ number, answers })
        else recent[random.whole(0, recent.length - 1)] = { number, answers }
      }
      const tracks = table[random.whole(0, table.length - 1)] ?? table[0]
      const name = String(answers.certificateName)
      const at = new Date(now - random.between(0, 20 * 86_400_000)).toISOString()
      return {
        id,
        number,
        answers,
        name,
        key: nameKey(name),
        mobile: answers.mobile,
        at,
        ...tracks,
        headline: tracks ? headline(tracks) : 'drafting',
      }
    })
    if (db) {
      await db
        .execute(sql`insert into application (id, cycle, number, answers, revision, display_name, name_key, mobile_key, form, fee, scrutiny, placement, card, headline, headline_since, created_at, submitted_at, updated_at)
      select id, ${notice.code}, number, answers, 1, name, key, mobile, form, fee, scrutiny, placement, card, headline, at, at, case when form <> 'drafting' then at end, at
      from jsonb_to_recordset(${
          JSON.stringify(rows)
        }::jsonb) as r(id uuid, number text, answers jsonb, name text, key text, mobile text, form text, fee text, scrutiny text, placement text, card text, headline text, at timestamptz)`)
    }
    tell(from + rows.length)
  }
  return twice
}
