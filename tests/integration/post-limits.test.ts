import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Answers } from '../../core/application/answers'
import { saveAnswers } from '../../server/services/applications/answers'
import { demoNotice } from '../../demo/notice'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { sampleAnswers, testNow } from '../support/sample'

type Json = Record<string, unknown>
const reason = 'the head of the school asks for it'
const two = sampleAnswers.posts as string[]
let office: Office
beforeAll(async () => {
  const { sections, requests } = demoNotice(testNow) as { sections: { questions: Json[] }[], requests: Json[] }
  // Of the two posts that the sample chooses, one may be chosen; whoever says that the household's income is low asks for both.
  const limited = sections.map(section => ({
    ...section,
    questions: section.questions.map(q =>
      q.kind === 'posts' ? { ...q, groups: [{ id: 'both', title: 'Either of them', posts: two, max: 1 }] } : q
    ),
  }))
  office = await openOffice({
    sections: limited,
    requests: [...requests, {
      id: 'more-posts',
      kind: 'limits',
      title: 'More posts',
      when: { question: 'lowIncome', in: ['yes'] },
      proof: 'A letter',
    }],
  })
})
afterAll(() => office.close())

async function filled(changes: Answers): Promise<string> {
  const id = await office.complete()
  await saveAnswers(office.as(), id, { revision: 1, changes })
  return id
}
const submit = async (id: string) => office.act(id, 'submit', { revision: (await office.dossier(id)).revision, declared: true })
const decide = (id: string, word: 'granted' | 'declined') =>
  office.act(id, 'decide-request', { request: 'more-posts', word, reason }, office.as('scrutineer'))

describe('more posts than a group allows', () => {
  it('are refused at submission, and let in where they are asked for', async () => {
    expect(await problemOf(submit(await filled({ lowIncome: 'no' })))).toMatchObject({ code: 'sheet.incomplete' })
    expect((await submit(await filled({ lowIncome: 'no', posts: two.slice(0, 1) }))).isDone).toBe(true)
  })

  it('wait for the office, and are accepted only where it grants them', async () => {
    const [granted, declined] = [await filled({ lowIncome: 'yes' }), await filled({ lowIncome: 'yes' })]
    for (const id of [granted, declined]) {
      await submit(id)
      await office.settle(id)
      expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.request-open' })
    }
    await decide(granted, 'granted')
    expect((await office.act(granted, 'accept', {}, office.as('scrutineer'))).isDone).toBe(true)
    await decide(declined, 'declined')
    expect(await problemOf(office.act(declined, 'accept', {}, office.as('scrutineer')))).toMatchObject({
      code: 'sheet.too-many-posts',
      parameters: { limits: 'Either of them: 2 / 1' },
    })
    // Returned, it goes in again only with one of them.
    await office.act(declined, 'return', { reasons: [{ item: 'posts', reason: 'One of them only.' }] }, office.as('scrutineer'))
    const { revision } = await office.dossier(declined)
    expect(await problemOf(office.act(declined, 'submit', { revision, declared: true }))).toMatchObject({ code: 'sheet.incomplete' })
    await saveAnswers(office.as(), declined, { revision, changes: { posts: two.slice(0, 1) } })
    expect((await office.act(declined, 'submit', { revision: revision + 1, declared: true })).isDone).toBe(true)
  })
})
