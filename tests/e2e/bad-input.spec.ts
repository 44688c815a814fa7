import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type BrowserContext, type Page } from '@playwright/test'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { addPictures, fillSheet, payAtGateway, registerCandidate, signIn, startPaying, submitSheet } from './office'

/** What people do wrong, and what breaks: each gets words, and nothing is lost. */
async function choose(page: Page, bytes: Buffer, name = 'me.jpg'): Promise<void> {
  // By way of a file: large ones do not fit the browser's remote control.
  const file = join(mkdtempSync(join(tmpdir(), 'lucid-upload-')), name)
  writeFileSync(file, bytes)
  await page.locator('input[data-kind=photograph]').setInputFiles(file)
}

test('uploads that are no good say why, and the picture before stays', async ({ page }) => {
  await signIn(page)
  await registerCandidate(page)
  const good = await drawPortrait(new Random(9), 'none')
  await choose(page, good)
  await expect(page.getByAltText('Photograph, version 1')).toBeVisible()
  const cases: [Buffer, RegExp][] = [
    [Buffer.from('this is no picture'), /a text, not a picture, whatever its name says/],
    [good.subarray(0, good.length - 2000), /breaks off before its end/],
    [Buffer.alloc(50 * 1024 * 1024), /50\.0 MB .* at most 20 MB/],
  ]
  for (const [bytes, words] of cases) {
    await choose(page, bytes)
    await expect(page.getByText(words).first()).toBeVisible({ timeout: 30_000 })
    await expect(page.getByAltText('Photograph, version 1')).toBeVisible()
  }
  await choose(page, await drawPortrait(new Random(9), 'turned'))
  await page.getByRole('button', { name: 'Send as it is' }).click()
  await expect(page.getByAltText('Photograph, version 2')).toBeVisible()
  await expect(page.getByText(/^Turned by (90|270)°$/)).toBeVisible()
})

test('two officers on one sheet: the later one sees both writings and chooses', async ({ page, browser }) => {
  await signIn(page)
  await registerCandidate(page)
  await page.getByLabel('Street and house').fill('1 Ferry Steps')
  await expect(page.getByText(/^answers saved \d/)).toBeVisible()
  const other: BrowserContext = await browser.newContext()
  const second = await other.newPage()
  await signIn(second)
  await second.goto(new URL(page.url()).pathname)
  await expect(second.getByLabel('Street and house')).toHaveValue('1 Ferry Steps')
  await page.getByLabel('Street and house').fill('2 Ferry Steps')
  await expect(page.getByText(/^answers saved \d/)).toBeVisible()
  await page.waitForTimeout(1200)
  await second.getByLabel('Street and house').fill('3 Ferry Steps')
  const dialog = second.getByRole('dialog')
  await expect(dialog).toContainText('2 Ferry Steps')
  await expect(dialog).toContainText('3 Ferry Steps')
  await other.close()
})

test('a lost connection loses no answer', async ({ page, context }) => {
  await signIn(page)
  await registerCandidate(page)
  await context.setOffline(true)
  await page.getByLabel('Street and house').fill('7 Net Lane')
  await expect(page.getByText('kept in this browser, not at the office yet')).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByText(/^answers saved \d/)).toBeVisible({ timeout: 20_000 })
  await page.reload()
  await expect(page.getByLabel('Street and house')).toHaveValue('7 Net Lane')
})

test('a lost connection loses no picture', async ({ page, context }) => {
  await signIn(page)
  await registerCandidate(page)
  await choose(page, await drawPortrait(new Random(9), 'none'))
  await expect(page.getByAltText('Photograph, version 1')).toBeVisible()
  await context.setOffline(true)
  await choose(page, await drawPortrait(new Random(10), 'none'))
  await expect(page.getByText('No connection to the office. The file is kept on this screen')).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByAltText('Photograph, version 2')).toBeVisible()
  await expect(page.getByText('No connection to the office')).toBeHidden()
})

test('a payment that ends in nothing can be asked for and made again', async ({ page }) => {
  test.setTimeout(300_000)
  await signIn(page)
  await registerCandidate(page)
  await fillSheet(page, 'Meris Halvane')
  await addPictures(page, 88)
  await submitSheet(page)
  await startPaying(page, 'by card')
  await payAtGateway(page, 'Declined')
  await startPaying(page, 'by net banking')
  await payAtGateway(page, 'Paid, then silence', 'Net banking')
  await expect(page.getByText(/payment under way, [0-2]:\d\d left/)).toBeVisible()
  await page.getByRole('button', { name: 'Ask the gateway' }).click()
  await expect(page.getByText('✓ Settled')).toBeVisible()
})

test('strangers get nothing: pages, data, forged requests', async ({ page, request, baseURL }) => {
  const cycles = await request.get('/api/cycles')
  expect(cycles.status()).toBe(401)
  await page.goto('/roster')
  await expect(page).toHaveURL(/sign-in/)
  await signIn(page)
  const id = '00000000-0000-4000-8000-000000000001'
  // Without the token of the session, and from another origin.
  expect((await page.request.put(`/api/cycles/HL27/applications/${id}`)).status()).toBe(403)
  expect((await page.request.put(`/api/cycles/HL27/applications/${id}`, { headers: { origin: 'https://elsewhere.example' } })).status())
    .toBe(403)
  expect((await page.request.get(`/api/applications/${id}`)).status()).toBe(404)
  expect((await page.request.get('/api/applications/not-an-id')).status()).toBe(404)
  const cookie = (await page.context().cookies(baseURL)).find(c => c.name === 'lucid-session')
  expect(cookie).toMatchObject({ httpOnly: true })
  expect(['Lax', 'Strict']).toContain(cookie?.sameSite)
  const policy = (await page.request.get('/')).headers()['content-security-policy'] ?? ''
  expect(policy).toContain("default-src 'none'")
  expect(policy).not.toContain("unsafe-eval' ")
  const data = (await page.request.get('/api/session')).headers()
  expect(data['content-security-policy']).toContain("default-src 'none'")
  for (const path of ['/api/session', '/icon.svg', '/sign-in', '/type/faces.css']) {
    expect([path, (await page.request.get(path)).headers()['x-content-type-options']]).toEqual([path, 'nosniff'])
  }
  // Whoever guesses has to wait, and is told how long.
  const guesses = await Promise.all(Array.from(
    { length: 9 },
    () => request.post('/api/session', { data: { signInName: 'nobody of this name', password: 'a guess' } }),
  ))
  const waits = guesses.filter(answer => answer.status() === 429)
  expect(guesses.filter(answer => answer.status() === 401).length).toBe(9 - waits.length)
  // Five are free; on a slow machine a second may pass between them, which frees one more.
  expect(waits.length).toBeGreaterThan(1)
  expect(waits.length).toBeLessThan(5)
  for (const answer of waits) expect(Number(answer.headers()['retry-after'])).toBeGreaterThanOrEqual(1)
})

test('an auditor reads everything and can press nothing that changes', async ({ page }) => {
  await signIn(page, 'auditor')
  await expect(page.getByRole('button', { name: 'Register a candidate' })).toBeHidden()
  await page.goto('/centres')
  await expect(page.getByRole('button', { name: 'New run' })).toBeHidden()
  await page.goto('/centres/new')
  await expect(page.getByRole('button', { name: 'Run the allocation' })).toBeHidden()
  // Of the cycle alone: other tests add newer records of people.
  await page.goto('/records?subject=HL27')
  await expect(page.getByText('loaded the demo')).toBeVisible()
})
