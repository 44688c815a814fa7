import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { auditEvent, signInFailure, staffSession } from '../../server/database/schema'
import { liveSession, putStaff, signIn, signOut } from '../../server/services/people/sign-in'
import { readRecords } from '../../server/services/records/audit'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
  await putStaff(office.as(), { signInName: 'senna', displayName: 'Senna Halwen', roles: ['officer'], password: 'a lamp on the pier' })
})
afterAll(() => office.close())

const enter = (password: string, signInName = 'senna', address = '10.0.0.1') => signIn({ ...office.as(), actor: null }, { signInName, password, address })

describe('signing in', () => {
  it('opens a session that is known on every process, ends in time and can be revoked', async () => {
    const { token } = await enter('a lamp on the pier')
    expect(await liveSession(office.as(), token)).toMatchObject({ actor: { name: 'Senna Halwen', roles: ['officer'] } })
    expect((await office.db.select().from(staffSession)).some(s => JSON.stringify(s).includes(token))).toBe(false)
    office.pass(12 * 60 + 1)
    expect(await liveSession(office.as(), token)).toBeNull()
    office.now = testNow
    await signOut(office.as(), token)
    expect(await liveSession(office.as(), token)).toBeNull()
    expect(await liveSession(office.as(), 'made up')).toBeNull()
  })

  it('never tells whether name or password was wrong', async () => {
    const [wrongPassword, wrongName] = await Promise.all([enter('wrong').catch(String), enter('wrong', 'nobody').catch(String)])
    expect(wrongPassword).toBe(wrongName)
  })

  it('is slowed by name and by address, for all processes together, and opens again after a while', async () => {
    for (let i = 0; i < 8; i += 1) await expect(enter('guess', 'senna', `10.0.1.${i}`)).rejects.toThrow()
    await expect(enter('a lamp on the pier', 'senna', '10.0.2.1')).rejects.toThrow('failed sign-ins')
    office.pass(16)
    expect((await enter('a lamp on the pier')).actor.name).toBe('Senna Halwen')
    for (let i = 0; i < 40; i += 1) await office.db.insert(signInFailure).values({ id: office.as().newId(), key: 'address:10.9.9.9', at: office.now })
    await expect(enter('a lamp on the pier', 'senna', '10.9.9.9')).rejects.toThrow('failed sign-ins')
    office.now = testNow
  }, 60_000)
})

describe('the log', () => {
  it('says who did what, before and after, and cannot be changed', async () => {
    await office.draft()
    const [newest] = await readRecords(office.as('auditor'), {})
    expect(newest).toMatchObject({ actor: 'the officer', action: 'change answers', before: { certificateName: null }, after: { certificateName: 'Tavirel Osk-Anundé' } })
    await expect(readRecords(office.as('scrutineer'), {})).rejects.toThrow('may not do this')
    await expect(office.db.delete(auditEvent)).rejects.toThrow()
    await expect(office.db.update(auditEvent).set({ actor: 'nobody' })).rejects.toThrow()
  })
})
