import { expect, test } from '@playwright/test'
import { registerCandidate, signIn } from './office'

test('somebody else is asked by a link, answers on a telephone without an account, and the office reads it', async ({ page, browser, baseURL }) => {
  await signIn(page)
  await registerCandidate(page)
  await page.getByLabel('Name on the school certificate').fill('Oda Fennimar')
  await page.getByRole('radiogroup', { name: 'Exception from the age of lighthouse keepers' }).getByText('Asked for', { exact: true })
    .click()
  const section = page.locator('#row-endorsement-keeper')
  await expect(section).toContainText('of one person')
  const address = `keeper${Math.random().toString(36).slice(2)}@light.example`
  await section.getByLabel('Their name').fill('Harl Nesbø')
  await section.getByLabel('Their e-mail address').fill('nobody at all')
  await section.getByRole('button', { name: 'Send them the link' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'nobody at all' })).toBeVisible()
  await section.getByLabel('Their e-mail address').fill(address)
  await section.getByRole('button', { name: 'Send them the link' }).click()
  await expect(section).toContainText(address)

  const { rows } = await (await page.request.get(`/api/letters?search=${encodeURIComponent(address)}`)).json() as {
    rows: { body: string }[],
  }
  const secret = /\/endorse#(\S+)/.exec(rows[0]?.body ?? '')?.[1] ?? ''
  const outside = await browser.newContext({ baseURL, viewport: { width: 390, height: 844 } })
  const telephone = await outside.newPage()
  await telephone.goto(`/endorse#${secret}`)
  await expect(telephone.getByRole('heading', { name: 'A word from a keeper you served under' })).toBeVisible()
  await expect(telephone.getByText('Oda Fennimar applies for')).toBeVisible()
  await telephone.getByLabel('At which light, and from when until when').fill('Skarn Head, 2019 to 2022')
  await telephone.getByText('Now and then').click()
  const send = telephone.getByRole('button', { name: 'Send the recommendation' })
  await expect(send).toBeDisabled()
  await telephone.getByText('I have read this, and this is my recommendation').click()
  await send.click()
  await expect(telephone.getByRole('status')).toContainText('Your answer has arrived')
  await telephone.reload()
  await expect(telephone.getByRole('status')).toContainText('Your answer has arrived')
  await telephone.goto('/endorse#made-up-by-somebody')
  await telephone.reload()
  await expect(telephone.getByRole('alert')).toContainText('This link leads nowhere')
  await outside.close()

  await page.reload()
  await expect(section).toContainText('Skarn Head, 2019 to 2022')
  await expect(section).toContainText('complete')
})
