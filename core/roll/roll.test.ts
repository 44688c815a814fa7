import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { headingPlace, likenessOf, rollFields, suggestColumns } from './columns'
import { comparedWords, readRollRow, unknownWord, type DateOrder } from './row'

const notice = sampleNotice()
const fields = rollFields(notice, { reference: "Sender's number", file: slot => `File: ${slot}` })
const suggested = (...headings: string[]) => suggestColumns(headings, fields).map(one => one.field)
/** One cell of one field read. */
const read = (field: string, cell: string, order: DateOrder = null) => {
  const row = readRollRow(notice, fields.filter(one => one.id === field).map(one => ({ place: 0, field: one })), 1, [cell], order)
  return { answer: row.answers[field.split('.')[0] ?? ''], codes: row.findings.map(found => found.code) }
}

describe('what a column is', () => {
  it('is suggested from its heading, whatever its writing, and from what people usually write', () => {
    expect(suggested('DATE OF BIRTH', 'mobile no.', 'E-Mail', 'Name', 'Sl. No.', 'PIN code')).toEqual(['bornOn', 'mobile', 'email',
      'certificateName', 'reference', 'postalCode'])
    expect(suggested('Gendre', 'Favourite colour', '')).toEqual(['gender', null, null])
  })

  it('is suggested for one heading only, and every field is found by its own title and id', () => {
    expect(suggested('Name', 'Name', 'Full name').filter(one => one === 'certificateName')).toHaveLength(1)
    expect(suggested(...fields.map(one => one.title))).toEqual(fields.map(one => one.id))
    expect(suggested(...fields.map(one => one.id)).filter((one, i) => one === fields[i]?.id).length).toBe(fields.length)
  })

  it('of one choice among several is that of the first, whatever they are counted by', () => {
    expect(suggested('Name', 'Choice 1', 'Choice 2', 'Choice 3')).toEqual(['certificateName', 'cities', 'cities', 'cities'])
    expect(suggested('First test city', 'Second test city')).toEqual(['cities', 'cities'])
    expect(suggested('Post 1', 'Post 2', 'Name 1', 'Name 2').filter(one => one === 'posts')).toHaveLength(2)
  })

  it('is named by the row that names most, below whatever stands above it', () => {
    const heading = ['Sl. No.', 'Full name', 'DOB', 'Mobile']
    const data = ['1', 'Tala Røn', '15 Jun 2004', '5550100302']
    expect(headingPlace([['Pupils of Ottrevik for the test'], ['Sent by', 'The head', '', '2 December'], heading, data], fields)).toBe(2)
    expect(headingPlace([heading, data], fields)).toBe(0)
    // Where no row names anything the first is taken: somebody says what the columns are.
    expect(headingPlace([['A', 'B'], ['name', 'x'], data], fields)).toBe(0)
    expect(headingPlace([], fields)).toBe(0)
  })

  it('is as alike one way as the other, and wholly to itself', () => {
    // L. R. Dice's coefficient as commonly shown with these two words: 2 · 1 / (4 + 4).
    expect(likenessOf('night', 'nacht')).toBe(0.25)
    fc.assert(fc.property(
      fc.string(),
      fc.string(),
      (a, b) => likenessOf(a, b) === likenessOf(b, a) && likenessOf(a, a) === 1 && likenessOf(a, b) >= 0 && likenessOf(a, b) <= 1,
    ))
  })
})

describe('a cell', () => {
  it('is read as the sheet would be typed', () => {
    expect(read('bornOn', '15 Jun 2004')).toEqual({ answer: '2004-06-15', codes: [] })
    expect(read('category', 'outer ISLES')).toEqual({ answer: 'outer-isles', codes: [] })
    expect(read('posts', 'Pilot cadet; lighthouse-keeper')).toEqual({ answer: ['pilot-cadet', 'lighthouse-keeper'], codes: [] })
    expect(read('cities', 'Skarnholm, Ottrevik | Belmarrow').answer).toEqual(['skarnholm', 'ottrevik', 'belmarrow'])
    expect(read('marksObtained', '412,5').answer).toBe('412.5')
    expect(read('marksTotal', '1,200').answer).toBe('1200')
    expect(read('postalCode', '11042.0').answer).toBe('11042')
    expect(read('subjects.1.subject', 'no such subject').codes).toEqual(['roll.no-option'])
  })

  it('of several columns of choices is one list in their order, without those left blank', () => {
    const cities = fields.filter(one => one.id === 'cities')
    const columns = [0, 1, 2].flatMap(place => cities.map(field => ({ place, field })))
    const row = readRollRow(notice, columns, 3, ['Ottrevik', '', 'Skarnholm; Belmarrow'], null)
    expect([row.answers.cities, row.findings]).toEqual([['ottrevik', 'skarnholm', 'belmarrow'], []])
  })

  it("in a sender's own word is what somebody has said that it means", () => {
    const columns = (id: string) => fields.filter(one => one.id === id).map(one => ({ place: 0, field: one }))
    const said = comparedWords({ gender: { F: 'woman' }, cities: { 'The capital': 'skarnholm', 'None': '' } })
    const cell = (id: string, text: string) => readRollRow(notice, columns(id), 1, [text], null, said)
    expect(cell('gender', 'F').answers.gender).toBe('woman')
    expect(cell('gender', 'M').findings.map(unknownWord)).toEqual([{ field: 'gender', word: 'M' }])
    expect(cell('cities', 'Ottrevik; The Capital; none').answers.cities).toEqual(['ottrevik', 'skarnholm'])
    expect(cell('cities', 'None')).toMatchObject({ answers: { cities: [] }, findings: [] })
    expect(cell('gender', 'constructor').findings.map(unknownWord)).toEqual([{ field: 'gender', word: 'constructor' }])
  })

  it('that could be two days is either once somebody has said what stands first', () => {
    expect(read('bornOn', '03/04/2004').codes).toEqual(['roll.two-dates'])
    expect(read('bornOn', '03/04/2004', 'day').answer).toBe('2004-04-03')
    expect(read('bornOn', '03/04/2004', 'month').answer).toBe('2004-03-04')
    expect(read('bornOn', '25/04/2004', 'month').answer).toBe('2004-04-25')
    fc.assert(fc.property(
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 1950, max: 2010 }),
      (day, month, year) => {
        const two = (n: number) => String(n).padStart(2, '0')
        const typed = `${day}.${month}.${year}`
        expect(read('bornOn', typed, 'day').answer).toBe(`${year}-${two(month)}-${two(day)}`)
        expect(read('bornOn', typed, 'month').answer).toBe(`${year}-${two(day)}-${two(month)}`)
      },
    ))
  })

  it('that cannot be read stays as it was written, with why', () => {
    expect(read('bornOn', '31.02.2004')).toEqual({ answer: '31.02.2004', codes: ['roll.no-date'] })
    expect(read('mobile', '5.55010004E+9')).toEqual({ answer: '5.55010004E+9', codes: ['roll.shortened'] })
    expect(read('certificateName', 'Bj\uFFFDrn')).toEqual({ answer: 'Bj\uFFFDrn', codes: ['roll.signs'] })
  })
})
