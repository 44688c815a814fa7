import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openAtMost } from '../../core/application/office-questions'
import { message } from '../../server/database/schema'
import { registerApplication } from '../../server/services/applications/begin'
import { answerQuestion, askOffice, holdQuestion, questionsOf, waitingQuestions } from '../../server/services/letters/questions'
import { readDesk } from '../../server/services/roster/desk'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const waiting = (which: 'all' | 'mine' | 'free', as = office.as('officer'), after?: string) =>
  waitingQuestions(as, office.cycle, { which, after })

describe('a question to the office', () => {
  it('waits in order of age, is in one hand at a time, and is answered once; whoever asked is told', async () => {
    const me = await office.candidate('Tavirel')
    const id = await office.complete(me)
    const ask = (text: string, about = '') => askOffice(office.by(me), id, { about, text })
    await ask('Does a seafarer’s book do as proof?', 'person')
    office.pass(1)
    await ask('May I come by ferry on the day itself?')
    expect(await problemOf(askOffice(office.by(await office.candidate('Stranger')), id, { about: '', text: 'Who is that?' })))
      .toMatchObject({ code: 'access.relation' })
    expect(await problemOf(ask('About what?', 'nothing'))).toMatchObject({ code: 'question.about' })
    const { rows } = await waiting('all')
    expect(rows.map(row => [row.text.slice(0, 8), row.about, row.name])).toEqual([['Does a s', 'person', 'Tavirel Osk-Anundé'], ['May I co',
      '', 'Tavirel Osk-Anundé']])
    expect((await readDesk(office.as('officer'), office.cycle)).questions).toMatchObject({ count: 2, oldest: rows[0]?.at })
    const [first] = rows
    const question = first?.id ?? ''
    // Two take it at once: one has it, the other reads who.
    const took = await Promise.allSettled([holdQuestion(office.as('officer'), question, true),
      holdQuestion(office.as('scrutineer'), question, true)])
    expect(took.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect([(await waiting('free')).rows.length,
      (await waiting('mine')).rows.length + (await waiting('mine', office.as('scrutineer'))).rows.length]).toEqual([1, 1])
    const answers = await Promise.allSettled([answerQuestion(office.as('officer'), question, { text: 'Yes, it does.' }),
      answerQuestion(office.as('accounts'), question, { text: 'No.' })])
    expect(answers.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(answers.find(result => result.status === 'rejected')).toMatchObject({ reason: { problem: { code: 'question.answered' } } })
    const seen = await questionsOf(office.by(me), id)
    expect(seen.map(one => one.answer !== null)).toEqual([false, true])
    // Who of its people answered, the office keeps to itself.
    const inside = (await questionsOf(office.as('auditor'), id))[1]?.answer?.by
    expect([seen[1]?.answer?.by, seen[1]?.answer?.by === inside]).toEqual(['Ilmara Maritime Examinations Board', false])
    expect((await office.db.select().from(message).where(eq(message.applicationId, id))).filter(one => one.kind === 'answer-question'))
      .toHaveLength(1)
    expect((await office.dossier(id)).hasQuestions).toBe(true)
  })

  it('can be asked whatever became of the application, so many at once, and keeps a draft', async () => {
    const id = await office.complete()
    for (let i = 0; i < openAtMost; i += 1) await askOffice(office.as(), id, { about: '', text: `Question ${i}` })
    expect(await problemOf(askOffice(office.as(), id, { about: '', text: 'One more' }))).toMatchObject({
      code: 'question.too-many',
      parameters: { most: openAtMost },
    })
    const first = await waiting('all')
    expect(first.next).toBeNull()
    await office.act(id, 'submit', { revision: 1, declared: true })
    await office.act(id, 'withdraw', { reason: 'asked for by telephone' })
    await answerQuestion(office.as(), (await questionsOf(office.as(), id)).find(one => one.answer === null)?.id ?? '', {
      text: 'Answered all the same.',
    })
    office.pass(1)
    await askOffice(office.as(), id, { about: '', text: 'And after that?' })
    expect((await questionsOf(office.as('auditor'), id))[0]?.text).toBe('And after that?')
    // A draft is empty no more once something was asked.
    const draft = randomUUID()
    await registerApplication(office.as(), office.cycle, draft)
    await askOffice(office.as(), draft, { about: '', text: 'Is it too late?' })
    expect(await problemOf(office.act(draft, 'delete-draft'))).toMatchObject({ code: 'act.not-empty' })
  })

  it('of many is read page by page, each once', async () => {
    const ids = await Promise.all(Array.from({ length: 12 }, () => office.complete()))
    for (const id of ids) {
      for (let i = 0; i < openAtMost; i += 1) await askOffice(office.as(), id, { about: '', text: `Question ${i} of ${id}` })
    }
    const seen: string[] = []
    for (let after: string | undefined;;) {
      const page = await waiting('all', office.as('auditor'), after)
      seen.push(...page.rows.map(row => row.id))
      if (!page.next) break
      after = page.next
    }
    expect([new Set(seen).size, seen.length > 60]).toEqual([seen.length, true])
  })
})
