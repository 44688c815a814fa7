import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { eq } from 'drizzle-orm'
import { TOTP, Secret } from 'otpauth'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { auditEvent, oneTimeLink, pace, session } from '../../server/database/schema'
import { readKeyFile, useOfficeKey } from '../../server/secrets/office-key'
import { signingKey } from '../../server/services/cards/keys'
import { productCaller } from '../../server/services/context'
import { changeOwnPassword, readAccount } from '../../server/services/people/account'
import { offerSecondFactor, setSecondFactor } from '../../server/services/people/second-factor'
import { changeOfficeSettings } from '../../server/services/people/settings'
import {
  endOwnSession,
  liveSession,
  ownSessions,
  principalOf,
  signIn,
  signOut,
  type LiveSession,
} from '../../server/services/people/sign-in'
import {
  activateStaff,
  administratorLink,
  changeStaff,
  inviteStaff,
  linkForStaff,
  listStaff,
  putStaff,
  readLink,
  useLink,
} from '../../server/services/people/staff'
import { readRecords } from '../../server/services/records/audit'
import { rotateOfficeKey } from '../../server/services/records/office-key'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

const password = 'a lamp on the long pier'
let office: Office
let senna: string
beforeAll(async () => {
  office = await openOffice()
  senna = await putStaff(await office.context(), { signInName: 'senna', name: 'Senna Halwen', roles: ['officer'], password })
})
// What one test tried slows down no other.
beforeEach(() => office.db.delete(pace))
afterAll(() => office.close())

const enter = (given: string, signInName = 'senna', network = '10.0.0.1', code?: string, mark?: string) =>
  signIn(office.nobody, { signInName, password: given, network, code, mark })
const alive = async (token: string): Promise<LiveSession | null> => liveSession(office.by(office.product.principal), token)

describe('signing in', () => {
  it('opens a session that is known on every process, ends in time and can be revoked', async () => {
    const { token } = await enter(password)
    expect(await alive(token)).toMatchObject({ principal: { id: senna, name: 'Senna Halwen', roles: ['officer'] } })
    expect((await office.db.select().from(session)).some(s => JSON.stringify(s).includes(token))).toBe(false)
    office.pass(12 * 60 + 1)
    expect(await alive(token)).toBeNull()
    office.now = testNow
    await signOut(office.as(), token)
    expect(await alive(token)).toBeNull()
    expect(await alive('made up')).toBeNull()
  })

  it('tells along with the session who holds the application that is asked about', async () => {
    const { token } = await enter(password)
    const owner = await office.candidate()
    const application = await office.begin(owner)
    const asked = async (about?: string) => (await liveSession(office.by(office.product.principal), token, about))?.holders
    expect(await asked(application)).toEqual({ application, ownerId: owner.id, institutionId: null })
    expect([await asked(), await asked(randomUUID())]).toEqual([null, null])
  })

  it('never tells whether name or password was wrong', async () => {
    const [wrongPassword, wrongName] = await Promise.all([enter('wrong').catch(String), enter('wrong', 'nobody').catch(String)])
    expect(wrongPassword).toBe(wrongName)
  })

  it('is slowed by name and by network, for all processes together, and never locked', async () => {
    for (let i = 0; i < 8; i += 1) await expect(enter('guess', 'senna', `10.0.1.${i}`)).rejects.toThrow('do not fit together')
    await expect(enter(password, 'senna', '10.0.2.1')).rejects.toMatchObject({
      problem: { code: 'session.too-many', kind: 'too-many', parameters: { seconds: 1 } },
    })
    // Waiting is all that it takes, however many guesses are refused meanwhile.
    for (let i = 0; i < 5; i += 1) await enter('guess', 'senna', '10.0.2.1').catch(() => undefined)
    office.now = new Date(office.now.getTime() + 2_000)
    expect((await enter(password, 'senna', '10.0.2.1')).principal.name).toBe('Senna Halwen')
    office.now = testNow
  })

  it('is as quick as ever from a browser that signed in before, whatever others try', async () => {
    office.pass(120)
    await enter(password, 'senna', '10.0.3.1', undefined, 'the mark of this browser')
    for (let i = 0; i < 8; i += 1) await enter('guess', 'senna', '10.0.3.1').catch(() => undefined)
    await expect(enter(password, 'senna', '10.0.3.1')).rejects.toThrow('Wait')
    await expect(enter(password, 'senna', '10.0.3.1', undefined, 'a mark that nobody has')).rejects.toThrow('Wait')
    expect((await enter(password, 'senna', '10.0.3.1', undefined, 'the mark of this browser')).others).toBeGreaterThan(0)
    for (let i = 0; i < 8; i += 1) await enter('guess', 'senna', '10.0.3.1', undefined, 'the mark of this browser').catch(() => undefined)
    await expect(enter(password, 'senna', '10.0.3.1', undefined, 'the mark of this browser')).rejects.toThrow('Wait')
    office.now = testNow
  })

  it('counts two hundred names from one network together', async () => {
    const tries = await Promise.allSettled(Array.from({ length: 200 }, (_, i) => enter('guess', `name ${i}`, '10.0.4.1')))
    expect(tries.filter(one => one.status === 'rejected' && String(one.reason).includes('do not fit')).length).toBeLessThanOrEqual(42)
  })
})

describe('many guesses at once', () => {
  it('are counted before they are tried, so that no more than the limit are', async () => {
    const guesses = await Promise.allSettled(Array.from({ length: 120 }, (_, i) => enter('guess', 'nobody-of-this-name', `10.2.0.${i}`)))
    const codes = guesses.map(g => g.status === 'rejected' ? (g.reason as { problem: { code: string } }).problem.code : 'in')
    expect(codes.filter(code => code === 'session.wrong').length).toBe(8)
    expect(codes.filter(code => code === 'session.too-many').length).toBe(112)
  })
})

describe('an office that begins empty', () => {
  const tokenOf = (path: string) => path.split('#')[1] ?? ''
  const weak = ['fourteen signs', 'passwordpassword', 'aaaaaaaaaaaaaaaa', 'orinorinorinorin']

  it('lets its first administrator in by a link, once, who invites others with rights of their own', async () => {
    const first = await administratorLink(await office.context(), 'merrin')
    const token = tokenOf(first.path)
    expect(await readLink(office.nobody, token)).toEqual({ name: 'merrin', signInName: 'merrin' })
    await expect(useLink(office.nobody, { token, password: weak[0] ?? '' })).rejects.toThrow('14 characters; it needs at least 15')
    const { principal: merrin } = await useLink(office.nobody, { token, password })
    await expect(useLink(office.nobody, { token, password })).rejects.toThrow('used already')
    const admin = office.by(merrin)
    const invited = await inviteStaff(admin, { signInName: 'orin', name: 'Orin Tamsero', roles: ['scrutineer'], venues: [] })
    await expect(inviteStaff(admin, { signInName: 'ORIN', name: 'Another', roles: ['officer'], venues: [] })).rejects.toThrow('is taken')
    for (const bad of weak) {
      await expect(useLink(office.nobody, { token: tokenOf(invited.path), password: bad })).rejects.toMatchObject({
        problem: { kind: 'bad-input' },
      })
    }
    const { principal: orin } = await useLink(office.nobody, { token: tokenOf(invited.path), password: `${password} two` })
    expect(orin).toMatchObject({ name: 'Orin Tamsero', roles: ['scrutineer'] })
    await expect(listStaff(office.by(orin))).rejects.toMatchObject({ problem: { code: 'access.role' } })
    expect(JSON.stringify(await office.db.select().from(oneTimeLink))).not.toContain(token)
  })

  it('never loses its last administrator, and a command on the server lets one in again', async () => {
    const merrin = (await listStaff(office.as('administrator'))).find(one => one.signInName === 'merrin')
    // The office of the tests has an administrator besides, who goes first.
    const other = (await listStaff(office.as('administrator'))).find(one =>
      one.roles.join() === 'administrator' && one.signInName !== 'merrin'
    )
    const admin = office.by(await principalOf(office.db, merrin?.id ?? '') ?? office.product.principal)
    await activateStaff(admin, other?.id ?? '', false)
    await expect(activateStaff(admin, merrin?.id ?? '', false)).rejects.toThrow('last active administrator')
    await expect(changeStaff(admin, merrin?.id ?? '', { signInName: 'merrin', name: 'Merrin', roles: ['officer'], venues: [] })).rejects
      .toThrow('last active administrator')
    await expect(linkForStaff(admin, merrin?.id ?? '')).rejects.toMatchObject({ problem: { code: 'staff.own-account' } })
    const again = await administratorLink(await office.context(), 'merrin')
    expect(again.isNew).toBe(false)
    const [newest] = await readRecords(office.as('auditor'), {})
    expect(newest).toMatchObject({ act: 'make-link', actor: 'Lucid Roster', shown: 'merrin' })
    await activateStaff(admin, other?.id ?? '', true)
  })

  it('keeps what somebody did who left, and ends their sessions for good', async () => {
    const { token, principal: orin } = await enter(`${password} two`, 'orin', '10.0.4.1')
    await activateStaff(office.as('administrator'), orin.id, false)
    expect(await alive(token)).toBeNull()
    await expect(enter(`${password} two`, 'orin', '10.0.4.1')).rejects.toMatchObject({ problem: { code: 'session.wrong' } })
    await activateStaff(office.as('administrator'), orin.id, true)
    expect(await alive(token)).toBeNull()
    expect((await office.db.select().from(auditEvent).where(eq(auditEvent.actor, orin.id))).length).toBeGreaterThan(0)
  })

  it('tells two people of one name apart wherever a name is shown', async () => {
    await putStaff(await office.context(), { signInName: 'senna2', name: 'Senna Halwen', roles: ['officer'], password })
    const id = await office.draft()
    const who = await principalOf(office.db, senna)
    if (!who) throw new Error('Senna is gone')
    await office.act(id, 'withdraw', { reason: 'asked for it' }, office.by(who))
    expect((await office.dossier(id)).history[0]?.actor).toBe('Senna Halwen (senna)')
  })
})

describe("one's own account", () => {
  it('lists its sessions and ends them one by one; a new password ends all others', async () => {
    const [one, two] = [await enter(password, 'senna', '10.0.5.1'), await enter(password, 'senna', '10.0.5.1')]
    const own = office.by(one.principal)
    const here = await alive(one.token)
    const list = await ownSessions(own, here?.id ?? null)
    expect(list.filter(s => s.isThis)).toHaveLength(1)
    const other = await alive(two.token)
    await endOwnSession(own, { id: other?.id ?? '' })
    expect(await alive(two.token)).toBeNull()
    const three = await enter(password, 'senna', '10.0.5.1')
    await expect(changeOwnPassword(own, { present: 'wrong', password: 'the tide comes in twice', sessionId: here?.id ?? null })).rejects
      .toMatchObject({ problem: { code: 'account.password-wrong' } })
    await changeOwnPassword(own, { present: password, password: 'the tide comes in twice', sessionId: here?.id ?? null })
    expect([await alive(one.token), await alive(three.token)].map(s => s !== null)).toEqual([true, false])
    await changeOwnPassword(own, { present: 'the tide comes in twice', password, sessionId: here?.id ?? null })
  })

  it('takes a second factor whose codes count once, recovery codes too, and is shut without one where a role needs it', async () => {
    const { principal: who, token } = await enter(password, 'senna', '10.0.6.1')
    await changeOfficeSettings(office.as('administrator'), {
      keepMonths: 12,
      factorRoles: ['officer'],
      withoutSecondPerson: [],
      telephones: { country: '', ranges: [] },
    })
    expect((await alive(token))?.principal.needsFactor).toBe(true)
    const bare = office.by((await alive(token))?.principal ?? who)
    await expect(readRecords(bare, {})).rejects.toMatchObject({ problem: { code: 'access.second-factor' } })
    const { secret } = await offerSecondFactor(bare)
    const code = () => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: office.now.getTime() })
    await expect(setSecondFactor(bare, { secret, code: '000000', password })).rejects.toMatchObject({
      problem: { code: 'account.code-wrong' },
    })
    const { recoveryCodes } = await setSecondFactor(bare, { secret, code: code(), password })
    expect(await readAccount(bare)).toMatchObject({ hasFactor: true, factorRequired: true, recoveryCodesLeft: 10 })
    await expect(enter(password, 'senna', '10.0.6.1')).rejects.toMatchObject({ problem: { code: 'session.factor-wanted' } })
    await expect(enter(password, 'senna', '10.0.6.1', code())).rejects.toMatchObject({ problem: { code: 'session.factor-wrong' } })
    office.pass(1)
    expect((await enter(password, 'senna', '10.0.6.1', code())).principal.id).toBe(senna)
    await expect(enter(password, 'senna', '10.0.6.1', code())).rejects.toMatchObject({ problem: { code: 'session.factor-wrong' } })
    expect((await enter(password, 'senna', '10.0.6.1', recoveryCodes[0])).principal.id).toBe(senna)
    await expect(enter(password, 'senna', '10.0.6.1', recoveryCodes[0])).rejects.toMatchObject({
      problem: { code: 'session.factor-wrong' },
    })
    await signingKey(office.db, await office.context())
    // Another key of the office in place of the one that sealed the secret.
    const path = join(mkdtempSync(join(tmpdir(), 'lucid-key-')), 'office-key')
    writeFileSync(path, Buffer.alloc(32, 11).toString('base64url'), { mode: 0o600 })
    expect(await rotateOfficeKey(await productCaller(office.in('owner')).authorise('clock.act'), path)).toMatchObject({ factors: 1 })
    const [fresh] = readKeyFile(path)
    rmSync(dirname(path), { recursive: true })
    useOfficeKey(fresh)
    office.pass(1)
    expect((await enter(password, 'senna', '10.0.6.1', code())).principal.id).toBe(senna)
    expect((await signingKey(office.db, await office.context())).id).toBe('k1')
    office.now = testNow
    await changeOfficeSettings(office.as('administrator'), {
      keepMonths: 12,
      factorRoles: [],
      withoutSecondPerson: [],
      telephones: { country: '', ranges: [] },
    })
  })

  // RFC 6238, appendix B, rows of SHA-1; eight digits there, of which ours are the last six.
  it('makes the codes of the published vectors', () => {
    const totp = new TOTP({ secret: Secret.fromUTF8('12345678901234567890'), algorithm: 'SHA1', digits: 6, period: 30 })
    const rows = [[59, '94287082'], [1_111_111_109, '07081804'], [1_111_111_111, '14050471'], [1_234_567_890, '89005924'], [2_000_000_000,
      '69279037'], [20_000_000_000, '65353130']] as const
    for (const [seconds, code] of rows) expect(totp.generate({ timestamp: seconds * 1000 })).toBe(code.slice(-6))
  })
})

describe('the log', () => {
  it('says who did what, before and after, and cannot be changed', async () => {
    await office.draft()
    const [newest] = await readRecords(office.as('auditor'), {})
    expect(newest).toMatchObject({
      actor: 'the officer',
      act: 'save-answers',
      before: { certificateName: null },
      after: { certificateName: 'Tavirel Osk-Anundé' },
    })
    await expect(readRecords(office.as('scrutineer'), {})).rejects.toThrow('may not do this')
    await expect(office.db.delete(auditEvent)).rejects.toThrow()
    await expect(office.db.update(auditEvent).set({ reason: 'nobody' })).rejects.toThrow()
  })
})
