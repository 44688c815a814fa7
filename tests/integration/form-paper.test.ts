import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { inspectorWith } from '../../pictures/inspect'
import { formPdf } from '../../server/services/applications/form-paper'
import { saveAnswers } from '../../server/services/applications/answers'
import { addImage } from '../../server/services/images/store'
import { openOffice, type Office } from '../support/office'
import { printed } from '../support/printed'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

describe('an application on paper', () => {
  it('says what is answered, what is due and what was declared, the same bytes while nothing changes, and only to whom it concerns', async () => {
    const me = await office.candidate('Tavirel')
    const id = await office.complete(me)
    for (const kind of ['photograph', 'signature', 'identity-proof']) {
      await addImage(office.by(me), inspectorWith(), id, kind, { bytes: await drawPortrait(new Random(4), 'none') })
    }
    const draft = printed((await formPdf(office.by(me), id)).pdf)
    for (
      const wanted of ['Not handed in: it counts only if', 'Tavirel Osk-Anundé', 'Date of birth', 'Highest qualification',
        'Not declared yet.', 'page 1 of']
    ) expect(draft.text).toContain(wanted)
    expect(draft.text).not.toContain('Degree of the disability')
    await office.act(id, 'submit', { revision: 1, declared: true })
    const [one, again] = [await formPdf(office.by(me), id), await formPdf(office.by(me), id)]
    expect(one.pdf.equals(again.pdf)).toBe(true)
    const { number } = await office.dossier(id)
    expect([one.name, printed(one.pdf).pages]).toEqual([`form-${number}.pdf`, 2])
    for (const wanted of [`Application ${number}`, 'Still to pay IMK 790.00, at the latest', 'Examination fee', 'JPEG', 'Declared']) {
      expect(printed(one.pdf).text).toContain(wanted)
    }
    // Accounts see no photograph.
    expect((await formPdf(office.as('accounts'), id)).pdf.length).toBeLessThan(one.pdf.length * 0.6)
    expect(await problemOf(formPdf(office.by(await office.candidate('Stranger')), id))).toMatchObject({ code: 'access.relation' })
  })

  it('flows over as many pages as it takes, and tears nothing', async () => {
    const id = await office.complete()
    const rows = Array.from(
      { length: 15 },
      (_, i) => ({
        employer: `Harbour number ${i} with a name that goes on and on`,
        from: `20${String(i + 5).padStart(2, '0')}-01-01`,
        to: `20${String(i + 5).padStart(2, '0')}-11-30`,
      }),
    )
    await saveAnswers(office.as(), id, { revision: 1, changes: { worked: 'yes', periods: rows, address: 'x'.repeat(119) } })
    const { text, pages } = printed((await formPdf(office.as('accounts'), id)).pdf)
    expect(pages).toBeGreaterThanOrEqual(2)
    for (const row of rows) expect(text).toContain(row.employer)
    expect(text).toContain(`page ${pages} of ${pages}`)
  })
})
