import { and, sql } from 'drizzle-orm'
import { plainLetters, plainName, searchLikeness } from '../../../core/identity/likeness'
import type { Executor } from '../../database/client'
import { conditionOf, lexeme, placeOf, type Asked } from './filter'

/** Likeness from which a name is shown as one that may be meant. */
const shownFrom = 0.85
/** Spellings of one word that are tried, names that are compared, and names that are shown. */
const [spellings, compared, shown] = [40, 600, 20]

/**
 * Applications whose names are spelt or sound like those searched for, in any script, the likest first. Words are found in a list of all
 * that names have, by the trigrams of their plain letters; names by those words.
 */
export async function findAlike(db: Executor, asked: Asked): Promise<string[]> {
  await writeLatin(db)
  const queries: string[] = []
  for (const word of asked.words) {
    const plain = plainLetters(word)
    if (plain.length < 2) continue
    const { rows } = await db.execute<
      { word: string }
    >(sql`select word from name_word where latin % ${plain} order by similarity(latin, ${plain}) desc, word limit ${spellings}`)
    if (rows.length > 0) queries.push(`(${rows.map(row => lexeme(row.word)).join(' | ')})`)
  }
  if (queries.length === 0) return []
  const others = and(conditionOf({ ...asked, sought: undefined }), sql`not (${asked.sought})`)
  const { rows } = await db.execute<{ id: string, name: string }>(sql`select e.application_id as id, e.name_key as name from roster_entry e
    where e.words @@ to_tsquery('simple', ${queries.join(' & ')}) and ${placeOf(asked)} and ${others} limit ${compared}`)
  const wanted = asked.words.map(plainLetters)
  return rows.map(({ id, name }) => ({ id, likeness: searchLikeness(wanted, plainName(name)) })).filter(one => one.likeness >= shownFrom)
    .sort((a, b) => b.likeness - a.likeness || (a.id < b.id ? -1 : 1)).slice(0, shown).map(one => one.id)
}

/** Writes down in plain letters what words have come since. */
export async function writeLatin(db: Executor): Promise<void> {
  for (;;) {
    const { rows } = await db.execute<{ word: string }>(sql`select word from name_word where latin is null limit 2000`)
    if (rows.length === 0) return
    const [words, latin] = [rows.map(row => row.word), rows.map(row => plainLetters(row.word))]
    await db
      .execute(sql`update name_word set latin = made.latin from unnest(${sql.param(words)}::text[], ${
        sql.param(latin)
      }::text[]) as made(word, latin) where name_word.word = made.word`)
  }
}
