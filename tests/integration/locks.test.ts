import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { alone, openDatabase } from '../../server/database/client'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

it('does as much locked work at once as there are connections, and none of it waits for another to end', async () => {
  const { db, close } = openDatabase(office.urls.application, 2)
  let begun = 0
  const results = await Promise.all(['one', 'two'].map(name =>
    alone(db, name, async () => {
      begun += 1
      // Both hold their locks before either asks the database for its work.
      while (begun < 2) await new Promise(resolve => setTimeout(resolve, 5))
      return (await db.execute<{ name: string }>(sql`select ${name} as name`)).rows[0]?.name
    })
  ))
  await close()
  expect(results).toEqual([{ result: 'one' }, { result: 'two' }])
})

it('does work of one name once at a time, and gives the lock back when the work fails', async () => {
  const second = await alone(office.db, 'work', () => alone(office.db, 'work', () => Promise.resolve('twice')))
  expect(second).toEqual({ result: null })
  await expect(alone(office.db, 'work', () => Promise.reject(new Error('no')))).rejects.toThrow('no')
  expect(await alone(office.db, 'work', () => Promise.resolve('again'))).toEqual({ result: 'again' })
})
