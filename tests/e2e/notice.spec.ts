import { expect, test, type Page } from '@playwright/test'
import { keepDraft, pick, signIn } from './office'

/** A new cycle, set up on the screen alone. */
const part = (page: Page, name: string) => page.getByRole('navigation', { name: 'Parts of the notice' }).getByRole('link', { name })
const errors = (page: Page, text: string) => expect(page.locator('aside').getByText(text, { exact: true })).toBeVisible()

test('an officer sets up a cycle from an empty notice, mends what is found, opens it, and everybody can read it', async ({ page, browser, baseURL }) => {
  test.setTimeout(300_000)
  await signIn(page)
  await page.goto('/notice')
  await pick(page, 'Begin with', 'an empty notice')
  await page.getByRole('button', { name: 'Begin the draft' }).click()
  await page.waitForURL(/notice\/draft/)
  await page.getByLabel('Code', { exact: true }).first().fill('QZ27')
  await page.getByLabel('Title', { exact: true }).first().fill('Clerks of the Harbour 2027')

  await part(page, 'Categories and lists').click()
  const categories = page.locator('#place\\/categories')
  await categories.getByRole('button', { name: 'Add a row' }).click()
  await page.getByLabel('Title, row 1').first().fill('General')
  // The row's id follows its title.
  await expect(page.getByLabel('Id, row 1').first()).toHaveValue('general')

  await part(page, 'The sheet and claims').click()
  await page.locator('summary').filter({ hasText: 'Category and claims' }).click()
  await page.locator('#place\\/sections\\/2\\/questions\\/0 > summary').click()
  await page.getByRole('button', { name: 'Add a row' }).click()
  await page.getByLabel('Title, row 1').fill('General')

  await part(page, 'Posts and rules').click()
  await page.locator('#place\\/posts').getByRole('button', { name: 'Add an entry' }).click()
  await page.getByLabel('Title', { exact: true }).fill('Harbour clerk')
  await expect(page.getByLabel('Id', { exact: true })).toHaveValue('harbour-clerk')
  await page.locator('#place\\/posts\\/0\\/clauses').getByRole('button', { name: 'Add an entry' }).click()
  await page.getByLabel('Where it stands in the notice').fill('2.1')
  await page.getByLabel('Text', { exact: true }).fill('Not below 18 and not above 32 years.')
  await page.getByRole('button', { name: 'least years' }).click()
  await page.getByLabel('Least years', { exact: true }).fill('18')
  await page.getByRole('button', { name: 'most years', exact: true }).click()
  await page.getByLabel('Most years', { exact: true }).fill('30')
  // The rule in words, and the text that says something else.
  await expect(page.getByText('It carries out: from 18 to 30 completed years of age')).toBeVisible()
  await expect(page.locator('aside').getByText('The text of clause 2.1 says 32, which its rule does not use.')).toBeVisible()
  await page.getByLabel('Text', { exact: true }).fill('Not below 18 and not above 30 years.')
  await expect(page.locator('aside').getByText('which its rule does not use')).toBeHidden()

  await part(page, 'Fees').click()
  await page.locator('#place\\/fees').getByRole('button', { name: 'Add a row' }).first().click()
  await expect(page.getByLabel('Amount, row 1')).toBeVisible()
  await pick(page, 'Category, row 1', 'General')
  await page.getByLabel('Amount, row 1').fill('150')

  await part(page, 'Dates and sessions').click()
  await page.locator('#place\\/sessions').getByRole('button', { name: 'Add a row' }).click()
  for (
    const [label, value] of [['Title', 'Forenoon'], ['Report at', '08:30'], ['Gate closes', '09:15'], ['Starts', '09:30'], ['Ends',
      '12:30']] as const
  ) await page.getByLabel(`${label}, row 1`).fill(value)
  // Rows that come out of a spreadsheet.
  const day = await page.evaluate(() => new Date(Date.now() + 90 * 86_400_000).toISOString().slice(0, 10))
  await page.locator('#place\\/sessions input').nth(2).fill(day)

  await part(page, 'Texts').click()
  await page.getByLabel('Declaration').fill('All of this is true.')
  await page.locator('#place\\/card').getByRole('button', { name: 'Add an entry' }).click()
  await page.getByLabel('Instructions 1').fill('Bring this card and your proof.')

  await part(page, 'Cities and seats').click()
  await page.getByRole('button', { name: /^all .* left$/ }).click()
  await errors(page, 'no errors')

  // A fault made on purpose is found at its place, and can be undone.
  await part(page, 'Dates and sessions').click()
  await page.getByRole('button', { name: /^Last moment to pay,/ }).press('PageDown')
  await errors(page, '1 error')
  await expect(page.getByRole('button', { name: 'Open the cycle' })).toBeDisabled()
  await part(page, 'The examination').click()
  await page.locator('aside').getByRole('button', { name: 'Key dates › Last moment to pay' }).click()
  await expect(page.getByRole('heading', { name: 'All dates to scale' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await errors(page, 'no errors')

  // Somebody invented is tried.
  await part(page, 'Posts and rules').click()
  await page.getByRole('button', { name: 'Somebody for Harbour clerk' }).click()
  await expect(page.getByText('Harbour clerk: open')).toBeVisible()

  await expect(page.getByRole('status').filter({ hasText: /^ ?kept/ })).toBeVisible()
  await page.reload()
  await errors(page, 'no errors')
  await page.getByRole('button', { name: 'Open the cycle' }).click()
  const dialog = page.getByRole('dialog')
  const asked = await dialog.getByLabel('Why the cycle may open').isVisible({ timeout: 3000 }).catch(() => false)
  if (asked) {
    await dialog.getByLabel('Why the cycle may open').fill('Looked at and meant so.')
    await dialog.getByRole('button', { name: 'Open the cycle' }).click()
  }
  await expect(page.getByRole('heading', { name: 'Clerks of the Harbour 2027' })).toBeVisible()

  // Anybody reads it, without an account and without scripts.
  const anybody = await browser.newContext({ baseURL, javaScriptEnabled: false })
  const reader = await anybody.newPage()
  await reader.goto('/examinations')
  await reader.getByRole('link', { name: 'Clerks of the Harbour 2027' }).click()
  await expect(reader.getByText('Not below 18 and not above 30 years.')).toBeVisible()
  await expect(reader.getByText('IMK 150.00')).toBeVisible()
  expect((await reader.goto('/examinations/ZZ99'))?.status()).toBe(404)
  await anybody.close()
})

test("two officers at one draft see each other's changes, and are asked where both changed the same", async ({ page, browser, baseURL }) => {
  await signIn(page)
  const id = await keepDraft(page, { code: 'QY27', title: 'First', declaration: 'One.' })
  const other = await (await browser.newContext({ baseURL })).newPage()
  await signIn(other, 'second')
  await page.goto(`/notice/draft/${id}?part=examination`)
  await other.goto(`/notice/draft/${id}?part=texts`)
  await other.getByLabel('Declaration').fill('Two.')
  await expect(other.getByRole('status').filter({ hasText: /^ ?kept \d/ })).toBeVisible()
  await page.getByLabel('Title', { exact: true }).first().fill('Mine')
  await expect(page.getByText(/kept this draft meanwhile/)).toBeVisible({ timeout: 15_000 })
  await part(page, 'Texts').click()
  await expect(page.getByLabel('Declaration')).toHaveValue('Two.')
  await expect.poll(async () => ((await (await page.request.get(`/api/drafts/${id}`)).json()) as { document: unknown }).document)
    .toMatchObject({ title: 'Mine', declaration: 'Two.' })

  // The same value, changed by both while one had no line.
  await page.context().setOffline(true)
  await page.getByLabel('Declaration').fill('Mine.')
  await other.getByLabel('Declaration').fill('Theirs.')
  await expect.poll(async () =>
    ((await (await other.request.get(`/api/drafts/${id}`)).json()) as { document: { declaration: string } }).document.declaration
  ).toBe('Theirs.')
  await page.context().setOffline(false)
  await expect(page.getByText('You and somebody else changed the same value')).toBeVisible({ timeout: 15_000 })
  await page.getByRole('button', { name: 'take mine' }).click()
  await expect.poll(async () =>
    ((await (await page.request.get(`/api/drafts/${id}`)).json()) as { document: { declaration: string } }).document.declaration
  ).toBe('Mine.')
  await other.context().close()
})

test('a past cycle is copied with its dates moved, a table takes rows of a spreadsheet, and a cycle with warnings opens with a word', async ({ page }) => {
  await signIn(page)
  await page.goto('/notice')
  await pick(page, 'Begin with', 'a copy of HL27: Harbour and Lighthouse Service Recruitment Test 2027')
  const opens = await page.evaluate(() => new Date(Date.now() + 200 * 86_400_000).toISOString().slice(0, 10))
  await page.getByLabel('Applications open about').fill(opens)
  await page.getByRole('button', { name: 'Begin the draft' }).click()
  await page.waitForURL(/notice\/draft/)
  await errors(page, '1 error')
  await page.locator('aside').getByRole('button', { name: 'Code' }).click()
  await page.keyboard.type('QV28')
  await errors(page, 'no errors')

  await part(page, 'Categories and lists').click()
  const cell = page.locator('#place\\/subjects input').first()
  await expect(cell).toHaveValue(/./)
  const before = await page.locator('#place\\/subjects tbody tr').count()
  await cell.evaluate((element, text) => {
    const data = new DataTransfer()
    data.setData('text/plain', text)
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  }, 'Tides\ttides\nCharts\tcharts')
  await expect(page.locator('#place\\/subjects input').first()).toHaveValue('Tides')
  await expect(page.locator('#place\\/subjects input').nth(2)).toHaveValue('Charts')
  expect(await page.locator('#place\\/subjects tbody tr').count()).toBe(before)
  // What was overwritten is missed where it is used; one press brings it back.
  await expect(page.locator('aside').getByText(/is not one of the subjects/).first()).toBeVisible()
  await page.keyboard.press('Control+z')
  await errors(page, 'no errors')

  await part(page, 'Posts and rules').click()
  await page.locator('summary').first().click()
  await page.locator('summary').filter({ hasText: '4.1' }).click()
  await page.getByLabel('Text', { exact: true }).fill('Not above 28 years.')
  await expect(page.getByText(/says 28, which its rule does not use/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Open the cycle' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('button', { name: 'Open the cycle' })).toBeDisabled()
  await dialog.getByLabel('Why the cycle may open').fill('The printed notice is being mended.')
  await dialog.getByRole('button', { name: 'Open the cycle' }).click()
  await expect(page.getByText('QV28 · version 1 in force')).toBeVisible()
  await page.goto('/records')
  await expect(page.getByText('The printed notice is being mended.')).toBeVisible()
})
