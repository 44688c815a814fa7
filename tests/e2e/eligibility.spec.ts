import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { pick, registerCandidate, signIn } from './office'

test('the margin says why a post is shut, how far it is off, and reads a table of subjects', async ({ page }) => {
  await signIn(page)
  await registerCandidate(page)
  await page.getByLabel('Date of birth').fill('2002-12-31')
  for (const [group, option] of [['Category', 'General'], ['Disability declared', 'No']] as const) {
    await page.getByRole('radiogroup', { name: group }).getByText(option, { exact: true }).click()
  }
  await page.getByText('Pilot cadet', { exact: true }).first().click()
  await expect(page.getByText('Pilot cadet: not open')).toBeVisible()
  await expect(page.getByText(/days make the difference/).first()).toBeVisible()
  for (const [group, option] of [['Result awaited', 'No'], ['The certificate states', 'Marks or grades by subject']] as const) {
    await page.getByRole('radiogroup', { name: group }).getByText(option, { exact: true }).click()
  }
  await pick(page, 'Board or university', 'Northern Isles Board')
  for (const [row, subject, marks] of [[1, 'Mathematics', '88'], [2, 'Physics', '59']] as const) {
    await pick(page, `Subjects, row ${row}, Subject`, subject)
    await page.getByLabel(`Subjects, row ${row}, Marks`).fill(marks)
    await page.getByLabel(`Subjects, row ${row}, of`).fill('100')
  }
  await page.getByText('How 73.50 % was found').first().click()
  await expect(page.getByText('147 of 200').first()).toBeVisible()
  await page.getByLabel('Subjects, row 2, Marks').fill('101')
  await expect(page.getByText('Subjects, row 2, Marks is above the total of 100')).toBeVisible()
  await expect(page.getByText(/^answers saved \d/)).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Subjects, row 2, Marks')).toHaveValue('101')
})

test('a claim found false takes the fee with it, in words before it is done', async ({ page, request }) => {
  await signIn(page, 'scrutineer')
  await page.goto('/scrutiny')
  const rows = await (await page.request.get('/api/cycles/HL27/roster?is=at:in%20scrutiny&limit=100')).json() as {
    rows: { id: string, category: string, fee: string }[],
  }
  const claimant = rows.rows.find(row => row.category === 'outer-isles' && row.fee === 'settled')
  await page.goto(`/scrutiny/${claimant?.id}`)
  await page.getByRole('button', { name: 'Find it false' }).first().click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/IMK \d+\.\d\d more due/)
  await dialog.getByLabel('Reason of the ruling').fill('The certificate was issued to another person.')
  await dialog.getByRole('button', { name: 'Find it false' }).click()
  await expect(page.getByText('Outer Isles: found false')).toBeVisible()
  await expect(page.getByText('counts as General: claim found false')).toBeVisible()
  await expect(page.getByText(/· due$/)).toBeVisible()
  expect((await request.post(`/api/applications/${claimant?.id}/claims/outer-isles/ruling`)).status()).toBe(401)
})

test('an amended notice is listed before it is accepted, and one with faults is refused', async ({ page }) => {
  await signIn(page)
  const { notice } = await (await page.request.get('/api/cycles/HL27/notice')).json() as {
    notice: { posts: { clauses: { rule: { maxYears?: number } }[] }[] },
  }
  const folder = mkdtempSync(join(tmpdir(), 'lucid-notice-'))
  const write = (name: string, change: (n: typeof notice) => void) => {
    const copy = structuredClone(notice)
    change(copy)
    writeFileSync(join(folder, name), JSON.stringify(copy))
    return join(folder, name)
  }
  const ageRule = (n: typeof notice) => n.posts[0]?.clauses[0]?.rule ?? {}
  // A file becomes a draft, whatever is wrong with it, and opens there.
  const begin = async (name: string, maxYears: number) => {
    await page.goto('/notice')
    await page.getByLabel('File of the amended notice').setInputFiles(write(name, (n) => {
      ageRule(n).maxYears = maxYears
    }))
    await page.waitForURL(/\/notice\/draft\//)
  }
  const propose = page.getByRole('button', { name: 'Propose the amendment' })
  await begin('faulty.json', 3)
  await expect(page.getByText(/The least, 18, is above the most, 3/).first()).toBeVisible()
  await expect(propose).toBeDisabled()
  await page.goto('/notice')
  const draft = page.locator('.drafts li').first()
  await expect(draft.getByText('✕ 1 error')).toBeVisible()
  await draft.getByRole('button', { name: 'What would change' }).click()
  await expect(page.getByText('1 difference from the notice in force')).toBeVisible()
  await expect(page.getByText(/^Posts, Pilot cadet, clauses, 4.1, rule, most years: 24 → 3$/)).toBeVisible()
  await draft.getByRole('button', { name: 'Throw away' }).click()
  await page.getByRole('tooltip').getByRole('button', { name: 'Throw away' }).click()
  await expect(page.getByText(/most years: 24 → 3$/)).toBeHidden()
  await begin('stricter.json', 20)
  await propose.click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Why the notice is amended').fill('The bound of 4.1 was misprinted.')
  await dialog.getByRole('button', { name: 'Propose the amendment' }).click()
  await expect(page.getByRole('heading', { name: /^Review \d+: version \d+ proposed/ })).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText('Why: The bound of 4.1 was misprinted.')).toBeVisible()
  await expect(page.getByText('Posts, Pilot cadet, clauses, 4.1, rule, most years: 24 → 20')).toBeVisible()
  await expect(page.getByRole('row').filter({ hasText: 'not open' }).first()).toContainText('4.1')
  await page.getByText('Posts applied for', { exact: true }).click()
  await expect(page.getByRole('row').filter({ hasText: 'applied for' }).first()).toBeVisible()
  // Agreed from a later moment, it waits and can still be laid aside.
  await page.getByRole('button', { name: 'Accept the amendment' }).click()
  await dialog.getByText('From a moment').click()
  await dialog.getByLabel('Moment from which the amendment holds', { exact: true }).fill('1 January 2030')
  await dialog.getByLabel(/^Moment from which.*clock/).fill('09:00')
  await dialog.getByRole('button', { name: 'Accept', exact: true }).click()
  await expect(page.getByText(/it holds from Tue 1 Jan 2030/)).toBeVisible()
  await page.getByRole('button', { name: 'Lay aside' }).click()
  await expect(page.getByText('– Laid aside')).toBeVisible()
  await page.goto('/notice')
  await expect(page.getByText('version 1 in force')).toBeVisible()
})
