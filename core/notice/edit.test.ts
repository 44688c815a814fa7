import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice, testNow } from '../../tests/support/sample'
import { patternNames, patternOf } from '../../shared/patterns'
import { demoNotice } from '../../demo/notice'
import { readNotice } from './check'
import { applyEdit, isEqual, joinEdits, setAt, undone, type Edit } from './edit'
import { pointer, stepsOf, valueAt } from './finding'
import { idFrom, NoticeForms, noticeGroups } from './form'
import { resolveDates } from './relative-dates'
import { noticeSchema } from './schema'
import { shiftDates } from './shift'

describe('edits of a document', () => {
  it('go to the place that a pointer names, as the examples of RFC 6901 (section 5) do', () => {
    const document = { 'foo': ['bar', 'baz'], '': 0, 'a/b': 1, 'c%d': 2, 'e^f': 3, 'g|h': 4, 'i\\j': 5, 'k"l': 6, ' ': 7, 'm~n': 8 }
    const pointers = ['/foo', '/foo/0', '/', '/a~1b', '/c%d', '/e^f', '/g|h', '/i\\j', '/k"l', '/ ', '/m~0n']
    expect(pointers.map(at => valueAt(document, at))).toEqual([['bar', 'baz'], 'bar', 0, 1, 2, 3, 4, 5, 6, 7, 8])
    expect(pointers.map(at => pointer(...stepsOf(at)))).toEqual(pointers)
    expect(valueAt(document, '')).toBe(document)
  })

  it('taken back in the other order leave what was there', () => {
    const places = ['/a', '/b/0', '/b/1/c', '/d/e/f']
    fc.assert(fc.property(fc.array(fc.tuple(fc.constantFrom(...places), fc.jsonValue()), { maxLength: 12 }), (changes) => {
      const start: unknown = { b: [0, { c: 1 }], d: { e: { f: 2 } } }
      let document = start
      const edits = changes.flatMap(([at, after]): Edit[] => {
        const edit = { at, before: valueAt(document, at), after }
        if (typeof valueAt(document, at.slice(0, at.lastIndexOf('/'))) !== 'object') return []
        document = applyEdit(document, edit)
        return [edit]
      })
      expect(isEqual(edits.reduceRight((d, edit) => applyEdit(d, undone(edit)), document), start)).toBe(true)
    }))
  })

  it('are joined with what somebody else changed elsewhere, and shown where both changed the same', () => {
    const start = { title: 'One', fees: { a: 1, b: 2 }, list: [1] }
    const theirs = { ...start, fees: { a: 1, b: 3 }, title: 'Theirs' }
    const mine: Edit[] = [{ at: '/fees/a', before: 1, after: 10 }, { at: '/title', before: 'One', after: 'Mine' }, {
      at: '/list',
      before: [1],
      after: [1, 2],
    }]
    const { document, clashes } = joinEdits(theirs, mine)
    expect(document).toEqual({ title: 'Theirs', fees: { a: 10, b: 3 }, list: [1, 2] })
    expect(clashes).toEqual([{ edit: mine[1], theirs: 'Theirs' }])
    expect(joinEdits(document, mine).joined).toHaveLength(2)
    expect(setAt({ a: [1, 2, 3] }, '/a/1', undefined)).toEqual({ a: [1, 3] })
  })
})

describe('the forms of a notice', () => {
  const forms = new NoticeForms()

  it('show every part in exactly one group', () => {
    const shown = Object.values(noticeGroups).flat()
    expect([...shown, 'format'].sort()).toEqual(Object.keys(noticeSchema.shape).sort())
  })

  it('begin every list with a member that the schema knows all parts of', () => {
    const base = sampleNotice() as unknown as Record<string, unknown>
    for (const list of ['posts', 'sections', 'documents', 'claims', 'sessions', 'categories', 'boards']) {
      const blank = forms.blankOf(forms.root.properties?.[list]?.items ?? {})
      const { findings } = readNotice({ ...base, [list]: [...base[list] as unknown[], blank] })
      expect(findings.filter(f => f.code === 'shape.unknown-part' || f.code === 'shape.kind')).toEqual([])
    }
  })

  it('make ids that a notice takes', () => {
    expect(idFrom('Pilot cadet, 2nd class', 'id')).toBe('pilot-cadet-2nd-class')
    expect(idFrom('Âge à l’entrée', 'question-id')).toBe('ageALEntree')
    fc.assert(fc.property(fc.string(), (text) => {
      expect(idFrom(text, 'id')).toMatch(/^([a-z][a-z0-9-]*)?$/)
    }))
  })
})

describe('beginnings of a notice', () => {
  it.each(patternNames.filter(name => name !== 'empty'))('the pattern %s lacks only what the office knows', (name) => {
    const document = resolveDates(patternOf(name), '2027-02-01', { name: 'UTC', utcOffsetMinutes: 0 })
    const { findings } = readNotice(document)
    expect(findings.map(f => f.at).sort()).toEqual(['/body/currency/code', '/cities', '/code', '/title'])
  })

  it('a copy with its dates moved is sound, opens about the day that was said, and keeps weekday or day of the month', () => {
    const { body: { zone }, keyDates } = sampleNotice()
    const copy = (to: string, anchor: 'weekday' | 'day' | 'days') =>
      readNotice(shiftDates(demoNotice(testNow), zone, '2026-11-04', to, anchor))
    expect(keyDates.opens).toBe('2026-11-04T10:15:00.000Z')
    expect(copy('2027-11-06', 'weekday').notice?.keyDates).toMatchObject({
      opens: '2027-11-03T10:15:00.000Z',
      closes: '2027-11-26T18:15:00.000Z',
    })
    expect(copy('2027-11-09', 'day').notice?.keyDates).toMatchObject({
      opens: '2027-11-04T10:15:00.000Z',
      closes: '2027-11-27T18:15:00.000Z',
    })
    expect(copy('2027-11-06', 'days').notice?.keyDates.opens).toBe('2027-11-06T10:15:00.000Z')
    // What may be asked for moves with the rest.
    const until = (notice: unknown) => (notice as { requests: { until?: string }[] }).requests.flatMap(rule => rule.until ?? [])
    const sample = demoNotice(testNow)
    expect(Date.parse(until(shiftDates(sample, zone, '2026-11-04', '2027-11-03', 'weekday'))[0] ?? '') - Date.parse(until(sample)[0] ?? ''))
      .toBe(364 * 86_400_000)
    expect(shiftDates({ on: '2027-01-31' }, zone, '2027-01-01', '2027-02-01', 'day')).toEqual({ on: '2027-02-28' })
  })
})
