import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { faceBits, faceKeys, facesAlikeAtMost } from '../core/imaging/face-likeness'
import { differingBits } from '../core/imaging/likeness'
import { Random } from '../demo/random'
import { openEmptyDatabase, spread } from './database'

/**
 * Looking up a face among many: `DATABASE_URL=… npx tsx bench/faces.ts [faces]` on an empty database. Signs are made up, as of faces that
 * lie in all directions from the mean; those looked up differ from one that is there in a known share.
 */
const wanted = Number(process.argv[2] ?? 1_000_000)
const handle = await openEmptyDatabase()
const { db } = handle
const random = new Random(5)
const signsOf = () => Array.from({ length: faceBits / 16 }, () => random.whole(0, 65_535).toString(2).padStart(16, '0')).join('')
const array = (keys: number[]) => `{${keys.join(',')}}`

try {
  await db.execute(sql`alter table face_likeness drop constraint face_likeness_image_id_image_id_fk`)
  await db.execute(sql`drop index face_likeness_keys`)
  const kept: string[] = []
  const started = performance.now()
  for (let done = 0; done < wanted; done += 4000) {
    const rows = Array.from({ length: 4000 }, () => {
      const signs = signsOf()
      if (kept.length < 400 && random.chance(0.01)) kept.push(signs)
      return sql`(${randomUUID()}, 'HL27', ${signs}::bit(576), ${array(faceKeys(signs))}::int[])`
    })
    await db.execute(sql`insert into face_likeness values ${sql.join(rows, sql`, `)}`)
  }
  await db.execute(sql`create index face_likeness_keys on face_likeness using gin (keys)`)
  await db.execute(sql`analyze face_likeness`)
  console.log(`${wanted.toLocaleString('en-GB')} faces written in ${((performance.now() - started) / 1000).toFixed(0)} s`)
  const { rows: [size] } = await db
    .execute(sql`select pg_size_pretty(pg_relation_size('face_likeness_keys')) as keys, pg_size_pretty(pg_relation_size('face_likeness')) as rows`)
  console.log(JSON.stringify(size))
  const lookUp = (signs: string) =>
    sql`select l.signs::text as signs, bit_count(l.signs # ${signs}::bit(576))::int as differing from face_likeness l where l.keys && ${
      array(faceKeys(signs))
    }::int[] and l.cycle = 'HL27' and bit_count(l.signs # ${signs}::bit(576)) <= ${facesAlikeAtMost}`
  console.log('| angle | found | others found | median | 95 of 100 | longest |\n|---|---|---|---|---|---|')
  for (const degrees of [15, 30, 40, 48]) {
    const times: number[] = []
    let [found, others] = [0, 0]
    for (let i = 0; i < 100; i += 1) {
      const there = kept[i] ?? ''
      const signs = [...there].map(sign => random.chance(degrees / 180) ? (sign === '1' ? '0' : '1') : sign).join('')
      const begun = performance.now()
      const { rows } = await db.execute<{ signs: string, differing: number }>(lookUp(signs))
      times.push(performance.now() - begun)
      if (differingBits(there, signs) <= facesAlikeAtMost && rows.some(row => row.signs === there)) found += 1
      others += rows.filter(row => row.signs !== there).length
    }
    const { median, most, longest } = spread(times)
    console.log(`| ${degrees}° | ${found} of 100 | ${others} | ${median} ms | ${most} ms | ${longest} ms |`)
  }
  const { rows: plan } = await db.execute(sql`explain (analyze, costs off) ${lookUp(kept[0] ?? '')}`)
  console.log(plan.map(row => String((row as Record<string, unknown>)['QUERY PLAN'])).join('\n'))
} finally {
  await handle.close()
}
