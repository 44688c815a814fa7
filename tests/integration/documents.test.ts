import sharp from 'sharp'
import { createHash, randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { drawCertificate, scanPage, type ScanFault } from '../../demo/documents'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { assemble } from '../../documents/assemble'
import { inspectorWith, LookEnded, LookWaits } from '../../pictures/inspect'
import { drawSignature } from '../../demo/signatures'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { saveAnswers } from '../../server/services/applications/answers'
import { addImage, keepOriginal, measureKept, measureWaiting } from '../../server/services/images/store'
import { displayImage, imageVersions, readImage } from '../../server/services/images/views'
import { readFile } from '../../server/services/files/bytes'
import { lookalikesOf } from '../../server/services/images/likeness'
import { readCheckRecords, readCheckValues } from '../../server/services/scrutiny/checks'
import type { ImageView } from '../../shared/applications'
import { oddPdf } from '../support/odd-files'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

// Reading pages is real work, and machines are slow at times.
vi.setConfig({ testTimeout: 120_000 })

const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }
let certificate: Buffer
let office: Office
beforeAll(async () => {
  certificate = await drawCertificate(new Random(1), 'Category certificate', holder)
  office = await openOffice()
})
afterAll(() => office.close())

const add = (id: string, slot: string, bytes: Uint8Array): Promise<ImageView> => addImage(office.as(), inspectorWith(), id, slot, { bytes })
const picture = (fault: ScanFault, seed = 3) => scanPage(new Random(seed), certificate, fault, 120)
const twoPages = async () => Buffer.from(await assemble([{ pdf: certificate, page: 0, turn: 0 }, { jpeg: await picture('none') }]))

describe('a document at the office', () => {
  it('is kept as it was sent, with a copy of each page that carries nothing of the file', async () => {
    const id = await office.draft()
    const bytes = await twoPages()
    const view = await add(id, 'identity-proof', bytes)
    expect(view).toMatchObject({ kind: 'identity-proof', version: 1, format: 'pdf', bytes: bytes.length, measured: true, originals: 0 })
    expect(view.pages).toHaveLength(2)
    expect((await office.dossier(id)).files['identity-proof']).toEqual(view)
    for (const [i, size] of view.pages.entries()) {
      const { format, width, height } = await sharp(await displayImage(office.as(), view.id, i + 1)).metadata()
      expect({ format, width, height }).toEqual({ format: 'jpeg', ...size })
    }
    await expect(displayImage(office.as(), view.id, 3)).rejects.toThrow('no such image or page')
    await expect(displayImage(office.as(), view.id, 0)).rejects.toThrow('no such image or page')
    // Documents of one kind look alike by nature: none is held against another.
    expect(await lookalikesOf(office.as(), id)).toEqual([])
  })

  it('sent again makes a version, the same bytes none, and what was there stays to be compared', async () => {
    const id = await office.draft()
    const first = await add(id, 'identity-proof', await picture('askew'))
    expect((await add(id, 'identity-proof', await picture('askew'))).id).toBe(first.id)
    const second = await add(id, 'identity-proof', await picture('none'))
    expect(second.version).toBe(2)
    const versions = await imageVersions(office.as(), id, 'identity-proof')
    expect(versions.map(one => [one.version, one.findings.find(f => f.code === 'document.skew')?.verdict])).toEqual([[2, 'pass'], [1,
      'fail']])
  })

  it('is read when other bytes stand before its head, and searched for programs all the same', async () => {
    const id = await office.draft()
    const before = Buffer.from('X-Sent-By: a scanner with a mail program\r\n\r\n')
    const view = await add(id, 'identity-proof', Buffer.concat([before, await twoPages()]))
    expect(view).toMatchObject({ format: 'pdf', measured: true })
    expect(view.pages).toHaveLength(2)
    await expect(add(id, 'identity-proof', Buffer.concat([before, await oddPdf('script')]))).rejects.toThrow('carries a program')
    await expect(add(id, 'identity-proof', Buffer.concat([Buffer.alloc(1100, 32), await twoPages()]))).rejects.toThrow()
  })

  it.each<[string, 'secret' | 'script' | 'no pages' | 'not a PDF inside', string]>([
    ['that needs a password', 'secret', 'opens only with a password'],
    ['with a script', 'script', 'carries a program'],
    ['without pages', 'no pages', 'no pages'],
    ['that is none inside', 'not a PDF inside', 'cannot be read'],
  ])('%s is refused in words, never counts, and its number is not given twice', async (_, kind, words) => {
    const id = await office.draft()
    await expect(add(id, 'identity-proof', await oddPdf(kind))).rejects.toThrow(words)
    expect((await office.dossier(id)).files['identity-proof']).toBeUndefined()
    expect((await office.dossier(id)).history[0]).toMatchObject({ act: 'refuse-file', after: { slot: 'identity-proof', version: 1 } })
    expect((await add(id, 'identity-proof', await picture('none'))).version).toBe(2)
  })

  it('is refused where a picture is wanted, and so is what the notice does not ask for', async () => {
    const id = await office.draft()
    await expect(add(id, 'photograph', certificate)).rejects.toThrow('a PDF, whatever its name says')
    await expect(add(id, 'tax-return', certificate)).rejects.toThrow('asks for nothing called "tax-return"')
    expect((await office.dossier(id)).files).toEqual({})
  })

  it('whose reading kills a process is read by another, and by none for ever', async () => {
    const id = await office.draft()
    const dying = () => Promise.reject(new Error('gone'))
    const kept = await addImage(office.as(), dying, id, 'identity-proof', { bytes: certificate })
    expect(kept).toMatchObject({ measured: false, format: 'pdf', pages: [] })
    for (let attempt = 0; attempt < 3; attempt += 1) await expect(measureKept(office.product, dying, kept.id)).rejects.toThrow('gone')
    const left = await measureKept(office.product, dying, kept.id)
    expect(left.findings).toMatchObject([{ code: 'document.unmeasured', about: 'identity-proof', verdict: 'unsure' }])
  })

  it('that ends its look twice is left to people at once; a look that did not begin is none', async () => {
    const id = await office.draft()
    const waits = () => Promise.reject(new LookWaits())
    const kept = await addImage(office.as(), waits, id, 'identity-proof', { bytes: certificate })
    for (let attempt = 0; attempt < 6; attempt += 1) {
      await expect(measureKept(office.product, waits, kept.id)).rejects.toBeInstanceOf(LookWaits)
    }
    const ended = () => Promise.reject(new LookEnded('computed too long'))
    // Another file that waits is measured before the one that ended a look.
    await expect(measureKept(office.product, ended, kept.id)).rejects.toThrow('too long')
    const other = await addImage(office.as(), waits, await office.draft(), 'identity-proof', { bytes: certificate })
    office.pass(1)
    await measureWaiting(office.product, inspectorWith(), 1)
    expect([(await readImage(office.as(), other.id)).measured, (await readImage(office.as(), kept.id)).measured]).toEqual([true, false])
    await measureWaiting(office.product, () => Promise.reject(new LookEnded('again')))
    expect((await readImage(office.as(), kept.id)).findings).toMatchObject([{ code: 'document.unmeasured', parameters: { attempts: 2 } }])
    office.now = testNow
  })

  it('made of several files keeps each of them once', async () => {
    const id = await office.draft()
    const parts = [await picture('none', 5), await picture('none', 6), certificate]
    const made = await assemble([{ jpeg: parts[0] ?? new Uint8Array() }, { jpeg: parts[1] ?? new Uint8Array() }, {
      pdf: certificate,
      page: 0,
      turn: 0,
    }])
    const view = await addImage(office.as(), inspectorWith(), id, 'identity-proof', {
      bytes: made,
      edits: [{ kind: 'put together', pages: 3, files: 3 }],
    })
    for (const part of [...parts, ...parts]) await keepOriginal(office.as(), view.id, part)
    const [now] = await imageVersions(office.as(), id, 'identity-proof')
    expect(now).toMatchObject({ originals: 3, edits: [{ kind: 'put together', pages: 3, files: 3 }] })
    await expect(keepOriginal(office.as(), view.id, Buffer.from('hello'))).rejects.toThrow('a text, not a picture')
    const whole = await add(await office.draft(), 'identity-proof', certificate)
    await expect(keepOriginal(office.as(), whole.id, certificate)).rejects.toThrow('its own original')
    expect((await readFile(office.db, createHash('sha256').update(certificate).digest('hex'))).equals(certificate)).toBe(true)
  })
})

describe('what an application needs of documents', () => {
  it('is said before it is submitted, follows the claims, and what may follow does not hold it up', async () => {
    const id = await office.draft({ category: 'fisher-families' })
    await office.addPicture(id, 'photograph', await drawPortrait(new Random(2), 'none'))
    const submit = async () => office.act(id, 'submit', { revision: (await office.dossier(id)).revision, declared: true })
    const open = async () => (await office.dossier(id)).matters.map(matter => `${matter.kind} ${matter.about}`.trim())
    expect(await open()).toEqual(['file-missing signature', 'file-missing identity-proof', 'file-missing category-certificate',
      'submission', 'payer-due fisheries-guild'])
    await expect(submit()).rejects.toThrow('Missing: Signature and Identity proof and Category certificate')
    await office.addPicture(id, 'signature', await drawSignature(new Random(2), 'none'))
    await add(id, 'identity-proof', await picture('none'))
    await expect(submit()).rejects.toThrow('Missing: Category certificate')
    // The claim taken back, its proof is wanted no more.
    await saveAnswers(office.as(), id, { revision: 1, changes: { category: 'general' } })
    expect(await open()).toEqual(['submission', 'fee-due'])
    await submit()
    expect((await office.dossier(id)).tracks.form).toBe('submitted')
  })

  it('is frozen with the answers, and open again after a return that names it', async () => {
    const id = await office.paid()
    await expect(add(id, 'identity-proof', await picture('none', 9))).rejects.toThrow('images and documents are frozen')
    await office.act(id, 'return', { reasons: [{ item: 'identity-proof', reason: 'The number cannot be read.' }] }, office.as('scrutineer'))
    expect((await add(id, 'identity-proof', await picture('none', 9))).version).toBe(2)
  })

  it('that failed its checks is accepted only with a written reason; what nobody asks for counts for nothing', async () => {
    const faulty = await office.draft()
    await office.addPictures(faulty)
    await add(faulty, 'identity-proof', await picture('askew'))
    await add(faulty, 'category-certificate', await picture('askew', 4))
    await office.act(faulty, 'submit', { revision: 1, declared: true })
    const { order } = await openPayment(office.as(), office.gateway, faulty)
    for (const event of await office.gateway.act(order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
    await expect(office.act(faulty, 'accept', { reasons: [] }, office.as('scrutineer'))).rejects
      .toThrow('1 finding failed (Leaning of the lines)')
    await office.act(
      faulty,
      'accept',
      { reasons: [{ item: 'identity-proof', reason: 'Askew, but every word can be read.' }] },
      office.as('scrutineer'),
    )
    expect((await office.dossier(faulty)).tracks.scrutiny).toBe('accepted')
    // People decided against the check: that is counted under the document's own name.
    const { checks } = await readCheckRecords(office.as(), office.cycle)
    const skew = checks.filter(check => check.code === 'document.skew').map(check => [check.id, check.accepted.fail])
    // What lies there for a claim that is not made was not decided on.
    expect(skew).toEqual([['identity-proof/document.skew', 1]])
    const values = await readCheckValues(office.as(), office.cycle, 'identity-proof/document.skew')
    expect(values.bound).toEqual({ max: 4 })
    expect(values.accepted.reduce((a, b) => a + b, 0)).toBe(1)
    await expect(readCheckValues(office.as(), office.cycle, `identity-proof/${randomUUID()}`)).rejects
      .toThrow('Nothing that was decided on')
  })
})
