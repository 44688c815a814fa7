import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { contact, letter, message } from '../../server/database/schema'
import { keepLanguage } from '../../server/services/candidates/account'
import { announce, listAnnouncements } from '../../server/services/letters/announcements'
import { carryLetters, postLetter } from '../../server/services/letters/outbox'
import { writeLetters } from '../../server/services/letters/write'
import { withoutCentres } from '../../core/notice/centres'
import { tryLetter } from '../../server/services/letters/own-words'
import { putNotice } from '../../server/services/notice/notices'
import { announcementSchema, type AnnouncementInput } from '../../shared/announcements'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const on = () => Promise.resolve(true)
const input = (more: Partial<AnnouncementInput> = {}): AnnouncementInput => ({
  id: randomUUID(),
  filter: { is: ['form:drafting'] },
  subject: 'News of {examination}',
  text: 'Dear {name}, {number}: the hall has moved.',
  mode: 'do',
  ...more,
})
const run = (asked: AnnouncementInput) => announce(office.as(), office.cycle, asked, on)

/** A candidate with a draft, and an address that they have proved. */
async function drafting(address: string): Promise<string> {
  return office.complete(await office.candidate(undefined, address))
}
async function write(): Promise<void> {
  while (await writeLetters(office.product) > 0) { /* page by page */ }
}
const lettersTo = (address: string) => office.db.select().from(letter).where(eq(letter.address, address))

describe('a letter to many', () => {
  it('tells before whom it reaches and how it reads, and reaches each once, however often it is sent', async () => {
    const id = await drafting('one@post.example')
    await drafting('two@post.example')
    // Entered by the office: nobody has proved an address.
    await office.complete()
    const { number, name } = await office.dossier(id)
    const asked = input()
    expect(await run({ ...asked, mode: 'try' })).toEqual({
      people: 3,
      reached: 2,
      without: 1,
      subject: `News of ${office.notice.title}`,
      text: `Dear ${name}, ${number}: the hall has moved.`,
    })
    expect([(await listAnnouncements(office.as(), office.cycle)).length,
      (await office.db.select().from(message).where(eq(message.kind, 'announce'))).length]).toEqual([0, 0])

    await run(asked)
    // Taken up again after a process died, and pressed again.
    expect(await run(asked)).toMatchObject({ people: 3, reached: 2, without: 1 })
    await write()
    expect(await lettersTo('one@post.example')).toMatchObject([{
      subject: `News of ${office.notice.title}`,
      body: `Dear ${name}, ${number}: the hall has moved.`,
      isOfMany: true,
    }])
    expect(await listAnnouncements(office.as(), office.cycle)).toMatchObject([{
      id: asked.id,
      reached: 2,
      without: 1,
      isWhole: true,
      unsent: 0,
      by: 'the officer',
    }])
    expect(await problemOf(run({ ...asked, text: 'Other words.' }))).toMatchObject({ code: 'letter.announced' })
    expect(await problemOf(announce(office.as('scrutineer'), office.cycle, input(), on))).toMatchObject({ code: 'access.role' })
  })

  it('goes after what is owed to one, and knows only what stands in braces for everybody', async () => {
    const id = await drafting('three@post.example')
    await run(input({ subject: 'Many' }))
    await office.act(id, 'withdraw', { reason: 'changed my mind' })
    await write()
    const context = await office.context()
    await postLetter(office.db, context, {
      principalId: null,
      channel: 'email',
      address: 'code@post.example',
      subject: 'Your code',
      body: '123456',
    })
    const carried: string[] = []
    await carryLetters(office.product, { take: ({ subject }) => Promise.resolve(carried.push(subject) > 0 ? 'taken' : 'later') })
    const places = carried.map((subject, place) => subject === 'Many' ? place : -1).filter(place => place >= 0)
    expect(places.length).toBeGreaterThan(0)
    expect(Math.min(...places))
      .toBeGreaterThan(Math.max(carried.indexOf('Your code'), carried.findIndex(subject => subject.includes('withdrawn'))))
    expect([input(), input({ text: 'Pay {fee}' }), input({ subject: ' ' }), input({ text: 'x'.repeat(4001) })].map(one =>
      announcementSchema.safeParse(one).success
    )).toEqual([true, false, false, false])
  })
})

describe("a letter in the notice's own words", () => {
  const own = { act: 'submit' as const, subject: 'In: {number}', text: 'Dear {name}, {usual}', short: '{number} is in.' }

  it('is tried on a person with nothing sent, and goes out as it was tried, to a telephone in its short words', async () => {
    const owner = await office.candidate()
    const [mail, telephone] = ['own@post.example', '+5550100']
    await office.db.insert(contact).values([['email', mail], ['mobile', telephone]].map(([channel, address]) => ({
      id: randomUUID(),
      principalId: owner.id,
      channel: channel as 'email' | 'mobile',
      address: address ?? '',
      provedAt: office.now,
    })))
    const id = await office.complete(owner)
    const { number, name, revision } = await office.dossier(id)
    await putNotice(office.as(), { ...withoutCentres(office.notice), letters: [own] })
    const tried = await tryLetter(office.as(), office.cycle, { letter: own, number })
    expect(tried).toMatchObject({ subject: `In: ${number}`, toTelephone: `${number} is in.`, messages: 1, isTold: false })
    expect(tried.body).toMatch(new RegExp(`^Dear ${name}, Your form for `))
    expect(await lettersTo(mail)).toEqual([])
    await office.act(id, 'submit', { revision, declared: true })
    await write()
    expect((await lettersTo(mail)).map(row => [row.subject, row.body])).toEqual([[tried.subject, tried.body]])
    expect((await lettersTo(telephone)).map(row => row.body)).toEqual([tried.toTelephone])
    expect(await problemOf(tryLetter(office.as(), office.cycle, { letter: own, number: 'HL27-9999999-9' }))).toMatchObject({
      code: 'application.unknown',
    })
    expect(await problemOf(tryLetter(office.as('scrutineer'), office.cycle, { letter: own, number }))).toMatchObject({
      code: 'access.role',
    })
  })

  it('is written in the language in which its reader has read the notice, as far as the notice has it', async () => {
    const [reader, other] = [await office.candidate('Reader'), await office.candidate('Other')]
    const addresses = ['reads@post.example', 'other@post.example'] as const
    await office.db.insert(contact).values([reader, other].map(({ id }, i) => ({
      id: randomUUID(),
      principalId: id,
      channel: 'email' as const,
      address: addresses[i] ?? '',
      provedAt: office.now,
    })))
    const texts = [{ text: own.subject, as: 'Reçu : {number}' }, { text: own.text, as: '{name}, nous avons tout. {usual}' }]
    await putNotice(office.as(), { ...withoutCentres(office.notice), letters: [own], translations: [{ language: 'fr', texts }] })
    for (const who of [reader, other]) {
      await keepLanguage(office.by(who), who === reader ? 'fr' : 'xx')
      const id = await office.complete(who)
      const { number } = await office.dossier(id)
      const tried = await tryLetter(office.as(), office.cycle, { letter: own, number })
      await office.act(id, 'submit', { revision: 1, declared: true })
      await write()
      const [sent] = await lettersTo(who === reader ? addresses[0] : addresses[1])
      expect([sent?.subject, sent?.body]).toEqual([tried.subject, tried.body])
      expect(sent?.subject).toBe(who === reader ? `Reçu : ${number}` : `In: ${number}`)
    }
  })
})
