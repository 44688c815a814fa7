import { eq } from 'drizzle-orm'
import { createSSRApp, h } from 'vue'
import { renderToString } from 'vue/server-renderer'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { english } from '../../core/words/en'
import { askForStanding, standingPage } from '../../server/public/standing'
import type { PublicPage } from '../../server/public/page'
import { auditEvent } from '../../server/database/schema'
import { lookUpStanding } from '../../server/services/candidates/standing'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

let network = 0
/** Each look from another network, unless one is named. */
const look = (number: string, proof: string, from = `10.0.0.${network += 1}`) => lookUpStanding(office.nobody, { number, proof }, from)
const htmlOf = ({ body }: PublicPage) => renderToString(createSSRApp({ render: () => h('div', body) }))
const textOf = async (page: PublicPage) => (await htmlOf(page)).replace(/<[^>]+>/g, ' ').replace(/\s+/g, ' ')

describe('where an application stands, without signing in', () => {
  it('is told to whoever knows its number and the birthday or the address in it, part by part, and never who it is', async () => {
    const id = await office.complete()
    await office.act(id, 'submit', { revision: 1, declared: true })
    const { number } = await office.dossier(id)
    const text = await textOf(standingPage(english, await look(` ${number.toLowerCase()} `, '15 June 2004')))
    for (
      const wanted of [number, 'Form handed in', 'Fee due, at the latest', 'Scrutiny has not begun', 'Test centre not known yet',
        'Admit card not issued yet', 'Fee is due. You have it, until']
    ) expect(text).toContain(wanted)
    expect(text).not.toMatch(/Tavirel|5550100042|Beacon|790/)
    expect((await look(number, 'TAVIREL@post.example')).tracks.form).toBe('submitted')
    // 3 April or 4 March: whoever means either is right; here only one of them is the birthday.
    for (const proof of ['2004-06-15', '15/06/2004', '15.6.2004']) expect((await look(number, proof)).number).toBe(number)
    expect(await office.db.select().from(auditEvent).where(eq(auditEvent.act, 'look-up-standing'))).toHaveLength(5)
  })

  it('is not told otherwise, the same whatever was wrong, and many tries are slowed down by network and by number', async () => {
    const id = await office.complete()
    const { number } = await office.dossier(id)
    for (
      const [of, proof] of [[number, '16 June 2004'], [number, 'another@post.example'], [number, ''], [number, '@'], ['HL27-9999999-9',
        '15 June 2004'], ['', '']] as const
    ) {
      expect(await problemOf(look(of, proof))).toMatchObject({ code: 'standing.unknown', parameters: {} })
    }
    // Six looks at one number, from wherever they come; then only later.
    for (let i = 0; i < 2; i += 1) await problemOf(look(number, '1 January 2000'))
    expect(await problemOf(look(number, '15 June 2004'))).toMatchObject({ code: 'session.too-many' })
    const codes = []
    for (let i = 0; i < 22; i += 1) codes.push((await problemOf(look(`HL27-000${1000 + i}-1`, '1 January 2000', 'one network'))).code)
    expect([codes.filter(code => code === 'standing.unknown').length, codes.at(-1)]).toEqual([20, 'session.too-many'])
    // What was typed stands in its field again, as text.
    expect(await htmlOf(askForStanding(english, '<b>', '"><script>'))).toMatch(/^(?!.*(<script>|<b>)).*&quot;&gt;&lt;script&gt;/s)
  })
})
