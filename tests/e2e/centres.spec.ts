import { expect, test, type Page } from '@playwright/test'
import { pick, signIn } from './office'

/** The second cycle of the demo, with its 5,000 applicants. */
async function toMarineColleges(page: Page): Promise<void> {
  await page.getByRole('combobox', { name: 'Cycle in work' }).selectOption({ label: 'Marine Colleges Entrance Test' })
  await expect(page.getByRole('link', { name: /accepted 5,000/ })).toBeVisible()
}

async function run(page: Page, policy: string): Promise<string> {
  await page.goto('/centres/new')
  await page.getByRole('radiogroup').getByText(policy, { exact: true }).click()
  await page.getByRole('button', { name: 'Run the allocation' }).click()
  await expect(page.getByRole('heading', { level: 1, name: new RegExp(`^Run \\d+: ${policy}`, 'i') })).toBeVisible({ timeout: 60_000 })
  return new URL(page.url()).pathname
}

test('first come and best fit are compared, seats are added where they help most, published, and one reason is read', async ({ page }) => {
  test.setTimeout(480_000)
  await signIn(page)
  await toMarineColleges(page)

  await test.step('demand stands against seats, with what a run would give now', async () => {
    await page.goto('/centres/demand')
    await expect(page.getByRole('heading', { name: /5,000 applications for [\d,]+ seats/ })).toBeVisible()
    await page.getByRole('button', { name: 'Try a run' }).click()
    await expect(page.getByText(/✓ proven best|≈ near the bound/)).toBeVisible({ timeout: 60_000 })
    await expect(page.getByRole('img', { name: /Applications by day/ }).locator('svg').first()).toBeVisible()
  })

  await run(page, 'First come')
  await expect(page.getByText('≡ by policy').first()).toBeVisible()
  const best = await run(page, 'Best fit')
  await expect(page.getByText(/✓ proven best|≈ near the bound/).first()).toBeVisible()
  // Some sit two papers: they stand apart from those who sit one, each with the sessions.
  await expect(page.getByRole('row', { name: /Paper in naval engineering Paper in oceanography First day, forenoon/ }).first())
    .toBeVisible()
  await expect(page.getByRole('img', { name: /distance between home/ }).locator('svg').first()).toBeVisible()

  await test.step('who gains and who loses is told, group by group', async () => {
    await page.goto('/centres/compare')
    await expect(page.getByText(/▲ [\d,]+ gain/)).toBeVisible()
    await expect(page.getByRole('cell', { name: 'Outer Isles', exact: true })).toBeVisible()
    await page.getByText('loses most').click()
    await expect(page.getByRole('cell', { name: /▼/ }).first()).toBeVisible()
  })

  let city = ''
  await test.step('what 50 more seats save is computed, and a run with them is tried', async () => {
    await page.goto(best)
    await page.getByRole('button', { name: /^Compute for/ }).click()
    const help = page.getByText('50 more seats help most in')
    await expect(help).toBeVisible({ timeout: 60_000 })
    city = await help.locator('b').innerText()
    await page.getByRole('button', { name: 'Try a run with them' }).click()
    await expect(page.getByLabel(`${city}, First day, forenoon, seats`)).toHaveClass(/changed/)
    await page.getByRole('button', { name: 'Run the allocation' }).click()
    await expect(page.getByText('Seats still to be found')).toBeVisible({ timeout: 60_000 })
    await expect(page.getByRole('button', { name: /^Publish run/ })).toBeDisabled()
  })

  await test.step('a room is found for them, and the run is published', async () => {
    await page.getByRole('button', { name: 'Add a room' }).click()
    await page.getByLabel('Name of the room').fill('Gymnasium')
    await page.getByRole('button', { name: 'Add the room' }).click()
    await expect(page.getByText('Seats still to be found')).toBeHidden()
    await page.getByRole('button', { name: /^Publish run/ }).click()
    await page.getByRole('button', { name: 'Publish', exact: true }).click()
    await expect(page.getByText(/^5,000 people have their seat/)).toBeVisible({ timeout: 60_000 })
  })

  await test.step("one candidate's reason is read, in words", async () => {
    await page.getByRole('row', { name: /Second choice/ }).getByRole('button').click()
    await expect(page.getByRole('heading', { name: 'People with choice 2' })).toBeVisible()
    await page.getByRole('link', { name: 'Why here?' }).first().click()
    await expect(page.getByText(/your second choice\./)).toBeVisible()
    await expect(page.getByText(/more seats? there would have been needed for you/)).toBeVisible()
    await page.getByRole('link', { name: /^MC27-/ }).click()
    await expect(page.getByText(/Roll number|roll/i).first()).toBeVisible()
  })
})

test('somebody is placed by hand with a reason, at a cost that is told, and stays through the next run', async ({ page }) => {
  test.setTimeout(420_000)
  await signIn(page)
  await page.goto('/')
  const best = await run(page, 'Best fit')
  const { people } = await (await page.request.get(`/api/runs/${best.split('/').at(-1)}/people?choice=1&limit=1`)).json() as {
    people: { applicationId: string, name: string, city: string }[],
  }
  await page.goto(`/centres/why/${best.split('/').at(-1)}/${people[0]?.applicationId}`)
  await page.getByRole('button', { name: 'Place by hand' }).click()
  await pick(page, 'City', people[0]?.city === 'umberley' ? 'Fenwater' : 'Umberley')
  await expect(page.getByText(/over all people together|Costs nobody anything|no seat that the run may fill/)).toBeVisible()
  await page.getByLabel('Reason, for the record').fill('Sits with a sibling')
  await page.getByRole('dialog').getByRole('button', { name: 'Place by hand' }).click()
  await expect(page.getByRole('heading', { name: 'New run' })).toBeVisible()
  await page.getByRole('button', { name: 'Run the allocation' }).click()
  await page.getByRole('button', { name: 'placed by hand' }).click()
  await expect(page.getByRole('cell', { name: people[0]?.name })).toBeVisible()
  await page.goto('/centres')
  await page.getByRole('button', { name: 'Release' }).click()
  await page.getByRole('dialog').getByRole('textbox').fill('The sibling withdrew')
  await page.getByRole('dialog').getByRole('button', { name: 'Release' }).click()
  await expect(page.getByText('Placed by hand')).toBeHidden()
})
