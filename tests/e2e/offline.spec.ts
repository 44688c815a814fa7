import { expect, test } from '@playwright/test'
import { candidateSignIn } from './office'

test('a draft opens without a line, and what is typed then goes once it is back', async ({ browser, baseURL }) => {
  const context = await browser.newContext({ baseURL, viewport: { width: 390, height: 844 } })
  const page = await context.newPage()
  await candidateSignIn(page)
  await page.goto('/own?examination=HL27')
  await page.getByRole('button', { name: 'Begin an application', exact: true }).click()
  await page.waitForURL(/\/own\/./)
  const name = page.getByLabel('Name on the school certificate')
  await name.fill('Osmer Vale')
  await name.blur()
  await expect(page.getByText(/answers saved \d/)).toBeVisible()
  // Opened once more while there is a line: its browser has what it needs from then on.
  await page.reload()
  await expect(name).toHaveValue('Osmer Vale')
  await expect.poll(
    () => page.evaluate(async () => navigator.serviceWorker.controller?.state === 'activated' && await caches.match('/own') !== undefined),
    { timeout: 20_000 },
  ).toBe(true)
  const frame = await page.evaluate(async () =>
    (await (await caches.open('lucid-own')).keys()).map(request => new URL(request.url).pathname)
  )
  expect(frame)
    .toEqual(expect.arrayContaining(['/api/session', new URL(page.url()).pathname.replace('/own/', '/api/applications/'),
      '/api/cycles/HL27/notice']))

  await context.setOffline(true)
  await page.reload()
  await expect(page.getByText(/No connection to the office/)).toBeVisible()
  await expect(name).toHaveValue('Osmer Vale')
  await name.fill('Osmer Vale Tarn')
  await name.blur()
  await expect(page.getByText('kept in this browser, not at')).toBeVisible()
  // Closed and opened again, what was typed still stands.
  await page.reload()
  await expect(name).toHaveValue('Osmer Vale Tarn')
  const sent: string[] = []
  page.on('requestfinished', (request) => {
    if (request.method() === 'PATCH') sent.push(request.postData() ?? '')
  })
  await context.setOffline(false)
  await expect(page.getByText(/answers saved \d/)).toBeVisible({ timeout: 20_000 })
  expect(sent.filter(body => body.includes('Osmer Vale Tarn'))).toHaveLength(1)
  await expect(page.getByText(/No connection to the office/)).toBeHidden()
  await page.reload()
  await expect(name).toHaveValue('Osmer Vale Tarn')

  // Whoever uses the browser next finds nothing of it.
  await page.getByRole('button', { name: 'Sign out' }).click()
  await page.waitForURL('/apply')
  await expect.poll(() => page.evaluate(() => caches.has('lucid-own'))).toBe(false)
  await context.close()
})
