import { solveChallenge, type Challenge } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/web/pbkdf2'
import { randomUUID } from 'node:crypto'
import { and, desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readAddress } from '../../core/identity/address'
import { registerApplication } from '../../server/services/applications/begin'
import { sendCode, takeCode } from '../../server/services/candidates/codes'
import { readOwn } from '../../server/services/candidates/own'
import { anonymousCaller, productCaller, Caller } from '../../server/services/context'
import { carryLetters, readOutbox } from '../../server/services/letters/outbox'
import { writeLetters } from '../../server/services/letters/write'
import { MessageStandin } from '../../server/standins/messages'
import { contact, letter, message } from '../../server/database/schema'
import { testNow } from '../support/sample'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
let clock = testNow
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const nobody = () => new Caller(office.db, anonymousCaller(office.db, 'test').principal, { now: () => clock })
const wait = (seconds: number) => {
  clock = new Date(clock.getTime() + seconds * 1000)
}
const ask = (address: string, channel: 'email' | 'mobile' = 'email', network = '10.0.0.1', work?: string) =>
  sendCode(nobody(), { channel, address, network, work, secret: 'of the tests' })
/** The code as the telephone shows it. */
async function codeFor(address: string): Promise<string> {
  const [last] = await office.db.select().from(letter).where(eq(letter.address, address)).orderBy(desc(letter.at)).limit(1)
  return /\d{6}/.exec(last?.body ?? '')?.[0] ?? ''
}
async function signIn(address: string) {
  wait(120)
  const { id } = await ask(address)
  return takeCode(nobody(), id, await codeFor(address))
}

describe('an address', () => {
  it.each<['email' | 'mobile', string, string | null]>([
    ['email', ' Tavi@Post.Example ', 'tavi@post.example'],
    ['email', 'tavi@', null],
    ['email', 'two@at@post.example', null],
    ['mobile', '+555 0100-042', '+5550100042'],
    ['mobile', '(555) 01 00 042', '5550100042'],
    ['mobile', '12345', null],
    ['mobile', '1234567890123456', null],
    ['mobile', '555a0100', null],
  ])('%s %j is kept as %j', (channel, text, wanted) => {
    expect(readAddress(channel, text)).toBe(wanted)
  })
})

describe('a network that asks for many codes', () => {
  const network = '10.9.9.9'
  const asks = (address: string, work?: string) => problemOf(ask(address, 'email', network, work))
  const worked = async (challenge: Challenge) => JSON.stringify({ challenge, solution: await solveChallenge({ challenge, deriveKey }) })

  it('has to work for each further one: for one address, for two minutes, and nothing made up counts', async () => {
    for (let n = 0; n < 20; n += 1) await ask(`pupil${n}@school.example`, 'email', network)
    const refused = await asks('pupil20@school.example')
    expect(refused).toMatchObject({ code: 'code.work', kind: 'too-many' })
    const challenge = refused.data as Challenge
    const work = await worked(challenge)
    expect(await asks('somebody-else@school.example', work)).toMatchObject({ code: 'code.work' })
    for (
      const made of ['', '{}', work.replace(/"counter":\d+/, '"counter":7').replace(/"derivedKey":"../, '"derivedKey":"00'),
        JSON.stringify({ ...JSON.parse(work) as object, challenge: { ...challenge, parameters: { ...challenge.parameters, cost: 1 } } })]
    ) {
      expect(await asks('pupil20@school.example', made)).toMatchObject({ code: 'code.work' })
    }
    expect(await ask('pupil20@school.example', 'email', network, work)).toMatchObject({ again: 60 })
    // Having it twice is worth nothing: codes to one address go a minute apart.
    expect(await asks('pupil20@school.example', work)).toMatchObject({ code: 'code.wait' })
    const late = await worked((await asks('pupil21@school.example')).data as Challenge)
    wait(121)
    expect(await asks('pupil21@school.example', late)).toMatchObject({ code: 'code.work' })
    // Tries are forgotten, and nobody has to work any more.
    wait(300)
    expect(await ask('pupil22@school.example', 'email', network)).toMatchObject({ again: 60 })
  })
})

describe('a code', () => {
  it('makes an account the first time and finds it again later, whatever the capitals', async () => {
    const first = await signIn('tavi@post.example')
    expect(first.principal).toMatchObject({ kind: 'candidate', roles: [] })
    expect((await signIn('Tavi@Post.example'.toLowerCase())).principal.id).toBe(first.principal.id)
    expect((await signIn('other@post.example')).principal.id).not.toBe(first.principal.id)
  })

  it('counts once, not after ten minutes, and not after five wrong tries', async () => {
    wait(120)
    const { id } = await ask('once@post.example')
    const code = await codeFor('once@post.example')
    await takeCode(nobody(), id, code)
    await expect(takeCode(nobody(), id, code)).rejects.toThrow('does not hold')
    wait(120)
    const late = await ask('once@post.example')
    wait(601)
    await expect(takeCode(nobody(), late.id, await codeFor('once@post.example'))).rejects.toThrow('does not hold')
    const tried = await ask('once@post.example')
    const right = await codeFor('once@post.example')
    const wrong = right === '000000' ? '111111' : '000000'
    for (let left = 4; left > 0; left--) {
      await expect(takeCode(nobody(), tried.id, wrong)).rejects.toThrow(left === 1 ? 'One try is left' : `${left} tries are left`)
    }
    await expect(takeCode(nobody(), tried.id, wrong)).rejects.toThrow('does not hold')
    await expect(takeCode(nobody(), tried.id, right)).rejects.toThrow('does not hold')
  })

  it('is waited for before another goes out, six an hour at most; only the newest holds', async () => {
    wait(4000)
    const first = await ask('often@post.example')
    const code = await codeFor('often@post.example')
    await expect(ask('often@post.example')).rejects.toThrow('Wait 60 seconds')
    for (let n = 0; n < 5; n++) {
      wait(61)
      await ask('often@post.example')
    }
    wait(61)
    await expect(ask('often@post.example')).rejects.toThrow('6 codes')
    await expect(takeCode(nobody(), first.id, code)).rejects.toThrow('does not hold')
    await expect(ask('not an address')).rejects.toThrow('is no e-mail address')
  })

  it('that many ask for at once goes out once, and proves an address for one account', async () => {
    wait(120)
    const answers = await Promise.allSettled(Array.from({ length: 8 }, () => ask('crowd@post.example')))
    expect(answers.filter(a => a.status === 'fulfilled')).toHaveLength(1)
    const id = answers.flatMap(a => a.status === 'fulfilled' ? [a.value.id] : [])[0] ?? ''
    const code = await codeFor('crowd@post.example')
    const taken = await Promise.allSettled(Array.from({ length: 6 }, () => takeCode(nobody(), id, code)))
    expect(taken.filter(t => t.status === 'fulfilled')).toHaveLength(1)
    expect(await office.db.select().from(contact).where(eq(contact.address, 'crowd@post.example'))).toHaveLength(1)
  })
})

describe('a candidate', () => {
  it('sees what is theirs and nothing else, and is told by letter what acts do', async () => {
    const { principal } = await signIn('owner@post.example')
    const caller = new Caller(office.db, principal, { now: () => testNow })
    const id = randomUUID()
    const { number } = await registerApplication(caller, office.cycle, id)
    expect((await registerApplication(caller, office.cycle, id)).number).toBe(number)
    const own = await readOwn(caller)
    expect(own.applications).toEqual([expect.objectContaining({ id, number, headline: 'drafting', due: null })])
    expect(own.contacts).toEqual([{ channel: 'email', address: 'owner@post.example' }])
    const stranger = (await signIn('stranger@post.example')).principal
    expect((await readOwn(new Caller(office.db, stranger, { now: () => testNow }))).applications).toEqual([])
    await expect(new Caller(office.db, stranger).authorise('applications.read', { application: id })).rejects.toThrow('not yours')

    await office.db.insert(message).values({
      id: randomUUID(),
      applicationId: id,
      cycle: office.cycle,
      kind: 'submit',
      parameters: {},
      at: testNow,
    })
    const product = productCaller(office.db, 'letters')
    expect(await writeLetters(product)).toBeGreaterThan(0)
    expect(await writeLetters(product)).toBe(0)
    await carryLetters(product, new MessageStandin())
    const [told] = await office.db.select().from(letter)
      .where(and(eq(letter.address, 'owner@post.example'), eq(letter.principalId, principal.id)))
    expect(told).toMatchObject({ subject: `${number}: your form has arrived`, state: 'delivered' })
    expect(told?.body).toContain('complete once the fee is settled')
    expect((await readOwn(caller)).letters).toHaveLength(1)
  })

  it('reads no letter of the house, and staff find one by the beginning of its address', async () => {
    const { principal } = await signIn('reader@post.example')
    await expect(readOutbox(new Caller(office.db, principal), '')).rejects.toThrow('Nothing was changed')
    expect((await readOutbox(office.as(), ' READER@')).rows.map(r => r.address)).toEqual(['reader@post.example'])
    for (const other of ['eader@', 'reader%', 'r_ader@']) expect((await readOutbox(office.as(), other)).rows).toEqual([])
  })

  it('is refused at an address that nobody has, and the office can see it', async () => {
    wait(120)
    await ask('gone@nowhere.invalid')
    await carryLetters(productCaller(office.db, 'letters'), new MessageStandin())
    expect((await readOutbox(office.as(), 'gone@nowhere')).rows[0]?.state).toBe('refused')
  })
})
