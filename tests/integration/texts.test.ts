import { createHash } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { inspectorWith } from '../../pictures/inspect'
import { withoutCentres } from '../../core/notice/centres'
import type { TextRead } from '../../shared/acts'
import { acceptedText, textWording } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { submitApplication } from '../../server/services/applications/form'
import { formPdf } from '../../server/services/applications/form-paper'
import { readTexts } from '../../server/services/applications/texts'
import { addImage, keepForLater } from '../../server/services/images/store'
import { currentNotice, putNotice } from '../../server/services/notice/notices'
import { openOffice, type Office } from '../support/office'
import { printed } from '../support/printed'
import { problemOf } from '../support/problem'
import { sampleAnswers } from '../support/sample'

const rules = [
  { id: 'before', title: 'Before you begin', text: 'Read {title}.\n\nThen write.', asked: 'at the beginning' },
  { id: 'data-use', title: 'What becomes of your data', text: 'It is kept.' },
]
const translations = [{
  language: 'fr',
  texts: [{ text: 'It is kept.', as: 'Elles sont gardées.' }, { text: 'What becomes of your data', as: 'Vos données' }],
}]
let office: Office
let me: Principal
beforeAll(async () => {
  office = await openOffice({ terms: rules, language: 'en', translations })
  me = await office.candidate()
})
afterAll(() => office.close())

const begun = () => office.begin(me)
const save = (id: string) => saveAnswers(office.by(me), id, { revision: 0, changes: sampleAnswers })
async function read(id: string, ids: string[], language: string | null = null): Promise<TextRead[]> {
  const { texts } = await readTexts(office.by(me), id, language)
  return texts.filter(one => ids.includes(one.id)).map(({ id: text, sha256 }) => ({ id: text, sha256 }))
}
const accept = async (id: string, ids: string[]) => office.act(id, 'accept-texts', { texts: await read(id, ids) }, office.by(me))
/** A draft in which nothing lacks but what is accepted at the end. */
async function complete(): Promise<string> {
  const id = await begun()
  await accept(id, ['before'])
  await save(id)
  await office.addFiles(id)
  return id
}
const handIn = (id: string, texts: TextRead[]) => submitApplication(office.by(me), id, { revision: 1, declared: true, texts })

describe('texts that are accepted', () => {
  it('keep the form shut until those of the beginning are, for whoever writes', async () => {
    const id = await begun()
    expect(await office.dossier(id)).toMatchObject({ hasTextsFirst: true })
    expect(await problemOf(save(id))).toMatchObject({ code: 'sheet.texts-first', parameters: { titles: 'Before you begin' } })
    expect(await problemOf(saveAnswers(office.as(), id, { revision: 0, changes: { address: 'Pier 4' } }, { reason: 'By telephone' })))
      .toMatchObject({
        code: 'sheet.texts-first',
      })
    const bytes = await drawSignature(new Random(4), 'none')
    expect(await problemOf(addImage(office.by(me), inspectorWith(), id, 'signature', { bytes }))).toMatchObject({
      code: 'sheet.texts-first',
    })
    // What a sender's packing brings is accepted on paper, which the sender keeps.
    const sent = await begun()
    expect(await keepForLater(office.by(me), sent, 'signature', { bytes })).toMatchObject({ version: 1 })
    await accept(id, ['before'])
    await accept(id, ['before'])
    expect(await office.dossier(id)).toMatchObject({ hasTextsFirst: false })
    await save(id)
  })

  it('are accepted as they were read: the words, the language, the version of the notice, who and when stay', async () => {
    const id = await complete()
    expect(await problemOf(handIn(id, await read(id, ['declaration'])))).toMatchObject({
      code: 'sheet.texts-open',
      parameters: { titles: 'What becomes of your data' },
    })
    office.pass(1)
    await handIn(id, await read(id, ['data-use', 'declaration'], 'fr'))
    const { texts, accepted } = await readTexts(office.as('auditor'), id, 'fr')
    expect(accepted.map(one => [one.id, one.title, one.language, one.by])).toEqual([
      ['before', 'Before you begin', 'en', 'Aldis Berrow'],
      ['data-use', 'Vos données', 'fr', 'Aldis Berrow'],
      // What has no translation is read as it was written.
      ['declaration', '', 'en', 'Aldis Berrow'],
    ])
    expect(accepted.find(one => one.id === 'data-use')?.text).toBe('Elles sont gardées.')
    expect(accepted.find(one => one.id === 'before')?.text).toBe(`Read ${office.notice.title}.\n\nThen write.`)
    for (const one of accepted) expect(one.sha256).toBe(createHash('sha256').update(one.text).digest('hex'))
    expect(texts.map(one => [one.id, one.isAccepted, one.isChanged])).toEqual([['before', true, false], ['data-use', true, false], [
      'declaration',
      false,
      false,
    ]])
    // Candidates are not told who of the office it was.
    expect((await readTexts(office.by(me), id, null)).accepted.every(one => one.by === '')).toBe(true)
    const { text } = printed((await formPdf(office.by(me), id)).pdf)
    expect(text).toContain('Accepted: Vos données, as version 1 of the notice has it')
  })

  it('are read anew once they have changed; what nobody has seen is not accepted', async () => {
    const [id, untouched] = [await complete(), await begun()]
    const old = await read(id, ['data-use', 'declaration'])
    const { notice } = await currentNotice(office.db, office.cycle)
    const again = { ...withoutCentres(notice), declaration: 'All of it is true.', terms: [{ ...rules[0], text: 'Read again.' }, rules[1]] }
    await putNotice(office.as(), again)
    expect(await problemOf(handIn(id, old))).toMatchObject({ code: 'sheet.text-changed', parameters: { title: 'declaration' } })
    expect((await office.dossier(id)).hasTextsFirst).toBe(true)
    expect((await readTexts(office.by(me), id, null)).texts.find(one => one.id === 'before')).toMatchObject({
      isFirst: true,
      isChanged: true,
    })
    expect(await problemOf(handIn(id, await read(id, ['data-use', 'declaration'])))).toMatchObject({ code: 'sheet.texts-open' })
    await accept(id, ['before'])
    await handIn(id, await read(id, ['data-use', 'declaration']))
    // Handed in, it stays with what was accepted.
    expect((await office.dossier(id)).hasTextsFirst).toBe(false)
    expect(await problemOf(accept(id, ['before']))).toMatchObject({ code: 'act.form-frozen' })
    expect(await problemOf(office.act(untouched, 'accept-texts', { texts: [{ id: 'before', sha256: 'a'.repeat(64) }] }))).toMatchObject({
      code: 'sheet.text-changed',
      parameters: { title: 'Before you begin' },
    })
    const rows = await office.db.select().from(acceptedText).where(eq(acceptedText.applicationId, id))
    expect(rows.filter(one => one.text === 'before').map(one => one.noticeVersion).sort()).toEqual([1, 2])
    // A wording stands once, however many have accepted it.
    expect(await office.db.select().from(textWording).where(eq(textWording.text, 'It is kept.'))).toHaveLength(1)
  })

  it('are signed by the name or the initials of the form where the notice says so; who keeps the paper ticks', async () => {
    const signing = await openOffice({ terms: [{ ...rules[1], signed: 'initialled' }], declarationSigned: 'signed' })
    const candidate = await signing.candidate()
    const by = signing.by(candidate)
    const [id, onPaper] = [await signing.begin(candidate), await signing.begin(await signing.candidate())]
    for (const one of [id, onPaper]) {
      await saveAnswers(signing.as(), one, { revision: 0, changes: sampleAnswers }, { reason: 'Read off the paper' })
      await signing.addFiles(one)
    }
    const { texts } = await readTexts(by, id, null)
    expect(texts.map(one => [one.id, one.signed])).toEqual([['data-use', 'initialled'], ['declaration', 'signed']])
    const hand = (initials?: string, signature?: string, caller = by, form = id) =>
      submitApplication(caller, form, {
        revision: 1,
        declared: true,
        texts: texts.map(({ id: text, sha256 }) => {
          const typed = text === 'declaration' ? signature : initials
          return { id: text, sha256, ...typed === undefined ? {} : { signature: typed } }
        }),
      })
    const name = String(sampleAnswers.certificateName)
    const letters = name.split(' ').map(word => word[0]).join('. ').toLowerCase()
    expect(await problemOf(hand(letters))).toMatchObject({
      code: 'sheet.signature',
      parameters: { title: 'declaration', name, typed: 'none' },
    })
    expect(await problemOf(hand('X', name))).toMatchObject({ code: 'sheet.signature', parameters: { signed: 'initialled', typed: 'X' } })
    expect(await problemOf(hand(letters, 'Somebody Else'))).toMatchObject({
      code: 'sheet.signature',
      parameters: { typed: 'Somebody Else' },
    })
    // Without naming the declaration's text nobody gets by its signature either.
    expect(await problemOf(submitApplication(by, id, { revision: 1, declared: true, texts: [] }))).toMatchObject({
      code: 'sheet.texts-open',
    })
    await hand(letters, `  ${name.toUpperCase()} `)
    await hand(undefined, undefined, signing.as(), onPaper)
    const signed = async (form: string) =>
      (await signing.db.select().from(acceptedText).where(eq(acceptedText.applicationId, form))).map(one => one.signed).sort()
    expect(await signed(id)).toEqual(['initialled', 'signed'])
    expect(await signed(onPaper)).toEqual(['ticked', 'ticked'])
    await signing.close()
  })
})
