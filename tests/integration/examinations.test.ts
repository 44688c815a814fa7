import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { createApp, createRouter, defineEventHandler, toNodeListener } from 'h3'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { sheetFaults } from '../../core/application/sheet'
import { slotsOf } from '../../core/application/slots'
import { weighClaims } from '../../core/eligibility/claims'
import { evaluatePosts } from '../../core/eligibility/evaluate'
import { assessFee } from '../../core/fees/assess'
import type { Notice } from '../../core/notice/schema'
import { english } from '../../core/words/en'
import { languageOf } from '../../core/words/language'
import { examinationPage, examinationsPage } from '../../server/public/examinations'
import { sendPage } from '../../server/public/page'
import { withoutCentres } from '../../core/notice/centres'
import { textsToRead } from '../../core/notice/languages'
import { anonymousCaller, type Caller } from '../../server/services/context'
import { putNotice, showNotice } from '../../server/services/notice/notices'
import { listExaminations, readExamination, type ExaminationRead } from '../../server/services/notice/examinations'
import { openOffice, type Office } from '../support/office'
import { sampleAnswers } from '../support/sample'

/** The pages for everybody, as they come over the wire. */
let office: Office
let server: Server
let shown: ExaminationRead
let address = ''
beforeAll(async () => {
  office = await openOffice()
  const caller = anonymousCaller(office.db, 'test')
  shown = await readExamination(caller, office.cycle)
  const router = createRouter()
  router.get(
    '/list',
    defineEventHandler(async event => sendPage(event, english, examinationsPage(english, await listExaminations(caller)))),
  )
  router.get('/one', defineEventHandler(event => sendPage(event, english, examinationPage(english, shown))))
  router.get('/marked', defineEventHandler(event => sendPage(event, languageOf('en-XA'), examinationPage(languageOf('en-XA'), shown))))
  server = createServer(toNodeListener(createApp().use(router)))
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done))
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  server.close()
  await office.close()
})
const page = async (path: string) => (await fetch(address + path)).text()
const at = (moment: string) => new Date(moment)

it('lists every examination with its state, fee and day', async () => {
  const html = await page('/list')
  expect(html).toContain(shown.notice.title)
  expect(html).toContain('IMK 0.00 to IMK 640.00')
})

it('says what stands: before the opening, open with the time left, and closed at the very moment of the close', async () => {
  const { opens, closes } = shown.notice.keyDates
  const moments: [Date, string][] = [
    [new Date(Date.parse(opens) - 1), 'Applications open Wed 4 Nov 2026, 09:00 Ilmara time'],
    [at(opens), 'Applications are open'],
    [new Date(Date.parse(closes) - 61_000), 'in 1 min'],
    [new Date(Date.parse(closes) - 1), 'Applications are open'],
    [at(closes), 'Applications have closed'],
  ]
  for (const [now, wanted] of moments) {
    shown = { ...shown, now }
    const html = await page('/one')
    expect(html).toContain(wanted)
    expect(html.includes('href="/apply?examination=HL27"')).toBe(now >= at(opens) && now < at(closes))
  }
})

it('gives the whole notice in a document that is small, has a language and asks for nothing outside', async () => {
  const html = await page('/one')
  for (const clause of shown.notice.posts.flatMap(post => post.clauses)) {
    expect(html).toContain(clause.text.replace(/'/g, '&#39;').replace(/"/g, '&quot;'))
  }
  expect(html).toMatch(/^<!doctype html><html lang="en">/)
  expect([...html.matchAll(/(?:href|src)="([^"]+)"/g)].map(m => m[1] ?? '').filter(link => !link.startsWith('/'))).toEqual([])
  expect(html.length).toBeLessThan(30_000)
  const { headers } = await fetch(`${address}/one`)
  expect(headers.get('content-security-policy')).toContain("default-src 'none'")
})

it('shows what a notice says and runs none of it', async () => {
  const title = '<script>alert(1)</script>&"'
  shown = { ...shown, notice: { ...shown.notice, title, declaration: '<img src=x onerror=alert(1)>' } }
  const html = await page('/one')
  expect(html).not.toContain('<script>alert')
  expect(html).not.toContain('<img')
  expect(html).toContain('&lt;script&gt;alert(1)&lt;/script&gt;')
})

it('says its own words in the language that was chosen', async () => {
  const marked = await page('/marked')
  expect(marked).toContain('lang="en-XA"')
  expect(marked).not.toContain('Have at hand')
})

it('reads the notice in a language that it has, names the others in themselves, and leaves the office its own words', async () => {
  const texts = textsToRead(office.notice).map(text => ({ text, as: `Fr. ${text}` }))
  await putNotice(office.as(), { ...withoutCentres(office.notice), translations: [{ language: 'fr', texts }] })
  const caller = anonymousCaller(office.db, 'test')
  shown = await readExamination(caller, office.cycle, 'fr')
  const french = await page('/one')
  expect(french).toContain(`<h1 lang="fr">Fr. ${office.notice.title}`)
  expect(french).toContain('<a href="/examinations/HL27?in=en" lang="en" hreflang="en">English</a>')
  shown = await readExamination(caller, office.cycle, 'xx')
  expect(await page('/one')).toContain(`<h1 lang="en">${office.notice.title}`)
  const titles = async (as: Caller) => (await showNotice(as, office.cycle, 'fr')).notice
  expect([(await titles(caller)).title, (await titles(caller)).translations, (await titles(office.as())).title]).toEqual([
    `Fr. ${office.notice.title}`,
    [{ language: 'fr', texts: [] }],
    office.notice.title,
  ])
})

it('a candidate has all of a notice that judges a sheet, and less of what does not', async () => {
  const reader = await office.candidate()
  const [whole, own] = [(await showNotice(office.as(), office.cycle)).notice, (await showNotice(office.by(reader), office.cycle)).notice]
  expect(JSON.stringify(own).length).toBeLessThan(JSON.stringify(whole).length * 0.9)
  const judged = (notice: Notice) =>
    [sampleAnswers, { ...sampleAnswers, category: 'general', pwd: 'yes', identityNumber: 'x', cities: ['nowhere'] }].map(answers => [
      sheetFaults(notice, answers, '2026-11-24'),
      evaluatePosts(notice, answers),
      assessFee(notice, answers, office.now),
      slotsOf(notice, answers),
      weighClaims(notice, answers, [], office.now),
    ])
  expect(judged(own)).toEqual(judged(whole))
})
