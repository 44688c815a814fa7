import { and, desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { application, auditEvent, contact, letter, session } from '../../server/database/schema'
import { confirmAct } from '../../server/services/acts/named'
import { proposalsOf } from '../../server/services/acts/proposals'
import { readDossier } from '../../server/services/applications/dossier'
import {
  addAddress,
  readCandidateAccount,
  removeAddress,
  removeCandidatePassword,
  setCandidatePassword,
} from '../../server/services/candidates/account'
import { sendCode, takeCode } from '../../server/services/candidates/codes'
import { writeLetters } from '../../server/services/letters/write'
import { changeOfficeSettings } from '../../server/services/people/settings'
import { signIn } from '../../server/services/people/sign-in'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { sampleAnswers, testNow } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
beforeEach(() => {
  office.now = testNow
})

const network = '127.0.0.1'
const refusedAs = async (work: Promise<unknown>) => (await problemOf(work)).code
/** A code that was sent to an address. */
async function codeTo(address: string): Promise<{ codeId: string, code: string }> {
  const { id } = await sendCode(office.nobody, {
    channel: address.includes('@') ? 'email' : 'mobile',
    address,
    network,
    secret: 'of the tests',
  })
  const [sent] = await office.db.select().from(letter).where(eq(letter.address, address)).orderBy(desc(letter.at)).limit(1)
  return { codeId: id, code: /\d{6}/.exec(sent?.body ?? '')?.[0] ?? '' }
}
/** Somebody who came in by a code. */
async function comeIn(address: string): Promise<{ who: Principal, sessionId: string }> {
  office.pass(2)
  const { codeId, code } = await codeTo(address)
  const { principal } = await takeCode(office.nobody, codeId, code)
  const [row] = await office.db.select().from(session).where(eq(session.principalId, principal.id)).orderBy(desc(session.createdAt))
    .limit(1)
  return { who: principal, sessionId: row?.id ?? '' }
}
const told = async (address: string) =>
  (await office.db.select({ subject: letter.subject }).from(letter).where(eq(letter.address, address))).map(row => row.subject).filter(
    subject => subject !== 'Your code'
  ).sort()
const secret = 'four herrings under a lamp'

describe('the account of a candidate', () => {
  it('takes further addresses that a code has proved, each of which lets in, and keeps the last', async () => {
    const { who, sessionId } = await comeIn('ada@ferry.example')
    office.pass(1)
    await addAddress(office.by(who), { ...await codeTo('5550100777'), sessionId })
    expect((await readCandidateAccount(office.by(who), sessionId)).contacts.map(one => one.address)).toEqual(['ada@ferry.example',
      '5550100777'])
    expect([await told('ada@ferry.example'), await told('5550100777')]).toEqual([['An address was added to your account'], [
      'An address was added to your account',
    ]])
    expect((await comeIn('5550100777')).who.id).toBe(who.id)
    const { contacts } = await readCandidateAccount(office.by(who), sessionId)
    const [first, second] = contacts
    await removeAddress(office.by(who), first?.id ?? '', sessionId)
    expect(await refusedAs(removeAddress(office.by(who), second?.id ?? '', sessionId))).toBe('account.address-last')
    // Whoever has the address that was taken off is told as well, and comes in to another account.
    expect(await told('ada@ferry.example')).toEqual(['An address was added to your account', 'An address was taken off your account'])
    expect((await comeIn('ada@ferry.example')).who.id).not.toBe(who.id)
    expect((await office.db.select({ act: auditEvent.act }).from(auditEvent)
      .where(and(eq(auditEvent.subject, who.id), eq(auditEvent.actor, who.id))).orderBy(auditEvent.id)).map(row => row.act)).toEqual([
        'sign-in',
        'add-address',
        'sign-in',
        'remove-address',
      ])
  })

  it('never takes what belongs to another account, nor two of two removals at once', async () => {
    const [one, other] = [await comeIn('bo@ferry.example'), await comeIn('cy@ferry.example')]
    office.pass(2)
    expect(await refusedAs(addAddress(office.by(one.who), { ...await codeTo('cy@ferry.example'), sessionId: one.sessionId })))
      .toBe('account.address-taken')
    expect((await readCandidateAccount(office.by(other.who), other.sessionId)).contacts).toHaveLength(1)
    await addAddress(office.by(one.who), { ...await codeTo('5550100778'), sessionId: one.sessionId })
    const { contacts } = await readCandidateAccount(office.by(one.who), one.sessionId)
    const done = await Promise.allSettled(contacts.map(({ id }) => removeAddress(office.by(one.who), id, one.sessionId)))
    expect(done.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await office.db.$count(contact, eq(contact.principalId, one.who.id))).toBe(1)
  })

  it('lets in by a password and any of its addresses, as slowly as staff when guessed, and by a code when it is forgotten', async () => {
    const { who, sessionId } = await comeIn('dee@ferry.example')
    const other = await comeIn('dee@ferry.example')
    expect(await refusedAs(setCandidatePassword(office.by(who), { password: 'short', sessionId }))).toBe('account.password-short')
    expect(await refusedAs(signIn(office.nobody, { signInName: 'dee@ferry.example', password: secret, network }))).toBe('session.wrong')
    await setCandidatePassword(office.by(who), { password: secret, sessionId })
    expect((await readCandidateAccount(office.by(who), sessionId)).sessions.map(one => one.id)).toEqual([sessionId])
    expect(other.sessionId).not.toBe(sessionId)
    expect((await signIn(office.nobody, { signInName: ' Dee@Ferry.example', password: secret, network: '127.0.0.2' })).principal.id)
      .toBe(who.id)
    for (let i = 0; i < 5; i += 1) {
      await refusedAs(signIn(office.nobody, { signInName: 'dee@ferry.example', password: 'a wrong one, really', network: '127.0.0.3' }))
    }
    expect(await refusedAs(signIn(office.nobody, { signInName: 'dee@ferry.example', password: secret, network: '127.0.0.3' })))
      .toBe('session.too-many')
    await removeCandidatePassword(office.by(who), sessionId)
    expect(await refusedAs(signIn(office.nobody, { signInName: 'dee@ferry.example', password: secret, network: '127.0.0.4' })))
      .toBe('session.wrong')
    expect(await told('dee@ferry.example')).toEqual(['Your account has a new password', 'Your account has no password any more'])
  }, 30_000)

  it('changes nothing for a session that is half an hour old, or was none', async () => {
    const { who, sessionId } = await comeIn('eff@ferry.example')
    office.pass(31)
    expect(await refusedAs(setCandidatePassword(office.by(who), { password: secret, sessionId }))).toBe('account.stale')
    expect(await refusedAs(addAddress(office.by(who), { ...await codeTo('5550100779'), sessionId: null }))).toBe('account.stale')
    const { contacts, isFresh } = await readCandidateAccount(office.by(who), sessionId)
    expect(isFresh).toBe(false)
    expect(await refusedAs(removeAddress(office.by(who), contacts[0]?.id ?? '', sessionId))).toBe('account.stale')
  })
})

describe('a number that a code is to go to', () => {
  const ask = (address: string) => sendCode(office.nobody, { channel: 'mobile', address, network, secret: 'of the tests' })

  it('is one that its country gives out, or of a range that the office declares', async () => {
    await changeOfficeSettings(office.as('administrator'), {
      keepMonths: 12,
      factorRoles: [],
      withoutSecondPerson: [],
      telephones: { country: 'NO', ranges: [{ begins: '555', digits: 10 }] },
    })
    expect(await problemOf(ask('+47 22 12 34 56'))).toMatchObject({
      code: 'code.number',
      parameters: { fault: 'not_mobile' },
      kind: 'bad-input',
    })
    expect((await problemOf(ask('+44 7911 12'))).message).toContain('too short')
    await ask('555 01 007 80')
    await ask('412 34 567')
    expect((await office.db.select({ address: letter.address }).from(letter).where(eq(letter.channel, 'mobile'))).map(row => row.address))
      .toEqual(expect.arrayContaining(['5550100780', '+4741234567']))
    expect(await refusedAs(changeOfficeSettings(office.as('administrator'), {
      keepMonths: 12,
      factorRoles: [],
      withoutSecondPerson: [],
      telephones: { country: 'QX', ranges: [] },
    }))).toBe('office.country')
  })
})

describe('news of several applications of one account', () => {
  it('come as one letter from three on, and each in its own below that', async () => {
    const { who } = await comeIn('jo@ferry.example')
    const ids = await Promise.all([1, 2, 3, 4, 5].map(() => office.complete(who)))
    const numbers = (await Promise.all(ids.map(id => office.dossier(id)))).map(one => one.number)
    const leave = async (some: string[]) => {
      for (const id of some) await office.act(id, 'withdraw', { reason: 'another school' })
      await writeLetters(office.product)
      return (await office.db.select({ subject: letter.subject, body: letter.body }).from(letter)
        .where(eq(letter.address, 'jo@ferry.example'))).filter(one => one.subject !== 'Your code')
    }
    expect((await leave(ids.slice(0, 2))).map(one => one.subject).sort())
      .toEqual(numbers.slice(0, 2).map(number => `${number}: withdrawn`).sort())
    const [summary, ...more] = (await leave(ids.slice(2))).filter(one => !one.subject.includes(': withdrawn'))
    expect([summary?.subject, more]).toEqual([expect.stringMatching(/^3 of your applications for/), []])
    for (const number of numbers.slice(2)) expect(summary?.body).toContain(`${number} ${sampleAnswers.certificateName}: withdrawn`)
    for (const number of numbers.slice(0, 2)) expect(summary?.body).not.toContain(number)
  })
})

describe('access by the office', () => {
  const give = (id: string, address: string) =>
    office.act(id, 'give-access', { channel: 'email', address, reason: 'showed the seafarer’s book' })
  const ownerOf = async (id: string) =>
    (await office.db.select({ owner: application.ownerId }).from(application).where(eq(application.id, id)))[0]?.owner

  it('gives whoever came in person an account at once', async () => {
    const id = await office.draft()
    expect(await give(id, 'gil@ferry.example')).toMatchObject({ isDone: true })
    await writeLetters(office.product)
    expect((await told('gil@ferry.example'))[0]).toContain('yours by this address')
    const { who } = await comeIn('gil@ferry.example')
    expect(who.id).toBe(await ownerOf(id))
    // How it was keyed, where it came on paper, is the office's own matter.
    await office.db.update(application).set({ keying: 'agreed', receivedAt: office.now }).where(eq(application.id, id))
    expect([(await readDossier(office.by(who), id)).keying, (await office.dossier(id)).keying?.state]).toEqual([null, 'agreed'])
    expect(await refusedAs(office.act(id, 'give-access', { channel: 'email', address: 'nowhere' }))).toBe('code.address')
  })

  it('moves an application that somebody has once a second person has confirmed, and tells the addresses that had it', async () => {
    const { who } = await comeIn('ida@ferry.example')
    const id = await office.complete(who)
    expect(await give(id, 'ida.anew@ferry.example')).toMatchObject({ isDone: false })
    expect(await ownerOf(id)).toBe(who.id)
    const [waiting] = await proposalsOf(office.db, office.second().principal.id, id)
    expect(waiting?.address).toBe('ida.anew@ferry.example')
    expect(await refusedAs(confirmAct(office.as(), waiting?.id ?? ''))).toBe('access.second-self')
    await confirmAct(office.second(), waiting?.id ?? '')
    expect((await comeIn('ida.anew@ferry.example')).who.id).toBe(await ownerOf(id))
    expect((await told('ida@ferry.example'))[0]).toContain('opened to another address')
  })
})
