import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { alikeAtMost, bandKeys, hashBits, perceptualHash } from '../core/imaging/likeness'
import { drawPortrait } from '../demo/portraits'
import { Random } from '../demo/random'
import { decodePicture } from '../pictures/decode'
import { openEmptyDatabase, spread } from './database'
import { lookUp } from '../server/services/images/likeness'

/**
 * Looking up the same picture again among many: `DATABASE_URL=… npx tsx bench/likeness.ts [pictures]` on an empty database. Hashes are
 * made up so that each bit is as often set as in drawn portraits, which are more alike than photographs: the harder case.
 */
const wanted = Number(process.argv[2] ?? 1_000_000)
const handle = await openEmptyDatabase()
const { db } = handle
const random = new Random(4)

async function ratesOfDrawn(): Promise<number[]> {
  const hashes = await Promise.all(Array.from(
    { length: 200 },
    async (_, i) => perceptualHash((await decodePicture(await drawPortrait(new Random(i * 31 + 7), 'none'))).picture.pixels),
  ))
  return Array.from({ length: hashBits }, (_, bit) => hashes.filter(hash => hash[bit] === '1').length / hashes.length)
}

try {
  await db.execute(sql`alter table image_likeness drop constraint image_likeness_image_id_image_id_fk`)
  const rates = await ratesOfDrawn()
  const started = performance.now()
  for (let done = 0; done < wanted; done += 5000) {
    const rows = Array.from({ length: 5000 }, () => {
      const hash = rates.map(rate => random.chance(rate) ? '1' : '0').join('')
      return sql`(${randomUUID()}, 'HL27', 'photograph', ${randomUUID()}, ${hash}::bit(256), ${`{${bandKeys(hash).join(',')}}`}::int[])`
    })
    await db.execute(sql`insert into image_likeness values ${sql.join(rows, sql`, `)}`)
  }
  await db.execute(sql`analyze image_likeness`)
  await db.execute(sql`vacuum image_likeness`)
  console.log(`${wanted.toLocaleString('en-GB')} pictures written in ${((performance.now() - started) / 1000).toFixed(0)} s`)
  const { rows: [size] } = await db
    .execute(sql`select pg_size_pretty(pg_relation_size('image_likeness_keys')) as keys, pg_size_pretty(pg_relation_size('image_likeness')) as rows`)
  console.log(JSON.stringify(size))
  // A hundred people of whom another copy exists with up to as many bits changed as still count as alike.
  const times: number[] = []
  let found = 0
  for (let i = 0; i < 100; i += 1) {
    const { rows: [row] } = await db.execute<
      { hash: string }
    >(sql`select hash::text from image_likeness offset ${Math.floor(random.next() * Math.min(wanted, 200_000))} limit 1`)
    const flips = new Set(Array.from({ length: random.whole(1, alikeAtMost) }, () => random.whole(0, hashBits - 1)))
    const hash = [...row?.hash ?? ''].map((bit, at) => flips.has(at) ? (bit === '1' ? '0' : '1') : bit).join('')
    const begun = performance.now()
    const { rows } = await db
      .execute(sql`select image_id from image_likeness l where l.keys && ${`{${
        bandKeys(hash).join(',')
      }}`}::int[] and l.cycle = 'HL27' and bit_count(l.hash # ${hash}::bit(256)) <= ${alikeAtMost}`)
    times.push(performance.now() - begun)
    if (rows.length > 0) found += 1
  }
  const { median, most, longest } = spread(times)
  console.log(`100 look-ups: ${found} found, median ${median} ms, 95th of 100 ${most} ms, longest ${longest} ms`)
  // The whole statement of a dossier, for an application of the set.
  const [id, imageId] = [randomUUID(), randomUUID()]
  await db
    .execute(sql`insert into application (id, cycle, number, answers, form, fee, scrutiny, placement, card, headline, headline_since, created_at, updated_at) values (${id}, 'HL27', 'HL27-0000001-0', '{}', 'drafting', 'not assessed', 'not started', 'unplaced', 'not issued', 'drafting', now(), now(), now())`)
  await db.execute(sql`insert into file values ('x', 1, '\\x00')`)
  await db
    .execute(sql`insert into image (id, application_id, kind, version, sha256, format, width, height, findings, by, at) values (${imageId}, ${id}, 'photograph', 1, 'x', 'jpeg', 1, 1, '[]', 'bench', now())`)
  const hash = rates.map(rate => random.chance(rate) ? '1' : '0').join('')
  await db
    .execute(sql`insert into image_likeness values (${imageId}, 'HL27', 'photograph', 'own', ${hash}::bit(256), ${`{${
      bandKeys(hash).join(',')
    }}`}::int[])`)
  const { rows: plan } = await db.execute(sql`explain (analyze, costs off) ${lookUp(id)}`)
  console.log(plan.map(row => String((row as Record<string, unknown>)['QUERY PLAN'])).join('\n'))
} finally {
  await handle.close()
}
