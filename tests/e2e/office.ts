import { expect, type Page } from '@playwright/test'
import { drawCertificate, scanPage } from '../../demo/documents'
import { drawPortrait } from '../../demo/portraits'
import { drawSignature } from '../../demo/signatures'
import { Random } from '../../demo/random'
import { demoPassword } from '../../demo/load'

/** What the end-to-end tests do again and again, through the real interface. */
/** Signs in by the form that people see. */
export async function signInByForm(page: Page, name = 'officer'): Promise<void> {
  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill(name)
  await page.getByLabel('Password', { exact: true }).fill(demoPassword)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'What needs you today' })).toBeVisible()
}

/** Signs in without the form, which costs each test two seconds. */
export async function signIn(page: Page, name = 'officer'): Promise<void> {
  const answer = await page.request.post('/api/session', { data: { signInName: name, password: demoPassword } })
  expect(answer.ok()).toBe(true)
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'What needs you today' })).toBeVisible()
}

/** Signs a new candidate in by a code, without the form; the outbox is read by an officer. */
export async function candidateSignIn(page: Page): Promise<string> {
  const address = `somebody${Math.random().toString(36).slice(2)}@post.example`
  const asked = await page.request.post('/api/codes', { data: { channel: 'email', address } })
  const { id } = await asked.json() as { id: string }
  await page.request.post('/api/session', { data: { signInName: 'officer', password: demoPassword } })
  const { rows } = await (await page.request.get(`/api/letters?search=${encodeURIComponent(address)}`)).json() as {
    rows: { body: string }[],
  }
  await page.context().clearCookies()
  expect((await page.request.post(`/api/codes/${id}`, { data: { code: /\d{6}/.exec(rows[0]?.body ?? '')?.[0] ?? '' } })).ok()).toBe(true)
  return address
}

/** Keeps the notice in force as a draft, changed or not; its id. Somebody is signed in. */
export async function keepDraft(page: Page, change: object = {}): Promise<string> {
  const { csrfToken } = await (await page.request.get('/api/session')).json() as { csrfToken: string }
  const { notice } = await (await page.request.get('/api/cycles/HL27/notice')).json() as { notice: object }
  const id = crypto.randomUUID()
  expect((await page.request.put(`/api/drafts/${id}`, {
    data: { document: { ...notice, ...change }, revision: 0 },
    headers: { 'x-lucid-csrf': csrfToken },
  })).ok()).toBe(true)
  return id
}

/** A paper form that two people have keyed differently; an officer is signed in. */
export async function differing(page: Page): Promise<string> {
  const { rows } = await (await page.request.get('/api/cycles/HL27/keying?state=differing')).json() as { rows: { id: string }[] }
  return rows[0]?.id ?? ''
}

/** Opens each page in one of three windows: most of a visit is waiting. */
export async function visitEach(page: Page, paths: readonly string[], visit: (page: Page, path: string) => Promise<void>): Promise<void> {
  const waiting = [...paths]
  const others = await Promise.all([1, 2].map(() => page.context().newPage()))
  await Promise.all([page, ...others].map(async (one) => {
    const size = page.viewportSize()
    if (size) await one.setViewportSize(size)
    for (let path = waiting.shift(); path !== undefined; path = waiting.shift()) {
      await one.goto(path)
      await visit(one, path)
    }
  }))
  for (const one of others) await one.close()
}

/** Begins a new application; somebody is signed in. */
export async function registerCandidate(page: Page): Promise<void> {
  if (new URL(page.url()).pathname !== '/') await page.goto('/')
  await page.getByRole('button', { name: 'Register a candidate' }).click()
  await expect(page.getByRole('heading', { name: 'New application' })).toBeVisible()
}

/**
 * Fills every required answer for a person who is eligible for both posts; nobody else's number and telephone, so that nobody is taken for
 * somebody who has applied before.
 */
export async function fillSheet(page: Page, name: string): Promise<void> {
  const own = String(Math.floor(Math.random() * 1_000_000)).padStart(6, '0')
  const typed: [string, string][] = [
    ['Name on the school certificate', name],
    ['Name on the identity proof', name],
    ['Date of birth', '2004-02-29'],
    ['Number of the proof', `SB${own}7`],
    ['Mobile telephone', `5550${own}`],
    ['Postal code', '11042'],
    ['Street and house', '4 Beacon Street'],
    ['Earlier attempts at this test', '0'],
  ]
  for (const [label, text] of typed) await page.getByLabel(label).fill(text)
  for (
    const [group, option] of [
      ['Gender', 'Woman'],
      ['Nationality', 'Ilmaran'],
      ['Residence in Ilmara', 'Since birth'],
      ['Category', 'Outer Isles'],
      ['Household income below 90,000 IMK a year', 'No'],
      ['Disability declared', 'No'],
      ['Result awaited', 'No'],
      ['The certificate states', 'Marks in total'],
      ['Work in a harbour, on board or at a station', 'No'],
    ] as const
  ) {
    await page.getByRole('radiogroup', { name: group }).getByText(option, { exact: true }).click()
  }
  for (const [label, text] of [['Year of passing', '2022'], ['Marks in total', '500'], ['Marks obtained', '412']] as const) {
    await page.getByRole('textbox', { name: label, exact: true }).fill(text)
  }
  await pick(page, 'Highest qualification', 'Senior school, year 12')
  await pick(page, 'Board or university', 'Northern Isles Board')
  await page.getByLabel('Number of the Outer Isles certificate').fill('OI-77120')
  await pick(page, 'Identity proof', "Seafarer's book")
  await page.getByText('Pilot cadet', { exact: true }).first().click()
  await page.getByText('Lighthouse keeper', { exact: true }).first().click()
  for (const city of ['Skarnholm', 'Ottrevik', 'Belmarrow']) await pick(page, 'Test cities in order of preference', city)
  await expect(page.getByText('3 of 5 named')).toBeVisible()
}

/** Picks from a list: the browser's own, or one that opens, by the keyboard, for its placeholder lies over its input. */
export async function pick(page: Page, label: string, option: string): Promise<void> {
  const list = page.getByRole('combobox', { name: label, exact: true })
  if (await list.evaluate(element => element.tagName === 'SELECT')) return void await list.selectOption({ label: option })
  await expect(async () => {
    if (await list.getAttribute('aria-expanded') !== 'true') await list.press('Enter')
    await page.getByRole('option', { name: option, exact: true }).click({ timeout: 2000 })
  }).toPass({ timeout: 30_000 })
}

export async function addPictures(page: Page, seed = 4711): Promise<void> {
  const [photograph, signature] = [await drawPortrait(new Random(seed), 'none'), await drawSignature(new Random(seed), 'none')]
  await page.locator('input[data-kind=photograph]').setInputFiles({ name: 'me.jpg', mimeType: 'image/jpeg', buffer: photograph })
  await expect(page.getByAltText('Photograph, version 1')).toBeVisible()
  await page.locator('input[data-kind=signature]').setInputFiles({ name: 'sign.jpg', mimeType: 'image/jpeg', buffer: signature })
  await expect(page.getByAltText('Signature, version 1')).toBeVisible()
  await addPapers(page)
}

/** Adds the same clean scan for every document that the sheet asks for. */
export async function addPapers(page: Page, documents = ['identity-proof', 'category-certificate']): Promise<void> {
  const scan = await scanPage(
    new Random(9),
    await drawCertificate(new Random(9), 'Paper of the tests', { name: 'Tavirel Osk-Anundé', number: 'SB4471923', bornOn: '15 June 2004' }),
    'none',
    140,
  )
  for (const document of documents) {
    const slot = page.locator(`#row-${document}`)
    await slot.locator(`input[data-document=${document}]`).setInputFiles({ name: 'paper.jpg', mimeType: 'image/jpeg', buffer: scan })
    await slot.getByRole('button', { name: /^Send the page/ }).click()
    await expect(slot.getByText('Stored', { exact: true })).toBeVisible()
  }
}

export async function submitSheet(page: Page, declared = 'The candidate has declared this'): Promise<void> {
  await page.getByRole('button', { name: 'Submit', exact: true }).click()
  // The texts that are accepted come from the office; each has its tick.
  const dialog = page.getByRole('dialog', { name: 'Declaration' })
  await expect(dialog.getByText(declared)).toBeVisible()
  for (const tick of await dialog.getByRole('checkbox').all()) await tick.check()
  await page.getByRole('button', { name: 'Submit with this declaration' }).click()
  // On the sheet of a slow office both may be seen for a moment, the declaration behind its veil; the frozen state is what counts.
  await expect(page.getByText('Answers and images are frozen').or(page.getByRole('button', { name: /^Pay IMK/ })).first()).toBeVisible()
}

/** Presses Pay, and chooses a way. */
export async function startPaying(page: Page, way: 'by card' | 'by net banking' | 'by wallet'): Promise<void> {
  await page.getByRole('button', { name: /^Pay IMK/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: new RegExp(`${way}$`) }).click()
}

/** Pays at the gateway's own page in one of the ways that it offers, and comes back. */
export async function payAtGateway(page: Page, outcome: string, method: 'Card' | 'Net banking' | 'Wallet' = 'Card'): Promise<void> {
  await expect(page.getByText('A simulated gateway that ships with the product')).toBeVisible()
  await page.getByLabel(method, { exact: true }).check()
  await page.getByRole('radio', { name: new RegExp(`^${outcome}`) }).check()
  await page.getByRole('button', { name: 'Go on' }).click()
  if (method !== 'Wallet' && outcome !== 'Declined') {
    const word = /the word (\d{4})/.exec(await page.getByText('It has sent the word').innerText())?.[1] ?? ''
    await page.getByLabel('Word of the bank').fill(word)
    await page.getByRole('button', { name: 'Confirm' }).click()
  }
  await expect(page.getByText(outcome === 'Declined' ? '✕ Declined' : '✓ Charged')).toBeVisible()
  await page.getByRole('link', { name: 'Back to the application' }).click()
}

/** The application number that the open sheet shows. */
export async function numberOnSheet(page: Page): Promise<string> {
  const text = await page.getByText(/HL27-\d{7}-\d/).first().innerText()
  return /HL27-\d{7}-\d/.exec(text)?.[0] ?? ''
}
