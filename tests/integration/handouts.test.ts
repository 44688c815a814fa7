import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { auditEvent } from '../../server/database/schema'
import { examinationPage } from '../../server/public/examinations'
import { addHandout, listHandouts, readHandout, takeOutHandout } from '../../server/services/notice/handouts'
import { readExamination } from '../../server/services/notice/examinations'
import { english } from '../../core/words/en'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

const pdf = (text: string) => Buffer.from(`%PDF-1.7\n% ${text}\n%%EOF`)
let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
const add = (title: string, bytes: Buffer) => addHandout(office.as(), office.cycle, title, bytes)

describe('files to read', () => {
  it('are read by anybody in their newest version; earlier ones stay for the office', async () => {
    const first = await add('Syllabus', pdf('one'))
    const second = await add('Syllabus', pdf('two'))
    expect([first.version, second.version]).toEqual([1, 2])
    expect((await listHandouts(office.nobody, office.cycle)).map(one => [one.id, one.version, one.by])).toEqual([[second.id, 2, '']])
    expect(await readHandout(office.nobody, office.cycle, second.id)).toEqual({ name: `${office.cycle}-syllabus-2.pdf`, pdf: pdf('two') })
    expect(await problemOf(readHandout(office.nobody, office.cycle, first.id))).toMatchObject({ code: 'handout.unknown' })
    expect((await readHandout(office.as('auditor'), office.cycle, first.id)).pdf).toEqual(pdf('one'))
    const page = examinationPage(english, await readExamination(office.nobody, office.cycle))
    expect(JSON.stringify(page.body, (key, value: unknown) => key.startsWith('_') ? undefined : value)).toContain(`/handouts/${second.id}`)
  })

  it('are PDFs, never the same twice, and gone for everybody once they are taken away', async () => {
    expect(await problemOf(add('Brochure', Buffer.from('PK a zip')))).toMatchObject({ code: 'handout.kind', kind: 'bad-input' })
    const { id } = await add('Brochure', pdf('three'))
    expect(await problemOf(add('Brochure', pdf('three')))).toMatchObject({ code: 'handout.same' })
    expect(await problemOf(takeOutHandout(office.as('scrutineer'), office.cycle, id))).toMatchObject({ code: 'access.role' })
    await takeOutHandout(office.as(), office.cycle, id)
    await takeOutHandout(office.as(), office.cycle, id)
    expect(await problemOf(readHandout(office.nobody, office.cycle, id))).toMatchObject({ code: 'handout.unknown' })
    expect((await office.db.select().from(auditEvent).where(eq(auditEvent.act, 'take-out-handout'))).length).toBe(1)
    // Laid out again it is the next version, and what was seen before is not.
    expect((await add('Brochure', pdf('three'))).version).toBe(2)
  })
})
