import { sql } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { randomUUID } from 'node:crypto'
import { rosterEntry } from '../../server/database/schema'
import { bringBack, withdrawApplication } from '../../server/services/applications/form'
import { countRoster, dropView, facetValues, keepView, listViews, rosterTable } from '../../server/services/roster/count'
import { foldTally, rewriteStale } from '../../server/services/roster/keep'
import { readAlike, readRoster } from '../../server/services/roster/page'
import { actOnMany } from '../../server/services/roster/bulk'
import { tableStream } from '../../tables/stream'
import { askForProofs } from '../../server/services/roster/nightly'
import { proveCounts } from '../../server/services/roster/prove'
import { countsUnder } from '../../server/services/roster/tally'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
const page = (query: object) => readRoster(office.as(), office.cycle, { sort: 'number', limit: 100, ...query })

describe('filters', () => {
  it('of one facet are alternatives, of several are joined, and each page, count and export says the same', async () => {
    const made = [await office.draft({ category: 'general' }),
      await office.submitted({ category: 'outer-isles', islesCertificate: 'OI-1', cities: ['belmarrow', 'skarnholm'] }),
      await office.paid({ category: 'general', cities: ['belmarrow', 'ottrevik'] })]
    const cases: [string[], number[]][] = [
      [[], [0, 1, 2]],
      [['at:fee due'], [1]],
      [['at:drafting', 'at:in scrutiny'], [0, 2]],
      [['q:category=general'], [0, 2]],
      [['q:category=general', 'fee:settled'], [2]],
      [['form:drafting', 'fee:settled'], []],
      [['first:cities=belmarrow'], [1, 2]],
      [['matter:scrutiny|scrutineer'], [2]],
      [['from:candidate'], []],
      [['scrutiny:waiting', 'q:cities=ottrevik', 'card:not issued'], [2]],
    ]
    for (const [is, places] of cases) {
      const wanted = places.map(place => made[place]).sort()
      for (const sort of ['number', 'waiting'] as const) {
        expect([is, (await page({ is, sort })).rows.map(row => row.id).sort()]).toEqual([is, wanted])
      }
      expect([is, await countRoster(office.as(), office.cycle, { is })]).toEqual([is, {
        n: wanted.length,
        isExact: true,
        low: wanted.length,
        high: wanted.length,
      }])
      let lines = ''
      for await (const part of tableStream('jsonl', await rosterTable(office.as(), office.cycle, { is }))) lines += String(part)
      expect([is, lines.split('\n').length - 1]).toEqual([is, wanted.length])
    }
    expect(await facetValues(office.as(), office.cycle, 'q:category')).toEqual([{ tag: 'q:category=general', n: 2 }, {
      tag: 'q:category=outer-isles',
      n: 1,
    }])
    expect((await page({ before: new Date(office.now.getTime() - 1).toISOString() })).rows).toEqual([])
    expect((await page({ from: office.now.toISOString() })).rows).toHaveLength(3)
  })

  it('find names in any order and script, and those that are spelt alike', async () => {
    const id = await office.draft({ certificateName: 'Мохаммед Quindorelson' })
    for (const search of ['quindorelson', 'Quindorelson Мохаммед', 'мохам quin']) {
      expect([search, (await page({ search })).rows.map(row => row.id)]).toEqual([search, [id]])
    }
    for (const search of ['Quindorelsen', 'Mohamed Quindorelson', 'Quinderelson Muhammad']) {
      expect((await page({ search })).rows).toEqual([])
      expect([search, (await readAlike(office.as(), office.cycle, { search })).map(row => row.id)]).toEqual([search, [id]])
    }
    expect(await readAlike(office.as(), office.cycle, { search: 'Quindorelsen', before: new Date(office.now.getTime() - 1).toISOString() }))
      .toEqual([])
    for (const search of ["Quindorelson'", '\\', 'a & b | !c', ':*', '((']) await page({ search })
    expect(await readAlike(office.as(), office.cycle, { search: '5550123' })).toEqual([])
  })

  it('are kept under a name, for oneself or for the office, and changed by nobody else', async () => {
    const id = randomUUID()
    await keepView(office.as(), office.cycle, id, { title: 'Mine', query: '{"is":"fee:due"}', isShared: false })
    expect([(await listViews(office.as(), office.cycle)).length, (await listViews(office.second(), office.cycle)).length]).toEqual([1, 0])
    await keepView(office.as(), office.cycle, id, { title: 'Ours', query: '{}', isShared: true })
    expect(await listViews(office.second(), office.cycle)).toMatchObject([{ title: 'Ours', isOwn: false }])
    expect(await problemOf(keepView(office.second(), office.cycle, id, { title: 'Theirs', query: '{}', isShared: true }))).toMatchObject({
      code: 'roster.view-of-other',
    })
    await dropView(office.second(), office.cycle, id)
    expect(await listViews(office.as(), office.cycle)).toHaveLength(1)
    await dropView(office.as(), office.cycle, id)
    expect(await listViews(office.as(), office.cycle)).toEqual([])
  })
})

describe('one act on many', () => {
  it('is tried first, changes nothing then, and reaches each once, however often it is done', async () => {
    const ids = [await office.at('scrutiny'), await office.at('scrutiny'), await office.at('drafting'), await office.at('accepted')]
    await withdrawApplication(office.as(), ids[1] ?? '', { reason: 'tried here' })
    const numbers = (await page({})).rows.length
    const ask = (mode: 'try' | 'do', act: 'take-back-acceptance' | 'withdraw', who = office.as()) =>
      actOnMany(
        who,
        office.cycle,
        { filter: { is: ['q:category=general'] }, act, mode, reason: 'the whole list' },
        () => Promise.resolve(true),
      )
    const tried = await ask('try', 'take-back-acceptance')
    expect(tried).toMatchObject({ done: 1 })
    expect([Number(tried.total), Object.keys(tried).some(key => key.startsWith('refused: '))]).toEqual([
      Number(tried.done) + Number(tried.refused),
      true,
    ])
    expect((await office.dossier(ids[3] ?? '')).headline).toBe('accepted')
    expect(await ask('do', 'take-back-acceptance')).toMatchObject({ done: 1 })
    expect(await ask('do', 'take-back-acceptance')).toMatchObject({ done: 0 })
    expect((await office.dossier(ids[3] ?? '')).headline).toBe('in scrutiny')
    expect((await page({})).rows).toHaveLength(numbers)
    expect(await problemOf(ask('try', 'withdraw', office.as('auditor')))).toMatchObject({ code: 'access.role' })
  })
})

describe('counts that are kept', () => {
  const kept = async () => Object.fromEntries([...await countsUnder(office.db, office.cycle, 'at:')].sort())
  const counted = async () =>
    Object.fromEntries((await office.db.execute<
      { headline: string, n: string }
    >(sql`select headline, count(*) as n from application where cycle = ${office.cycle} group by 1 order by 1`)).rows.map(
      row => [row.headline, Number(row.n)]
    ))

  it('are those of a full count after any acts at once, folded or not, and after a transaction that failed', async () => {
    const ids = await Promise.all(Array.from({ length: 4 }, () => office.at('scrutiny')))
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(3), fc.constantFrom('withdraw', 'bring back', 'fold', 'fail')), { minLength: 4, maxLength: 12 }),
        async (steps) => {
          await Promise.all(steps.map(([place, step]) => {
            const id = ids[place] ?? ''
            const given = { reason: 'tried here' }
            switch (step) {
              case 'withdraw':
                return withdrawApplication(office.as(), id, given).catch(() => null)
              case 'bring back':
                return bringBack(office.as(), id, given).catch(() => null)
              case 'fold':
                return foldTally(office.product)
              default:
                return office.db.transaction(async (tx) => {
                  await tx.execute(sql`update application set headline = 'lapsed' where id = ${id}`)
                  throw new Error('given up')
                }).catch(() => null)
            }
          }))
          expect(await kept()).toEqual(await counted())
        },
      ),
      { numRuns: 12 },
    )
    expect(await proveCounts(office.as('auditor'), office.cycle)).toMatchObject({ entries: 0, counts: 0 })
  })

  it('are proved once a night, where the body is, whoever asks', async () => {
    const before = office.now
    const at = (time: string) => {
      office.now = new Date(`2026-11-29T${time}-01:15`)
    }
    const asked = async () =>
      (await Promise.all([askForProofs(office.product), askForProofs(office.product)])).reduce((sum, one) => sum + one, 0)
    at('01:59:00')
    expect(await asked()).toBe(0)
    at('02:00:00')
    expect(await asked()).toBe(1)
    at('04:59:00')
    expect(await asked()).toBe(0)
    office.now = new Date('2026-11-30T02:30:00-01:15')
    expect(await asked()).toBe(1)
    office.now = before
  })

  it('are proved against what is, and put right where a hand has changed them', async () => {
    const owner = office.in('owner')
    await owner.execute(sql`update tally set n = n + 5 where tag = 'at:drafting' and cycle = ${office.cycle}`)
    await owner.execute(sql`insert into tally_change (cycle, tag, delta) values (${office.cycle}, 'at:nowhere', 2)`)
    const [entry] = await office.db.select().from(rosterEntry).limit(1)
    await owner.execute(sql`update roster_entry set tags = '{}' where application_id = ${entry?.applicationId}`)
    const found = await proveCounts(office.as(), office.cycle)
    expect([found.entries, found.counts >= 2]).toEqual([1, true])
    expect([await kept(), await proveCounts(office.as(), office.cycle)]).toMatchObject([await counted(), { entries: 0, counts: 0 }])
  })

  it('follow a notice that asks other questions, page by page', async () => {
    await office.in('owner').execute(sql`delete from roster_question where question = 'category'`)
    await office.in('owner').execute(sql`insert into roster_stale (cycle) values (${office.cycle})`)
    await rewriteStale(office.product)
    expect(await facetValues(office.as(), office.cycle, 'q:category')).toEqual([])
    await office.in('owner').execute(sql`update cycle set notice_version = notice_version`)
    await rewriteStale(office.product)
    expect((await facetValues(office.as(), office.cycle, 'q:category')).length).toBeGreaterThan(0)
    expect(await proveCounts(office.as(), office.cycle)).toMatchObject({ entries: 0, counts: 0 })
  })
})
