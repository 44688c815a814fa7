import { expect, test, type Page } from '@playwright/test'
import { signIn } from './office'

const numberOf = (page: Page) => page.getByText(/^HL27-\d{7}-\d$/).first().innerText()

test('two people go through the queue by keys and never meet in one case', async ({ page, browser, baseURL }) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await signIn(page, 'scrutineer')
  const other = await browser.newContext({ baseURL })
  const second = await other.newPage()
  await signIn(second, 'officer')
  const seen: string[] = []
  for (const who of [page, second]) {
    await who.goto('/scrutiny')
    await who.getByRole('button', { name: 'Take the next of Plain' }).click()
    await expect(who.getByRole('button', { name: /^Accept/ })).toBeVisible()
    seen.push(await numberOf(who))
  }
  for (let i = 0; i < 2; i++) {
    const here = await numberOf(page)
    await page.keyboard.press('a')
    await expect(page.getByText(`${here} accepted`)).toBeVisible()
    await expect(page.getByText(here, { exact: true })).toBeHidden()
    await expect(page.getByRole('button', { name: /^Accept/ })).toBeVisible()
    seen.push(await numberOf(page))
  }
  expect(new Set(seen).size).toBe(seen.length)

  // Somebody else's case can be read, not decided on.
  await page.goto(second.url())
  await expect(page.getByText(/Senna Halwen has this case in hand/)).toBeVisible()
  await expect(page.getByRole('button', { name: /^Accept/ })).toBeHidden()

  // A desk is asked; the case comes back with the answer.
  await second.getByRole('button', { name: 'Ask a desk' }).click()
  await second.getByLabel('Desk', { exact: true }).selectOption('accounts')
  await second.getByLabel('What the desk is to find out').fill('Did the fee come from this person?')
  await second.getByRole('button', { name: 'Ask a desk' }).click()
  await expect(second.getByText('Accounts was asked by Senna Halwen')).toBeVisible()
  await second.getByLabel('The answer of the desk').fill('Yes, from an account of the same name.')
  await second.getByRole('button', { name: 'Answer', exact: true }).click()
  await expect(second.getByText('Yes, from an account of the same name.')).toBeVisible()
  await other.close()
})

test('a likely pair is judged, and what was held against a paper stays', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await signIn(page, 'scrutineer')
  await page.goto('/scrutiny')
  await page.getByRole('button', { name: 'Take the next of Likely applied before' }).click()
  const tick = page.getByRole('button', { name: /Date of birth, .*: agrees/ }).first()
  await tick.click()
  await expect(tick).toHaveAttribute('aria-pressed', 'true')
  await page.getByRole('link', { name: 'Judge the pair' }).click()
  await expect(page.getByText('the same number of a paper')).toBeVisible()
  await page.getByLabel('Why, naming what was looked at').fill('One passport, two applications')
  await page.getByRole('button', { name: /^Same person: HL27/ }).first().click()
  await expect(page.getByText(/same person by Orin Tamsero/)).toBeVisible()
  await expect(page.getByText('withdrawn')).toBeVisible()
})

test('the roster is filtered, counted and kept', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await signIn(page)
  await page.goto('/roster')
  await page.getByRole('button', { name: 'Filter', exact: true }).click()
  await page.getByLabel('What to filter by').selectOption({ label: 'Category' })
  await page.getByRole('checkbox', { name: 'Outer Isles' }).check()
  await page.getByLabel('What to filter by').selectOption({ label: 'fee' })
  await page.getByRole('checkbox', { name: 'settled' }).check()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Take off the filter fee: settled' })).toBeVisible()
  const counted = await page.getByText(/^\d+ applications?$/).innerText()
  const csv = await page.request.get(await page.getByRole('link', { name: 'CSV', exact: true }).getAttribute('href') ?? '')
  expect((await csv.text()).trimEnd().split('\r\n').length - 1).toBe(parseInt(counted))
  const name = `Isles, paid ${Date.now()}`
  await page.getByRole('button', { name: 'Kept lists' }).click()
  await page.getByLabel('Name of the list').fill(name)
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByRole('button', { name, exact: true })).toBeVisible()
  await page.goto('/roster')
  await page.getByRole('button', { name: 'Kept lists' }).click()
  await page.getByRole('button', { name, exact: true }).click()
  await expect(page.getByText(counted, { exact: true })).toBeVisible()
  await page.goto('/roster')
  await page.getByLabel('Number, name or telephone').fill('Brenulmarc')
  await expect(page.getByRole('heading', { name: /Names spelt or sounding like/ })).toBeVisible()
})

test('a long list draws only the rows in sight, and Back leads to the row that was left', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await signIn(page)
  await page.goto('/roster')
  await page.getByRole('combobox', { name: 'Cycle in work' }).selectOption({ label: 'Marine Colleges Entrance Test' })
  await expect(page.getByText('5,000 applications')).toBeVisible()
  const box = page.getByLabel('Applications', { exact: true })
  const far = page.getByRole('link', { name: /MC27-0000600-/ })
  await expect(async () => {
    await box.evaluate(one => one.scrollTo(0, 599 * 38 - 200))
    await expect(far).toBeVisible({ timeout: 1000 })
  }).toPass({ timeout: 30_000 })
  expect(await page.getByRole('row').count()).toBeLessThan(80)
  expect(Number(await page.getByRole('table').getAttribute('aria-rowcount'))).toBeGreaterThan(600)
  await far.click()
  await expect(page.getByText(/MC27-0000600-/).first()).toBeVisible()
  await page.goBack()
  await expect(far).toBeInViewport({ timeout: 15_000 })
})

test('what somebody asks for is granted and declined by keys, and only then can the case be accepted', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await signIn(page, 'scrutineer')
  const found =
    await (await page.request
      .get(`/api/cycles/HL27/roster?is=${
        encodeURIComponent('matter:request-open|scrutineer')
      }&is=lane:person&is=lane:files&is=lane:requests&limit=10`)).json() as { rows: { id: string }[] }
  const id = found.rows[0]?.id
  expect(id).toBeDefined()
  await page.goto(`/scrutiny/${id}`)
  await expect(page.getByText('asks for something that nobody has decided on')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Accept/ })).toBeHidden()
  await expect(page.getByRole('button', { name: /^Return/ })).toBeVisible()
  const open = page.getByText('not decided', { exact: true })
  for (let left = await open.count(); left > 0; left -= 1) {
    await page.keyboard.press(left === 1 ? 'd' : 'g')
    const reason = page.getByLabel('Reason of the decision')
    await expect(reason).toBeFocused()
    await reason.fill('As the papers say.')
    await page.keyboard.press('Control+Enter')
    await expect(open).toHaveCount(left - 1)
  }
  await expect(page.getByText('declined', { exact: true })).toHaveCount(1)
  await expect(page.getByText(/Declined by Orin Tamsero, .*As the papers say/)).toBeVisible()
  const own = await (await page.request.get(`/api/applications/${id}`)).json() as {
    requests: { word: string | null }[],
    matters: { kind: string }[],
  }
  expect(own.requests.every(request => request.word !== null)).toBe(true)
  expect(own.matters.map(matter => matter.kind)).not.toContain('request-open')
})
