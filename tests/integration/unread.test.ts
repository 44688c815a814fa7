import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { contact } from '../../server/database/schema'
import { readDossier } from '../../server/services/applications/dossier'
import { candidateOf } from '../../server/services/candidates/look-as'
import { readLettersAbout, readOwn } from '../../server/services/candidates/own'
import { announce, listAnnouncements } from '../../server/services/letters/announcements'
import { seeApplication, seeLetter } from '../../server/services/letters/seen'
import { writeLetters } from '../../server/services/letters/write'
import { countRoster } from '../../server/services/roster/count'
import { readDesk } from '../../server/services/roster/desk'
import { proveCounts } from '../../server/services/roster/prove'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const reasons = [{ item: 'bornOn', reason: 'another day on the paper' }]
/** A candidate with a proved address whose application was returned. */
async function returned(address: string): Promise<{ id: string, owner: Principal }> {
  const owner = await office.candidate()
  await office.db.insert(contact).values({ id: randomUUID(), principalId: owner.id, channel: 'email', address, provedAt: office.now })
  const id = await office.complete(owner)
  await office.act(id, 'submit', { revision: 1, declared: true }, office.by(owner))
  await office.settle(id)
  await seeApplication(office.by(owner), id)
  await office.act(id, 'return', { reasons }, office.as('scrutineer'))
  return { id, owner }
}
const unread = async () => new Map((await readDesk(office.as(), office.cycle)).unread.map(one => [one.of, one.count]))
const found = async (filter: object) => (await countRoster(office.as(), office.cycle, filter)).n
const told = async (id: string, kind: string) => (await office.dossier(id)).told.find(one => one.kind === kind)

describe('what somebody was told', () => {
  it('is unread until they open the application or the letter, whichever is first, and their own acts are no news', async () => {
    const [first, second] = [await returned('first@post.example'), await returned('second@post.example')]
    expect([await told(first.id, 'submit'), await told(first.id, 'return')]).toMatchObject([{ isUnread: false, seenAt: null }, {
      isUnread: true,
      seenAt: null,
    }])
    expect([await unread(), await found({ is: ['unread:return'] })]).toEqual([new Map([['return', 2]]), 2])
    office.pass(5)
    expect((await readDossier(office.by(first.owner), first.id)).hasNews).toBe(true)
    await seeApplication(office.by(first.owner), first.id)
    expect([(await readDossier(office.by(first.owner), first.id)).hasNews, await told(first.id, 'return')]).toMatchObject([false, {
      isUnread: false,
      seenAt: office.now.toISOString(),
    }])
    while (await writeLetters(office.product) > 0) { /* page by page */ }
    const [news, ...more] = (await readOwn(office.by(second.owner))).letters.filter(one => one.isUnread)
    expect([news?.isUnread, more]).toEqual([true, []])
    // The letter stands with its application, for its own account alone.
    const about = async (id: string, by = second.owner) => (await readLettersAbout(office.by(by), id)).map(one => one.id)
    expect(await about(second.id)).toContain(news?.id)
    expect([await about(first.id), await about(second.id, first.owner)]).toEqual([[], []])
    expect(await problemOf(seeLetter(office.by(first.owner), news?.id ?? ''))).toMatchObject({ code: 'letter.unknown' })
    expect(await problemOf(seeApplication(office.by(first.owner), second.id))).toMatchObject({ code: 'access.relation' })
    expect(await found({ is: ['unread:return'] })).toBe(1)
    await seeLetter(office.by(second.owner), news?.id ?? '')
    expect([await unread(), await found({ is: ['unread:return'] })]).toEqual([new Map(), 0])
  })

  it('is told apart where nobody has an account to read it in', async () => {
    const id = await office.at('scrutiny')
    await office.act(id, 'return', { reasons }, office.as('scrutineer'))
    expect([(await unread()).get('no-account'), (await office.dossier(id)).hasAccount]).toEqual([1, false])
    expect(await problemOf(candidateOf(office.as(), id))).toMatchObject({ code: 'look.no-account' })
  })
})

describe('a letter to many', () => {
  it('tells who of them has not opened it, whatever else they have opened, and the counts hold when they are proved', async () => {
    const owners = [await returned('third@post.example'), await returned('fourth@post.example')]
    const id = randomUUID()
    const sent = { id, filter: { is: ['scrutiny:returned'] }, subject: 'The hall', text: 'It has moved.', mode: 'do' as const }
    await announce(office.as(), office.cycle, sent, () => Promise.resolve(true))
    while (await writeLetters(office.product) > 0) { /* page by page */ }
    const reached = (await listAnnouncements(office.as(), office.cycle))[0]?.reached ?? 0
    const [reader] = owners
    if (!reader) throw new Error('nobody was returned')
    await seeApplication(office.by(reader.owner), reader.id)
    const left = async () => [(await listAnnouncements(office.as(), office.cycle))[0]?.unread, await found({ unread: id })]
    expect(await left()).toEqual([reached, reached])
    const opened = (await readOwn(office.by(reader.owner))).letters.find(one => one.subject === 'The hall')
    await seeLetter(office.by(reader.owner), opened?.id ?? '')
    await seeLetter(office.by(reader.owner), opened?.id ?? '')
    expect(await left()).toEqual([reached - 1, reached - 1])
    expect(await proveCounts(office.as(), office.cycle)).toMatchObject({ entries: 0, counts: 0 })
  })
})

describe('somebody of the office who looks as the candidate', () => {
  it('reads what they read, word for word, and only who may see files may look', async () => {
    const { id, owner } = await returned('fifth@post.example')
    const as = await candidateOf(office.as('scrutineer'), id)
    expect(await readDossier(as, id)).toEqual(await readDossier(office.by(owner), id))
    expect(await readOwn(as)).toEqual(await readOwn(office.by(owner)))
    expect(await problemOf(readDossier(as, await office.complete()))).toMatchObject({ code: 'access.relation' })
    for (const who of [office.as('accounts'), office.by(owner), office.nobody]) {
      expect((await problemOf(candidateOf(who, id))).code).toMatch(/^(access\..*|session\.none)$/)
    }
  })
})
