import { and, eq, isNull } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { anybody } from '../../core/access/principal'
import { withoutCentres } from '../../core/notice/centres'
import { application, auditEvent, contact, endorsement, endorsementLink, letter, openMatter } from '../../server/database/schema'
import { publicAddress } from '../../server/messages/public-address'
import { deleteDraft } from '../../server/services/applications/begin'
import { formPdf } from '../../server/services/applications/form-paper'
import { remindInTime } from '../../server/services/clock/remind'
import { askEndorsement, recordEndorsement, takeBackEndorsement } from '../../server/services/endorsements/ask'
import { endorsementsOf, giveEndorsement, readEndorsement } from '../../server/services/endorsements/give'
import { currentNotice, putNotice } from '../../server/services/notice/notices'
import { openOffice, type Office } from '../support/office'
import { printed } from '../support/printed'
import { problemOf } from '../support/problem'

const questions = [{ id: 'years', kind: 'text', label: 'Since when', maxLength: 40 }, {
  id: 'again',
  kind: 'choice',
  label: 'Again',
  options: [{ id: 'yes', title: 'Yes, at once' }, { id: 'no', title: 'No' }],
}, { id: 'more', kind: 'text', label: 'More', required: false }]
const rules = [
  { id: 'teacher', kind: 'recommendation', title: 'A word of a teacher', text: 'You know them: {title}.', questions, holds: 'submission' },
  { id: 'guardian', kind: 'consent', title: "Guardian's consent", text: 'I consent.', holds: 'decision', shownToCandidate: true },
]
let office: Office
beforeAll(async () => {
  office = await openOffice({ endorsements: rules })
})
afterAll(() => office.close())

const network = '127.0.0.1'
const stranger = () => office.as().as(anybody)
const ask = (id: string, rule: string, address: string, by = office.as()) =>
  askEndorsement(by, id, { rule, name: 'Ovi Sarran', channel: 'email', address })
/** The secret of the newest link that went to an address. */
async function tokenTo(address: string): Promise<string> {
  const rows = await office.db.select().from(letter).where(eq(letter.address, address))
  return /\/endorse#(\S+)/.exec(rows.at(-1)?.body ?? '')?.[1] ?? ''
}
const give = async (address: string, word: 'given' | 'declined', said: Record<string, string> = {}, version = 1) =>
  giveEndorsement(stranger(), { token: await tokenTo(address), version, word, signed: 'Ovi Sarran', said }, network)
const said = { years: '2019', again: 'yes' }
/** What is kept as open, in the order in which it came up. */
const hold = async (id: string) =>
  (await office.db.select().from(openMatter)
    .where(and(eq(openMatter.applicationId, id), eq(openMatter.kind, 'endorsement-awaited'), isNull(openMatter.clearedAt)))).map(
      ({ about, owner, holds }) => [about, owner, holds]
    ).sort((a, b) => String(b[0]).localeCompare(String(a[0])))
let serial = 0
const somebody = () => `somebody${serial += 1}@post.example`

describe('what others are asked by a link', () => {
  it('keeps the form until it is there and the decision after that; each is told to the candidate and stands in the log', async () => {
    const owner = await office.candidate()
    const id = await office.complete(owner)
    const [teacher, guardian] = [somebody(), somebody()]
    expect(await problemOf(office.act(id, 'submit', { revision: 1, declared: true }))).toMatchObject({
      code: 'sheet.endorsements-missing',
      parameters: { titles: 'A word of a teacher' },
    })
    await ask(id, 'teacher', teacher)
    expect(await hold(id)).toEqual([['teacher', 'endorser', 'submission'], ['guardian', 'candidate', 'decision']])
    const open = await readEndorsement(stranger(), await tokenTo(teacher), network)
    expect(open).toMatchObject({
      isOpen: true,
      name: 'Ovi Sarran',
      candidate: (await office.dossier(id)).name,
      rule: { text: expect.stringContaining(open.examination) as string },
    })
    await give(teacher, 'given', said)
    await office.act(id, 'submit', { revision: 1, declared: true })
    await office.settle(id)
    expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.endorsement-awaited' })
    await ask(id, 'guardian', guardian)
    const onPaper = async () => printed((await formPdf(office.as(), id)).pdf).text
    expect(await onPaper()).toContain('0 of 1 given, 1 asked')
    await give(guardian, 'given')
    expect(await onPaper()).not.toContain('0 of 1 given')
    expect(await hold(id)).toEqual([])
    await office.act(id, 'accept', {}, office.as('scrutineer'))
    const acts = await office.db.select({ act: auditEvent.act, after: auditEvent.after }).from(auditEvent).where(eq(auditEvent.subject, id))
    expect(acts.filter(one => one.act === 'give-endorsement').map(one => one.after)).toEqual([
      expect.objectContaining({ name: 'Ovi Sarran', word: 'given' }),
      expect.objectContaining({ word: 'given' }),
    ])
  })

  it('shows candidates what was answered only where the notice says so, and the office all of it', async () => {
    const owner = await office.candidate()
    const id = await office.complete(owner)
    const [teacher, guardian] = [somebody(), somebody()]
    await ask(id, 'teacher', teacher)
    await ask(id, 'guardian', guardian)
    await give(teacher, 'given', said)
    await give(guardian, 'given')
    const seen = async (by: Principal) =>
      Object.fromEntries((await endorsementsOf(office.as().as(by), id)).map(one => [one.rule, [one.state, one.signed, one.said]]))
    expect(await seen(owner)).toEqual({ teacher: ['given', null, null], guardian: ['given', 'Ovi Sarran', []] })
    expect((await seen(office.as('scrutineer').principal)).teacher).toEqual(['given', 'Ovi Sarran', [{
      label: 'Since when',
      answer: '2019',
    }, { label: 'Again', answer: 'Yes, at once' }]])
  })

  it('is answered once: what lacks is named, the same again changes nothing, another answer is refused', async () => {
    const id = await office.complete()
    const teacher = somebody()
    await ask(id, 'teacher', teacher)
    expect(await problemOf(give(teacher, 'given', { years: '2019' }))).toMatchObject({
      code: 'endorsement.answer',
      parameters: { label: 'Again' },
    })
    expect(await problemOf(give(teacher, 'given', { ...said, again: 'perhaps' }))).toMatchObject({ code: 'endorsement.answer' })
    expect(await problemOf(give(teacher, 'given', { ...said, years: 'x'.repeat(41) }))).toMatchObject({
      code: 'endorsement.too-long',
      parameters: { length: 41, most: 40 },
    })
    await Promise.all([give(teacher, 'given', said), give(teacher, 'given', said), give(teacher, 'given', said)])
    expect(await problemOf(give(teacher, 'declined'))).toMatchObject({ code: 'endorsement.settled' })
    const [row] = await office.db.select().from(application).where(eq(application.id, id))
    expect(row?.endorsed).toEqual({ teacher: { asked: 0, given: 1, declined: 0 } })
    expect(await problemOf(readEndorsement(stranger(), 'made-up', network))).toMatchObject({ code: 'endorsement.link' })
  })

  it('can be taken back and asked of somebody else; a link that was taken back, or deleted with its draft, leads nowhere', async () => {
    const owner = await office.candidate()
    const id = await office.complete(owner)
    const [first, second] = [somebody(), somebody()]
    const [own] = await office.db.select().from(contact).where(eq(contact.principalId, owner.id))
    expect(await problemOf(ask(id, 'teacher', own?.address ?? '', office.as().as(owner)))).toMatchObject({
      code: own?.channel === 'email' ? 'endorsement.own-address' : 'code.address',
    })
    await ask(id, 'teacher', first)
    expect(await problemOf(ask(id, 'teacher', first.toUpperCase()))).toMatchObject({ code: 'endorsement.asked' })
    expect(await problemOf(ask(id, 'teacher', second))).toMatchObject({ code: 'endorsement.enough' })
    const token = await tokenTo(first)
    const [asked] = await endorsementsOf(office.as(), id)
    await takeBackEndorsement(office.as(), id, asked?.id ?? '')
    await takeBackEndorsement(office.as(), id, asked?.id ?? '')
    expect(await problemOf(readEndorsement(stranger(), token, network))).toMatchObject({ code: 'endorsement.link' })
    await ask(id, 'teacher', second)
    expect(await problemOf(deleteDraft(office.as(), id, {}))).toMatchObject({ code: 'act.not-empty' })
    await give(second, 'declined')
    expect(await hold(id)).toContainEqual(['teacher', 'candidate', 'submission'])
  })

  it('sends no account letters to strangers without an end', async () => {
    const owner = await office.candidate()
    // Each time another request: one that is sent again asks nobody anew.
    const me = () => office.by(owner)
    const [first, second] = [await office.complete(owner), await office.complete(owner)]
    const askAndTakeBack = async (id: string, rule: string) => {
      await ask(id, rule, somebody(), me())
      await takeBackEndorsement(me(), id, (await endorsementsOf(me(), id)).find(one => one.state === 'asked')?.id ?? '')
    }
    for (let n = 0; n < 10; n += 1) await askAndTakeBack(first, 'teacher')
    expect(await problemOf(askAndTakeBack(first, 'teacher'))).toMatchObject({ code: 'endorsement.too-many' })
    for (let n = 0; n < 9; n += 1) await askAndTakeBack(first, 'guardian')
    expect(await problemOf(askAndTakeBack(second, 'guardian'))).toMatchObject({ code: 'endorsement.slow' })
  })

  it('is recorded from paper by an officer with a reason, and by nobody else', async () => {
    const owner = await office.candidate()
    const id = await office.complete(owner)
    const record = (by: Principal, reason?: string) =>
      recordEndorsement(office.as().as(by), id, { rule: 'teacher', name: 'Mira Tolk', word: 'given', reason })
    expect(await problemOf(record(owner, 'seen it myself'))).toMatchObject({ kind: 'not-allowed' })
    expect(await problemOf(record(office.as().principal))).toMatchObject({ code: 'act.reason' })
    await record(office.as().principal, 'signed letter, folder 7')
    expect((await endorsementsOf(office.as(), id)).map(one => [one.name, one.state, one.address])).toEqual([['Mira Tolk', 'given', null]])
    await office.act(id, 'submit', { revision: 1, declared: true })
  })

  it('is asked once more after three days, by a link beside the first, which stays good', async () => {
    const id = await office.complete()
    const teacher = somebody()
    await ask(id, 'teacher', teacher)
    const first = await tokenTo(teacher)
    const asAsked = office.now
    office.now = new Date(asAsked.getTime() + 3 * 24 * 3_600_000)
    await remindInTime(office.product)
    await remindInTime(office.product)
    office.now = asAsked
    const [asked] = await office.db.select().from(endorsement).where(eq(endorsement.address, teacher))
    expect(await office.db.select().from(endorsementLink).where(eq(endorsementLink.endorsementId, asked?.id ?? ''))).toHaveLength(2)
    expect(await readEndorsement(stranger(), first, network)).toMatchObject({ isOpen: true })
    await give(teacher, 'given', said)
    expect(await readEndorsement(stranger(), first, network)).toMatchObject({ isOpen: false, state: 'given' })
  })

  it('is read anew where the notice asks for something else since; what was answered stays with what was read', async () => {
    const id = await office.complete()
    const [teacher, guardian] = [somebody(), somebody()]
    await ask(id, 'teacher', teacher)
    await ask(id, 'guardian', guardian)
    await give(guardian, 'given')
    const { notice } = await currentNotice(office.db, office.cycle)
    const endorsements = rules.map(rule => ({ ...rule, text: `${rule.text} Also where they live.` }))
    await putNotice(office.as(), { ...withoutCentres(notice), endorsements })
    expect(await problemOf(give(teacher, 'given', said))).toMatchObject({ code: 'endorsement.changed' })
    expect(await readEndorsement(stranger(), await tokenTo(teacher), network)).toMatchObject({ version: 2, isOpen: true })
    await give(teacher, 'given', said, 2)
    const views = await endorsementsOf(office.as(), id)
    expect(views.map(one => [one.rule, one.version, one.otherText]).sort()).toEqual([['guardian', 1, 'I consent.'], ['teacher', 2, null]])
    expect((await readEndorsement(stranger(), await tokenTo(guardian), network)).rule.text).toBe('I consent.')
    // A change of anything else asks nobody to read again.
    await putNotice(office.as(), { ...withoutCentres(notice), endorsements, declaration: 'All of it is true.' })
    const other = await office.complete()
    const another = somebody()
    await ask(other, 'guardian', another)
    await give(another, 'given', {}, 2)
    expect((await endorsementsOf(office.as(), other)).map(one => one.version)).toEqual([3])
  })

  it('links to the address that the operator has set, whatever a request says', () => {
    expect([publicAddress({ HOST: '10.0.0.1', PORT: '80' }), publicAddress({ LUCID_PUBLIC_ADDRESS: 'https://exams.board.example/' })])
      .toEqual(['http://10.0.0.1:80', 'https://exams.board.example'])
    expect(() => publicAddress({ LUCID_PUBLIC_ADDRESS: 'exams.board.example' })).toThrow('https://')
  })
})
