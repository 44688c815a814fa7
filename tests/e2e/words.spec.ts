import { execFileSync } from 'node:child_process'
import { expect, test, type Page } from '@playwright/test'
import { markText } from '../../core/words/pseudo'
import { demoPassword } from '../../demo/load'
import { candidateSignIn, differing, keepDraft, visitEach } from './office'

/**
 * Every page in a made-up language, in which each word that comes from the one home of words is marked. What is still plain came from
 * elsewhere: a sentence that no other language could ever have. Data is excepted: what people typed and what notices say.
 */
// The component library speaks of its own parts in the language that it is given.
const nameOfProduct = ['Lucid Roster', 'Ilmara Maritime Examinations Board', 'decrease number', 'increase number', 'radio-group',
  'checkbox-group', 'Close this dialog', 'Close this tag']
// Units, codes and formats that are written alike everywhere, and days and months, which the browser spells.
const alike =
  /^(KB|MB|px|mm|km|min|dpi|PNG|JPEG|PDF|CSV|JSON|GeoJSON|camt|ISO|SHA|LR\d|Ctrl|(Mon|Tues?|Wed(nes)?|Thu(rs)?|Fri|Sat(ur)?|Sun)(day)?|Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec|Ilmara|time|IMK|CIEDE)$/i

/** Keys of answers that hold what people typed, however long. */
const typed = ['device', 'signInName', 'reason', 'note', 'title', 'held', 'answers', 'before', 'after', 'item', 'subject', 'body', 'text']

/**
 * Texts of answers that are data: all of a notice; else names, numbers and what people typed. Words of the product's own states are none.
 */
function gatherData(value: unknown, data: Set<string>, all: boolean): void {
  if (typeof value === 'string') {
    // A page fills the placeholders of a notice's text and shows its paragraphs apart.
    if (all) value.split(/\n{2,}|\{\w+\}/).forEach(part => data.add(part.trim()))
    else if (/[A-Z0-9@]/.test(value) && value.split(' ').length < 6) data.add(value)
  } else if (Array.isArray(value)) value.forEach(one => gatherData(one, data, all))
  else if (typeof value === 'object' && value !== null) {
    for (const [key, one] of Object.entries(value)) {
      if (!['message', 'words'].includes(key)) gatherData(one, data, all || typed.includes(key))
    }
  }
}

/** What people read on the page: texts, and attributes that are spoken or shown. */
const readOf = (page: Page) =>
  page.evaluate(() => {
    const shown: string[] = [document.title.replace(/ · Lucid Roster$/, '')]
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT | NodeFilter.SHOW_ELEMENT)
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      if (node instanceof Element) {
        for (const name of ['title', 'aria-label', 'placeholder', 'alt', 'aria-description', 'label']) {
          if (node.hasAttribute(name)) {
            shown.push(node.getAttribute(name) ?? '')
          }
        }
      } else if (!node.parentElement?.closest('script, style, noscript, code, [data-unformatted], .js-plotly-plot')) {
        shown.push(node.textContent ?? '')
      }
    }
    return [...new Set(shown.map(text => text.replace(/\s+/g, ' ').trim()).filter(Boolean))]
  })

/** The texts that hold a plain word which is no data. */
function plainTexts(shown: readonly string[], texts: ReadonlySet<string>): string[] {
  const data = [...texts].filter(t => /[A-Za-z]{2}/.test(t)).map(t => t.replace(/\s+/g, ' ').toLowerCase()).sort((a, b) =>
    b.length - a.length
  )
  return shown.filter((text) => {
    let rest = text.toLowerCase()
    for (const known of data) if (rest.includes(known)) rest = rest.replaceAll(known, ' ')
    return (rest.match(/(?<![\p{L}\d])[a-z]{2,}(?![\p{L}\d])/gu) ?? []).some(word => !alike.test(word))
  })
}

/**
 * Has each page itself keep what its requests were answered. The browser drops the bodies of a page that it left, and a slow machine
 * asks for them too late.
 */
const keepAnswers = (page: Page) =>
  page.context().addInitScript(() => {
    const ask = window.fetch
    const answers: Promise<[string, unknown]>[] = []
    Object.assign(window, { answers })
    window.fetch = async (...call) => {
      const answer = await ask(...call)
      const isData = answer.ok && answer.url.includes('/api/') && answer.headers.get('content-type')?.includes('json')
      if (isData) answers.push(answer.clone().json().then((body: unknown) => [answer.url, body], () => [answer.url, null]))
      return answer
    }
  })

/** The plain texts of the page as it stands, with what it was answered taken for data. */
async function plainOn(page: Page, texts: Set<string>): Promise<string[]> {
  await page.waitForLoadState('networkidle')
  const answers = await page.evaluate(() => Promise.all((window as unknown as { answers?: Promise<[string, unknown]>[] }).answers ?? []))
  for (const [url, body] of answers) gatherData(body, texts, /\/(notice|centres|drafts\/.*)$/.test(url))
  return plainTexts(await readOf(page), texts)
}
const speak = (page: Page, baseURL = '') => page.context().addCookies([{ name: 'lucid-language', value: 'en-XA', url: baseURL }])
const button = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${markText(name)}`) }).first()

test('every page says all its words in the language that was chosen', async ({ page, baseURL }) => {
  test.setTimeout(600_000)
  const texts = new Set<string>(nameOfProduct)
  const found: string[] = []
  const look = async (where: string, at = page) => {
    for (const text of await plainOn(at, texts)) found.push(`${where}: ${text}`)
  }
  await speak(page, baseURL)
  await page.goto('/sign-in')
  await look('/sign-in')
  await page.goto('/welcome?token=x')
  await look('/welcome')
  await page.request.post('/api/session', { data: { signInName: 'officer', password: demoPassword } })
  await keepAnswers(page)
  const id = async (headline: string, cycle = 'HL27', more = '') =>
    ((await (await page.request.get(`/api/cycles/${cycle}/roster?is=at:${encodeURIComponent(headline)}${more}&limit=1`)).json()) as {
      rows: { id: string }[],
    }).rows[0]?.id ?? ''
  const [waiting, drafting, withCard, accepted, refused] = [await id('in scrutiny', 'HL27', '&is=from:candidate'), await id('drafting'),
    await id('card issued', 'LK26'), await id('accepted'), await id('refused', 'LK26')]
  const runs = await (await page.request.get('/api/cycles/LK26/runs')).json() as { id: string }[]
  const pages = [
    '/',
    '/notice',
    `/intake/${drafting}`,
    `/intake/${waiting}`,
    `/intake/${withCard}`,
    `/intake/as/${waiting}`,
    `/intake/correct/${accepted}`,
    '/roster',
    '/roster?headline=lapsed',
    '/scrutiny',
    `/scrutiny/${waiting}`,
    `/scrutiny/${accepted}`,
    '/scrutiny/checks',
    '/scrutiny/duplicates',
    '/scrutiny/corrections',
    '/scrutiny/barred',
    '/fees',
    '/fees/statements',
    '/fees/matching',
    '/fees/bills',
    '/fees/slips',
    '/fees/payouts',
    '/fees/refunds',
    '/fees/closing',
    '/standins/bank',
    '/receipt',
    '/centres',
    '/centres/new',
    '/centres/demand',
    '/centres/compare',
    '/centres/register',
    '/centres/register?city=skarnholm',
    `/centres/${runs[0]?.id}`,
    `/centres/why/${runs[0]?.id}/${withCard}`,
    '/cards',
    '/check',
    '/records',
    '/work',
    '/letters',
    '/questions',
    '/intake/rolls',
    '/intake/keying',
    `/intake/keying/${await differing(page)}`,
    '/account',
    '/nothing-here',
    '/examinations/HL27',
  ]
  await visitEach(page, pages, (one, path) => look(path, one))
  // A draft with faults, every part of it.
  const draft = await keepDraft(page, { code: '', sessions: [], allocation: {} })
  for (const part of ['examination', 'dates', 'lists', 'sheet', 'posts', 'fees', 'files', 'centres', 'texts', 'acts']) {
    await page.goto(`/notice/draft/${draft}?part=${part}`)
    await look(`draft, ${part}`)
  }
  await page.goto('/notice')
  await button(page, 'Throw away').click()
  await button(page, 'Throw away').last().click()
  // What opens on a press: dialogs, refusals, lists.
  await page.goto(`/scrutiny/${waiting}`)
  await button(page, 'Refuse').click()
  await look('the dialog of a refusal')
  await page.goto('/roster')
  await button(page, 'Columns').click()
  await look('the list of columns')
  await page.keyboard.press('Escape')
  await button(page, 'Write to all of them').click()
  await look('a letter to many')
  await page.goto(`/intake/${waiting}`)
  await button(page, 'Withdraw the application').click()
  await look('the dialog of an act')
  await page.goto('/check')
  await page.getByRole('textbox').fill('LR1:NOTHING')
  await button(page, 'Check the text').click()
  await look('a code that is none')
  await page.goto('/people')
  await look('/people as an officer')
  await page.goto('/intake/00000000-0000-4000-8000-000000000000')
  await look('a refusal of the office')
  for (
    const [what, path] of [['report', `/api/runs/${runs[0]?.id}/report.pdf`],
      ...(refused ? [['order', `/api/applications/${refused}/order`]] : [])] as const
  ) {
    const answer = await page.request.get(path)
    expect(`${path} ${answer.status()}`).toBe(`${path} 200`)
    const text = execFileSync('pdftotext', ['-raw', '-', '-'], { input: await answer.body() }).toString()
    for (const line of plainTexts(text.split('\n'), texts)) found.push(`${what}: ${line}`)
  }
  expect(found).toEqual([])
})

test('candidates are told in the language that was chosen', async ({ page, baseURL }) => {
  const texts = new Set<string>(nameOfProduct)
  await keepAnswers(page)
  texts.add(await candidateSignIn(page))
  await speak(page, baseURL)
  const found: string[] = []
  const look = async (path: string) => {
    await page.goto(path)
    for (const text of await plainOn(page, texts)) found.push(`${path}: ${text}`)
  }
  await look('/own/account')
  await look('/own?examination=HL27')
  await button(page, 'Begin an application').click()
  await page.waitForURL(/\/own\/.+/)
  await look(new URL(page.url()).pathname)
  await page.context().clearCookies()
  await speak(page, baseURL)
  await look('/apply')
  expect(found).toEqual([])
})

test('the people of the office are told in the language that was chosen', async ({ page, baseURL }) => {
  const texts = new Set<string>(nameOfProduct)
  await speak(page, baseURL)
  await page.request.post('/api/session', { data: { signInName: 'administrator', password: demoPassword } })
  await keepAnswers(page)
  await page.goto('/people')
  await button(page, 'Invite somebody').click()
  await page.getByRole('dialog').waitFor()
  expect(await plainOn(page, texts)).toEqual([])
})
