import { expect, test } from '@playwright/test'
import { differing, keepDraft, signIn, visitEach } from './office'

/** Small screens, the keyboard, and the words of empty places. */
test('nothing is lost at the width of a small telephone', async ({ page }) => {
  test.setTimeout(300_000)
  await page.setViewportSize({ width: 360, height: 740 })
  await signIn(page)
  const { rows } = await (await page.request.get('/api/cycles/HL27/roster?is=at:returned&is=from:candidate&limit=1')).json() as {
    rows: { id: string }[],
  }
  const draft = await keepDraft(page)
  await visitEach(
    page,
    ['/', '/notice', `/intake/${rows[0]?.id}`, `/intake/as/${rows[0]?.id}`, `/scrutiny/${rows[0]?.id}`, '/scrutiny', '/scrutiny/duplicates',
      '/scrutiny/corrections', '/scrutiny/barred', '/roster', '/check', '/cards', '/questions', '/fees', '/fees/statements',
      '/fees/matching', '/fees/bills', '/fees/slips', '/fees/payouts', '/fees/refunds', '/fees/closing', '/receipt', '/centres',
      '/centres/demand', '/centres/register', '/centres/new', '/centres/compare', '/intake/rolls', '/intake/keying',
      `/intake/keying/${await differing(page)}`, '/examinations', '/standing', '/examinations/HL27',
      ...['dates', 'posts', 'fees', 'centres'].map(part => `/notice/draft/${draft}?part=${part}`)],
    async (one, path) => {
      await expect(one.locator('h1').first()).toBeVisible()
      await one.waitForLoadState('networkidle')
      expect([path, await one.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 360])
    },
  )
})

test('a person is found from the keyboard, and the focus is seen', async ({ page }) => {
  await signIn(page)
  const { rows } = await (await page.request.get('/api/cycles/HL27/roster?limit=1')).json() as { rows: { number: string, name: string }[] }
  await page.keyboard.press('Control+k')
  await page.keyboard.type(rows[0]?.number ?? '')
  await expect(page.getByRole('dialog').getByRole('button', { name: new RegExp(rows[0]?.number ?? '') })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: rows[0]?.name })).toBeVisible()
  await page.keyboard.press('Tab')
  expect(await page.evaluate(() => document.activeElement === document.body)).toBe(false)
})

test('a link that leads nowhere says so and where to go', async ({ page }) => {
  await signIn(page)
  await page.goto('/intake/00000000-0000-4000-8000-000000000009')
  await expect(page.getByText('There is no such application')).toBeVisible()
  await page.getByRole('link', { name: 'To the roster' }).click()
  await expect(page.getByRole('heading', { name: 'Roster' })).toBeVisible()
  await page.getByPlaceholder('Number, name or telephone').fill('nobody of this name')
  await expect(page.getByText('Nobody of “nobody of this name” is in this cycle.')).toBeVisible()
})
