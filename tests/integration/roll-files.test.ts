import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'csv-parse/sync'
import { stringify } from 'csv-stringify/sync'
import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ZipFile } from 'yazl'
import { rollFields } from '../../core/roll/columns'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { inspectorWith } from '../../pictures/inspect'
import { application, auditEvent, image, rollEntry } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { measureWaiting } from '../../server/services/images/store'
import { draftRows, handInRoll } from '../../server/services/rolls/hand-in'
import { enterRoll, tryRoll } from '../../server/services/rolls/pass'
import { readRoll, setRoll, takeRoll } from '../../server/services/rolls/rolls'
import { dropFiles, takeFiles } from '../../server/services/rolls/take-files'
import { handInRollWork } from '../../server/services/rolls/work'
import { openOffice, type Office } from '../support/office'
import { sampleAnswers, sampleNotice } from '../support/sample'

let office: Office
let portrait: Buffer
let signature: Buffer
const folder = mkdtempSync(join(tmpdir(), 'lucid-roll-files-'))
beforeAll(async () => {
  office = await openOffice()
  portrait = await drawPortrait(new Random(5), 'none')
  signature = await drawSignature(new Random(6), 'none')
})
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await office.close()
})

const goOn = async () => true
const titles =
  new Map(rollFields(sampleNotice(), { reference: 'Number', file: slot => `File name: ${slot}` }).map(field => [field.id, field.title]))
const asked = Object.keys(sampleAnswers)
/** A roll of people by their numbers; what more there is stands in columns of its own. */
async function rollOf(sender: string, numbers: readonly string[], more: Record<string, readonly string[]> = {}): Promise<string> {
  const rows = numbers.map((number, i) => [number, ...asked.map((id) => {
    const answer = sampleAnswers[id] ?? ''
    return id === 'certificateName' || id === 'identityName'
      ? `Orin Vel ${'abcdefghij'[i] ?? 'k'}`
      : typeof answer === 'string'
      ? answer
      : answer.join('; ')
  }), ...Object.values(more).map(cells => cells[i] ?? '')])
  const bytes = Buffer.from(stringify([['Number', ...asked.map(id => titles.get(id) ?? id), ...Object.keys(more)], ...rows]))
  return (await takeRoll(office.as(), office.cycle, { sender, name: 'roll.csv' }, bytes)).id
}
async function packed(files: Record<string, Buffer>, change: (bytes: Buffer) => Buffer = bytes => bytes): Promise<string> {
  const zip = new ZipFile()
  for (const [name, bytes] of Object.entries(files)) zip.addBuffer(bytes, name)
  zip.end()
  const parts: Buffer[] = []
  for await (const part of zip.outputStream) parts.push(part as Buffer)
  const path = join(folder, randomUUID())
  await writeFile(path, change(Buffer.concat(parts)))
  return path
}
const send = async (id: string, files: Record<string, Buffer>, name = 'school.zip') => takeFiles(office.as(), id, name, await packed(files))
const look = (id: string) => readRoll(office.as(), id, { outcome: 'gaps', after: 0, limit: 500 })
const codes = async (id: string) =>
  Object.fromEntries((await look(id)).files.found.map(({ name, finding }) => [name.replace('school/', ''), finding.code]))
/** What stands in the slots of those whom a sender has sent, by their number. */
async function slots(sender: string): Promise<Record<string, string[]>> {
  const rows = await office.db.select({ key: rollEntry.key, kind: image.kind }).from(rollEntry).innerJoin(
    image,
    eq(image.applicationId, rollEntry.applicationId),
  ).where(and(eq(rollEntry.cycle, office.cycle), eq(rollEntry.sender, sender))).orderBy(image.kind)
  const found: Record<string, string[]> = {}
  for (const { key, kind } of rows) (found[key.replace('number ', '')] ??= []).push(kind)
  return found
}

describe('pictures and papers of a roll', () => {
  it('are tried with it, entered with it once, measured, and named where they belong to nobody', async () => {
    const id = await rollOf('Packing School', ['001', '002', '003'])
    const files = {
      'photos/001.jpg': portrait,
      '001_signature.png': signature,
      '2-photo.jpg': portrait,
      '002 sign.png': signature,
      'photos/009.jpg': portrait,
      '003.jpg': portrait,
      'photo.jpg': portrait,
      '001-photo.jpg': portrait,
      'notes.txt': Buffer.from('notes of the school'),
      '__MACOSX/photos/._001.jpg': Buffer.from('litter'),
      'photos/.DS_Store': Buffer.from('litter'),
    }
    expect((await send(id, files)).files).toMatchObject({
      count: 9,
      odd: 1,
      found: [{ name: 'school/notes.txt', finding: { code: 'roll.file-kind' } }],
    })
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ made: 3, files: 4 })
    expect(await codes(id)).toEqual({
      'notes.txt': 'roll.file-kind',
      'photos/009.jpg': 'roll.file-nobody',
      '003.jpg': 'roll.file-slot',
      'photo.jpg': 'roll.file-nobody',
      'photos/001.jpg': 'roll.file-twice',
    })
    expect((await look(id)).found.map(row => [row.row, row.findings.map(one => one.code)])).toEqual([[3, ['roll.file-missing']]])
    expect(await slots('Packing School')).toEqual({})
    const entered = await enterRoll(office.as(), id, goOn, null)
    expect(entered).toMatchObject({ made: 3, files: 4 })
    const there = { '001': ['photograph', 'signature'], '002': ['photograph', 'signature'] }
    expect(await slots('Packing School')).toEqual(there)
    // What a later process finds waiting it measures; entering once more adds nothing.
    office.now = new Date(office.now.getTime() + 60_000)
    expect(await measureWaiting(office.product, inspectorWith())).toBe(4)
    expect(await office.db.$count(image, eq(image.state, 'measured'))).toBe(4)
    await tryRoll(office.as(), id, goOn)
    expect(await enterRoll(office.as(), id, goOn, null)).toMatchObject({ repeated: 3, files: 4 })
    expect(await slots('Packing School')).toEqual(there)
  })

  it('are known by columns that name them, by the number of the application, and follow with another packing', async () => {
    const id = await rollOf('Naming School', ['S-1', 'S-2'], {
      'Photo file': ['IMG_1001.JPG', 'IMG_1002.jpg'],
      'Signature file': ['IMG_1003', 'lost.png'],
    })
    expect((await look(id)).columns.slice(-2)).toEqual(['file.photograph', 'file.signature'])
    await send(id, { 'IMG_1001.jpg': portrait, 'deep/IMG_1002.jpg': portrait, 'IMG_1003.png': signature })
    await tryRoll(office.as(), id, goOn)
    expect((await look(id)).found.map(row => row.findings.map(one => one.code))).toEqual([['roll.file-named', 'roll.file-missing']])
    await enterRoll(office.as(), id, goOn, null)
    expect(await slots('Naming School')).toEqual({ 'S-1': ['photograph', 'signature'], 'S-2': ['photograph'] })
    const [second] = await office.db.select({ number: application.number }).from(rollEntry).innerJoin(
      application,
      eq(application.id, rollEntry.applicationId),
    ).where(and(eq(rollEntry.sender, 'Naming School'), eq(rollEntry.key, 'number S-2')))
    await dropFiles(office.as(), id)
    await send(id, { [`${second?.number}_signature.png`]: signature })
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ repeated: 2, files: 1 })
    await enterRoll(office.as(), id, goOn, null)
    expect(await slots('Naming School')).toEqual({ 'S-1': ['photograph', 'signature'], 'S-2': ['photograph', 'signature'] })
  })

  it("that two rows could mean are nobody's, those of a refused row wait, and a form that was handed in takes none", async () => {
    const id = await rollOf('Doubt School', ['7', '007', '8', '9'])
    const { columns } = await look(id)
    await send(id, { '007-photo.jpg': portrait, '8-photo.jpg': portrait, '9-photo.jpg': portrait })
    await tryRoll(office.as(), id, goOn)
    expect(await codes(id)).toEqual({ '007-photo.jpg': 'roll.file-several' })
    await enterRoll(office.as(), id, goOn, null)
    expect(await slots('Doubt School')).toEqual({ 8: ['photograph'], 9: ['photograph'] })
    const [eight] = await office.db.select().from(rollEntry).where(and(eq(rollEntry.sender, 'Doubt School'), eq(rollEntry.key, 'number 8')))
    await office.in('owner').update(application).set({ form: 'submitted' }).where(eq(application.id, eight?.applicationId ?? ''))
    await setRoll(office.as(), id, { order: null, gaps: 'enter', charset: null, columns })
    await send(id, { '8-signature.png': signature })
    await tryRoll(office.as(), id, goOn)
    await enterRoll(office.as(), id, goOn, null)
    expect((await codes(id))['8-signature.png']).toBe('roll.file-not-taken')
    const refused = await rollOf('Refused School', ['1'], { [titles.get('bornOn') ?? '']: ['31 Feb 2004'] })
    await setRoll(office.as(), refused, {
      order: null,
      gaps: 'enter',
      charset: null,
      columns: [...(await look(refused)).columns.map(field => field === 'bornOn' ? null : field).slice(0, -1), 'bornOn'],
    })
    await send(refused, { '1-photo.jpg': portrait })
    expect(await tryRoll(office.as(), refused, goOn)).toMatchObject({ refused: 1 })
    expect(await codes(refused)).toEqual({ '1-photo.jpg': 'roll.file-row' })
  })

  it('in a packing that is cut, locked, empty or no packing are refused in words, and what was read before stays', async () => {
    const id = await rollOf('Broken School', ['1'])
    await expect(takeFiles(
      office.as(),
      id,
      'x.zip',
      await packed({ '1-photo.jpg': portrait }, bytes => bytes.subarray(0, bytes.length / 2)),
    )).rejects.toMatchObject({ problem: { code: 'table.packed' } })
    await expect(takeFiles(office.as(), id, 'x.zip', await packed({}))).rejects.toMatchObject({ problem: { code: 'roll.no-files' } })
    const path = join(folder, 'none')
    await writeFile(path, 'no packing at all')
    await expect(takeFiles(office.as(), id, 'x.zip', path)).rejects.toMatchObject({ problem: { code: 'table.packed' } })
    // The first bit of the general purpose flags says that a file is encrypted (PKWARE APPNOTE 4.4.4).
    const locked = await packed({ '1-photo.jpg': portrait }, (bytes) => {
      const copy = Buffer.from(bytes)
      const central = copy.indexOf(Buffer.from([0x50, 0x4B, 1, 2]))
      copy.writeUInt16LE(copy.readUInt16LE(central + 8) | 1, central + 8)
      return copy
    })
    expect((await takeFiles(office.as(), id, 'school.zip', locked)).files.found.map(one => one.finding.code)).toEqual(['roll.file-locked'])
    await expect(takeFiles(office.as('scrutineer'), id, 'x.zip', locked)).rejects.toMatchObject({ problem: { kind: 'not-allowed' } })
  })
})

describe('handing in what a roll has brought', () => {
  const collected = async (pages: AsyncGenerator<string>) => {
    let text = ''
    for await (const page of pages) text += page
    return text
  }
  const byKey = async (sender: string) =>
    new Map((await office.db.select({ key: rollEntry.key, row: application }).from(rollEntry).innerJoin(
      application,
      eq(application.id, rollEntry.applicationId),
    ).where(eq(rollEntry.sender, sender))).map(({ key, row }) => [key.replace('number ', ''), row]))

  it('hands in what is complete and leaves the rest with what it lacks; again it goes on', async () => {
    const sender = 'Handing School'
    const id = await rollOf(sender, ['1', '2', '3', '4'])
    await tryRoll(office.as(), id, goOn)
    expect(await enterRoll(office.as(), id, goOn, null)).toMatchObject({ made: 4 })
    const people = await byKey(sender)
    const of = (key: string) => people.get(key)?.id ?? ''
    for (const key of ['1', '2', '4']) {
      await office.addPapers(of(key))
      await office.addPictures(of(key))
    }
    // The second lacks an answer; the fourth has an account, whose owner declares.
    await saveAnswers(office.as(), of('2'), { revision: people.get('2')?.revision ?? 0, changes: { bornOn: '' } })
    const owner = await office.candidate('Orin Vel d')
    await office.db.update(application).set({ ownerId: owner.id }).where(eq(application.id, of('4')))
    expect((await look(id)).drafts).toBe(3)
    expect(await handInRoll(office.as(), id, goOn, null)).toMatchObject({ handedIn: 1, answers: 1, files: 1, waiting: 0, otherwise: 0 })
    const after = await byKey(sender)
    expect(['1', '2', '3', '4'].map(key => after.get(key)?.form)).toEqual(['submitted', 'drafting', 'drafting', 'drafting'])
    expect(await office.dossier(of('1'))).toMatchObject({ tracks: { fee: 'due' } })
    const [logged] = await office.db.select().from(auditEvent).where(and(eq(auditEvent.subject, of('1')), eq(auditEvent.act, 'submit')))
    expect(logged).toMatchObject({ actor: office.as().principal.id, reason: 'The declaration is kept by Handing School.' })
    const table = parse(await collected(await draftRows(office.as(), id)), { bom: true, columns: true }) as Record<string, string>[]
    expect(table.map(row => row["Sender's number"])).toEqual(['2', '3'])
    expect(table[0]?.Reasons).toContain('Date of birth')
    await office.addPapers(of('3'))
    await office.addPictures(of('3'))
    expect(await handInRoll(office.as(), id, goOn, null)).toMatchObject({ handedIn: 1, answers: 1, files: 0 })
    expect(await handInRoll(office.as(), id, goOn, null)).toMatchObject({ handedIn: 0, answers: 1 })
  })

  it('stops where it is told to, hands in after the close only with a reason, and for nobody who may not', async () => {
    const sender = 'Late School'
    const id = await rollOf(sender, Array.from({ length: 21 }, (_, i) => String(i + 1)))
    await tryRoll(office.as(), id, goOn)
    await enterRoll(office.as(), id, goOn, null)
    const ids = [...(await byKey(sender)).values()].map(row => row.id)
    for (const one of ids) await office.addFiles(one)
    const work = office.as()
    await expect(handInRoll(work, id, async () => false, null)).rejects.toMatchObject({ problem: { code: 'roll.hand-in-stopped' } })
    expect((await look(id)).drafts).toBe(1)
    const before = office.now
    office.now = new Date(Date.parse(sampleNotice().keyDates.closes) + 1000)
    const open = (reason?: string) =>
      office.db.transaction(async tx =>
        handInRollWork.open?.(tx, await office.as().authorise('rolls.enter'), office.cycle, randomUUID(), { roll: id, reason })
      )
    await expect(open()).rejects.toMatchObject({ problem: { code: 'dates.closed' } })
    await open('The post was late.')
    expect(await handInRoll(office.as(), id, goOn, null)).toMatchObject({ handedIn: 0, otherwise: 1 })
    // The same work goes on: it counts what it has handed in before.
    expect(await handInRoll(work, id, goOn, 'The post was late.')).toMatchObject({ handedIn: 21, otherwise: 0 })
    office.now = before
    await expect(handInRoll(office.as('scrutineer'), id, goOn, null)).rejects.toMatchObject({ problem: { kind: 'not-allowed' } })
  })
})
