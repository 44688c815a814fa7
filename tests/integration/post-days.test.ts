import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { auditEvent } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { demoNotice } from '../../demo/notice'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { sampleAnswers, testNow } from '../support/sample'

type Json = Record<string, unknown>
const [early = '', late = ''] = sampleAnswers.posts as string[]
const closes = new Date(testNow.getTime() + 3_600_000)
const opens = new Date(testNow.getTime() + 1_800_000)
let office: Office
beforeAll(async () => {
  const { posts } = demoNotice(testNow) as { posts: Json[] }
  office = await openOffice({
    posts: posts.map(post => post.id === early ? { ...post, opens: opens.toISOString(), closes: closes.toISOString() } : post),
  })
})
afterAll(() => office.close())

const submit = async (id: string) => office.act(id, 'submit', { revision: (await office.dossier(id)).revision, declared: true })
const choose = async (id: string, posts: string[]) =>
  saveAnswers(office.as(), id, { revision: (await office.dossier(id)).revision, changes: { posts } })

describe('a post that opens after the others, and closes before them', () => {
  it('is refused until its very moment, and what was typed waits', async () => {
    const id = await office.complete()
    office.now = new Date(opens.getTime() - 1)
    expect(await problemOf(submit(id))).toMatchObject({ code: 'sheet.post-early', kind: 'not-now' })
    expect((await office.dossier(id)).answers.posts).toEqual([early, late])
    office.now = opens
    expect((await submit(id)).isDone).toBe(true)
  })

  it('is taken all the same from whoever may go beyond the dates and says why, and the log tells it', async () => {
    const id = await office.complete()
    office.now = closes
    expect(await problemOf(submit(id))).toMatchObject({ code: 'sheet.post-closed', data: { outsideDates: true } })
    const revision = (await office.dossier(id)).revision
    expect(await problemOf(office.act(id, 'submit', { revision, declared: true, outsideDates: true, reason: 'no' }))).toMatchObject({
      code: 'dates.reason',
    })
    expect((await office.act(id, 'submit', { revision, declared: true, outsideDates: true, reason: 'The ferry was late.' })).isDone)
      .toBe(true)
    const [logged] = await office.db.select().from(auditEvent).where(and(eq(auditEvent.subject, id), eq(auditEvent.act, 'submit')))
    expect(logged).toMatchObject({ outsideDates: true, reason: 'The ferry was late.' })
    office.now = testNow
  })

  it('is refused from its very moment on, with nothing lost; without it the form goes in', async () => {
    const [before, after] = [await office.complete(), await office.complete()]
    office.now = new Date(closes.getTime() - 1)
    expect((await submit(before)).isDone).toBe(true)
    office.now = closes
    expect(await problemOf(submit(after))).toMatchObject({ code: 'sheet.post-closed', kind: 'not-now' })
    expect((await office.dossier(after)).answers.posts).toEqual([early, late])
    await choose(after, [late])
    expect((await submit(after)).isDone).toBe(true)

    office.now = new Date(closes.getTime() + 60_000)
    // Sent back, whoever had it keeps it, and nobody takes it up anew.
    for (const id of [before, after]) {
      await office.settle(id)
      await office.act(id, 'return', { reasons: [{ item: 'posts', reason: 'Look again.' }] }, office.as('scrutineer'))
    }
    await choose(before, [late, early])
    expect((await submit(before)).isDone).toBe(true)
    await choose(after, [late, early])
    expect(await problemOf(submit(after))).toMatchObject({ code: 'sheet.post-closed' })
  })
})
