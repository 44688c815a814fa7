import sharp from 'sharp'
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sql } from 'drizzle-orm'
import { faceBits } from '../../core/imaging/face-likeness'
import { drawPortrait, portraitFaults } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { openFaceDetector } from '../../pictures/faces'
import { inspectorWith, type Inspector } from '../../pictures/inspect'
import { differingVerdicts } from '../../server/services/images/agreement'
import { lookalikesOf } from '../../server/services/images/likeness'
import { addImage, keepOriginal, measureKept } from '../../server/services/images/store'
import { displayImage, readImage } from '../../server/services/images/views'
import { openOffice, type Office } from '../support/office'

describe('keeping an image', () => {
  let office: Office
  beforeAll(async () => {
    office = await openOffice()
  })
  afterAll(() => office.close())

  it('makes a new version of new bytes and none of the same', async () => {
    const id = await office.draft()
    const portrait = await drawPortrait(new Random(1), 'none')
    expect((await office.addPicture(id, 'photograph', portrait)).version).toBe(1)
    expect((await office.addPicture(id, 'photograph', portrait)).version).toBe(1)
    const second = await office.addPicture(id, 'photograph', await drawPortrait(new Random(2), 'dark'))
    expect(second.version).toBe(2)
    expect((await sharp(await displayImage(office.as(), second.id)).metadata()).format).toBe('jpeg')
    await expect(office.addPicture(id, 'photograph', Buffer.from('no picture'))).rejects.toThrow('not a picture')
    expect((await office.dossier(id)).files.photograph?.version).toBe(2)
  })

  it('keeps a picture first, so that what a dying process had is measured by another', async () => {
    const id = await office.draft()
    const dying: Inspector = () => Promise.reject(new Error('the thread of the pictures ended with 1'))
    const kept = await addImage(office.as(), dying, id, 'photograph', { bytes: await drawPortrait(new Random(3), 'none') })
    expect(kept).toMatchObject({ version: 1, measured: false, findings: [] })
    await office.addPicture(id, 'signature', await drawSignature(new Random(3), 'none'))
    await office.addPapers(id)
    const { revision } = await office.dossier(id)
    await expect(office.act(id, 'submit', { revision, declared: true })).rejects.toThrow('being measured')
    const measured = await measureKept(office.product, inspectorWith(), kept.id)
    expect(measured.measured).toBe(true)
    expect(measured.findings.length).toBeGreaterThan(8)
    // A second look, by the queue, finds it done.
    expect(await measureKept(office.product, dying, kept.id)).toEqual(measured)
    await office.act(id, 'submit', { revision, declared: true })
  })

  it('is measured once, however many processes look at the same time', async () => {
    const id = await office.draft()
    const kept = await addImage(office.as(), () => Promise.reject(new Error('gone')), id, 'photograph', {
      bytes: await drawPortrait(new Random(4), 'none'),
    })
    const views = await Promise.all(Array.from({ length: 3 }, () => measureKept(office.product, inspectorWith(), kept.id)))
    expect(new Set(views.map(view => JSON.stringify(view))).size).toBe(1)
    const { history } = await office.dossier(id)
    expect(history.filter(h => h.act === 'measure-file')).toHaveLength(1)
  })

  it('leaves to people what fails over and over, and says so', async () => {
    const id = await office.draft()
    const failing: Inspector = () => Promise.reject(new Error('gone'))
    const kept = await addImage(office.as(), failing, id, 'photograph', { bytes: await drawPortrait(new Random(5), 'none') })
    for (let i = 0; i < 3; i += 1) await expect(measureKept(office.product, failing, kept.id)).rejects.toThrow('gone')
    expect((await measureKept(office.product, failing, kept.id)).findings).toMatchObject([{
      code: 'photograph.unmeasured',
      verdict: 'unsure',
    }])
  })

  it('refuses one that is damaged inside, in words, and the one before stays', async () => {
    const id = await office.draft()
    const good = await drawPortrait(new Random(6), 'none')
    await office.addPicture(id, 'photograph', good)
    const broken = Buffer.from(good)
    broken.fill(0x5a, Math.floor(broken.length * 0.5), Math.floor(broken.length * 0.5) + 400)
    broken.set([0xff, 0xc0, 0x00, 0x04, 0, 0], Math.floor(broken.length * 0.6))
    await expect(office.addPicture(id, 'photograph', broken)).rejects.toThrow('damaged inside')
    expect((await office.dossier(id)).files.photograph).toMatchObject({ version: 1, measured: true })
    expect((await office.addPicture(id, 'photograph', await drawPortrait(new Random(7), 'none'))).version).toBe(3)
  })

  it('keeps what was done to a picture, and the one it was made from', async () => {
    const id = await office.draft()
    const original = await drawPortrait(new Random(8), 'turned')
    const view = await addImage(office.as(), inspectorWith(), id, 'photograph', {
      bytes: await drawPortrait(new Random(8), 'none'),
      edits: [{ kind: 'turned', degrees: 90 }],
    })
    expect(view).toMatchObject({ edits: [{ kind: 'turned', degrees: 90 }], originals: 0 })
    await expect(keepOriginal(office.as(), view.id, Buffer.from('nothing'))).rejects.toThrow('a text')
    await keepOriginal(office.as(), view.id, original)
    await keepOriginal(office.as(), view.id, original)
    expect((await readImage(office.as(), view.id)).originals).toBe(1)
    const plain = await office.addPicture(id, 'photograph', original)
    await expect(keepOriginal(office.as(), plain.id, original)).rejects.toThrow('its own original')
    await expect(keepOriginal(office.as(), randomUUID(), original)).rejects.toThrow('no such image')
  })

  it('finds each fault that the demo draws, and none in a good picture', async () => {
    const inspect = inspectorWith(await openFaceDetector())
    const id = await office.draft()
    const wanted: Record<typeof portraitFaults[number], string | null> = {
      'none': null,
      'blurred': 'blur',
      'dark': 'exposure',
      'uneven background': 'backgroundEvenness',
      'turned': 'upright',
      'upside down': 'upright',
      'wrong aspect': 'aspect',
      'over the limit': 'bytes',
      'too small': 'width',
      'coloured background': 'background',
      'light from one side': 'sideLight',
      'grey': 'saturation',
      'tilted': 'roll',
      'two faces': 'faces',
      'small face': 'headHeight',
      'off centre': 'offCentre',
      'crown cut': 'crownRoom',
      'sunglasses': 'eyesUncovered',
      'eyes closed': 'eyesOpen',
      'red eyes': 'redEyes',
      'no portrait': 'faces',
      'crushed': 'blockiness',
      'enlarged': 'blur',
      'shadow on the wall': 'backgroundShadow',
    }
    for (const fault of portraitFaults) {
      for (let seed = 1; seed <= 2; seed += 1) {
        const { findings } = await addImage(office.as(), inspect, id, 'photograph', {
          bytes: await drawPortrait(new Random(seed * 31), fault),
        })
        const held = findings.filter(f => f.verdict !== 'pass').map(f => f.code.split('.')[1])
        if (wanted[fault] === null) expect(held).toEqual([])
        else expect(held, `${fault}, seed ${seed}`).toContain(wanted[fault])
      }
    }
  })

  it('is found again in another application, by its pixels and by what it shows, and never in its own', async () => {
    const [first, second, third, fourth] = [await office.draft(), await office.draft(), await office.draft(), await office.draft()]
    const bytes = await drawPortrait(new Random(9001), 'none')
    await office.addPicture(first, 'photograph', bytes)
    await office.addPicture(second, 'photograph', await sharp(bytes).png().toBuffer())
    await office.addPicture(
      third,
      'photograph',
      await sharp(bytes).modulate({ brightness: 1.08 }).resize({ width: 360 }).jpeg({ quality: 70 }).toBuffer(),
    )
    await office.addPicture(fourth, 'photograph', await drawPortrait(new Random(9002), 'two faces'))
    const numbers = (id: string) => lookalikesOf(office.as(), id)
    const { number: secondNumber } = await office.dossier(second)
    const { number: thirdNumber } = await office.dossier(third)
    expect(await numbers(first)).toMatchObject([{ number: secondNumber, by: 'pixels', differing: 0, kind: 'photograph' }, {
      number: thirdNumber,
      by: 'picture',
    }])
    expect(await numbers(fourth)).toEqual([])
    // The newest version counts for whose dossier it is.
    await office.addPicture(first, 'photograph', await drawPortrait(new Random(9002), 'no portrait'))
    expect(await numbers(first)).toEqual([])
    // But what somebody else once sent is found all the same.
    expect((await numbers(second)).map(one => one.version)).toContain(1)
  })

  it('has its face compared only where the notice says so, and leaves nothing of it behind when it goes', async () => {
    const signs = (from = 0, to = 0) =>
      Array.from({ length: faceBits }, (_, i) => (i * 7919 % 13 < 6) !== (i >= from && i < to) ? '1' : '0').join('')
    const seeing = (face: string | null): Inspector => async (bytes, slot) => {
      const found = await inspectorWith()(bytes, slot)
      return { ...found, likeness: found.likeness && { ...found.likeness, face } }
    }
    const [first, alike, other, unasked] = [await office.draft(), await office.draft(), await office.draft(), await office.draft()]
    const add = async (id: string, seed: number, face: string | null) =>
      addImage(office.as(), seeing(face), id, 'photograph', { bytes: await drawPortrait(new Random(seed), 'none') })
    await add(first, 7101, signs())
    const { id: imageId } = await add(alike, 7102, signs(0, 40))
    await add(other, 7103, signs(200, 576))
    await add(unasked, 7104, null)
    const { number } = await office.dossier(alike)
    const faces = async (id: string) => (await lookalikesOf(office.as(), id)).filter(one => one.by === 'face')
    expect(await faces(first)).toMatchObject([{ number, differing: 40 }])
    expect(await faces(other)).toEqual([])
    expect(await faces(unasked)).toEqual([])
    await office.in('owner').execute(sql`delete from image where id = ${imageId}`)
    const { rows } = await office.db.execute(sql`select 1 from face_likeness where image_id = ${imageId}`)
    expect(rows).toEqual([])
  })

  it('tells where browser and office disagree, and only there', () => {
    const finding = (code: string, verdict: 'pass' | 'fail') => ({
      code,
      about: 'photograph',
      verdict,
      value: 1,
      unit: 'px' as const,
      bound: null,
      parameters: {},
    })
    expect(differingVerdicts([finding('a', 'pass'), finding('b', 'fail'), finding('c', 'pass')], { a: 'pass', b: 'pass' })).toEqual([{
      code: 'b',
      browser: 'pass',
      office: 'fail',
    }])
  })
})
