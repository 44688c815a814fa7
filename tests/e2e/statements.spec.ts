import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { signIn } from './office'

test('the accounts desk brings a day at the bank to a closing in which everything is explained', async ({ page }) => {
  await signIn(page, 'accounts')
  await page.goto('/standins/bank')
  await page.getByRole('button', { name: 'Let a day pass' }).click()
  await expect(page.getByText(/^Day 2,/)).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'MT940' }).first().click()])
  const statement = readFileSync(await file.path())

  await page.goto('/fees/statements')
  await expect(page.getByRole('link', { name: '2 lines wait' })).toBeVisible()
  const take = (buffer: Buffer) =>
    page.getByLabel('Take a statement: Fees').setInputFiles({ name: 'day.sta', mimeType: 'text/plain', buffer })
  // Days that another format covers would count twice; a file that was cut is refused whole.
  await take(statement.subarray(0, statement.length / 2))
  await expect(page.getByText(/cannot be read from line \d+ on/)).toBeVisible()
  await take(statement)
  await expect(page.getByText(/lines were booked by themselves/)).toBeVisible({ timeout: 30_000 })
  await take(statement)
  await expect(page.getByText(/one was there already/)).toBeVisible()

  // What was not sure waits with what speaks for it and against; the keys decide.
  await page.goto('/fees/matching')
  await page.getByRole('button', { name: /An Uncle of Theirs/ }).click()
  await expect(page.getByText('a reference one fault away; the very amount; another name')).toBeVisible()
  await page.keyboard.press('1')
  await expect(page.getByRole('button', { name: /An Uncle of Theirs/ })).toBeHidden()
  await page.getByRole('button', { name: 'Explained' }).click()
  await page.getByRole('button', { name: /An Uncle of Theirs/ }).click()
  await expect(page.getByText(/booked by Cassil Varno/)).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).click()
  await page.getByRole('dialog').getByRole('textbox').fill('It was for somebody else')
  await page.getByRole('dialog').getByRole('button', { name: 'Take back' }).click()
  await page.getByRole('button', { name: 'Money in' }).click()
  await page.getByRole('button', { name: /An Uncle of Theirs/ }).click()
  await page.getByLabel('Number or name').fill('HL27-00')
  await page.getByRole('listitem').getByRole('button', { name: /due IMK/ }).first().click()
  await expect(page.getByText(/of the line is not given|more than the line|Book IMK/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Money out' }).click()
  await page.getByRole('button', { name: /account keeping/ }).first().click()
  await page.getByRole('button', { name: 'A charge of the bank' }).click()
  await expect(page.getByRole('button', { name: /account keeping/ })).toHaveCount(1)

  await page.goto('/fees/closing')
  await expect(page.getByRole('heading', { name: 'Every account and what explains it' })).toBeVisible()
  const differences = page.locator('td.number.settled')
  expect(await differences.count()).toBeGreaterThan(5)
  expect(await differences.allInnerTexts()).toEqual(Array.from({ length: await differences.count() }, () => 'nothing'))
  await expect(page.locator('td.number.refusal')).toHaveCount(0)
  await page.getByLabel('Note (may stay empty)').fill('One line waits: an uncle')
  await page.getByRole('button', { name: /^Close 20/ }).click()
  await expect(page.getByText(/Closed by Cassil Varno/)).toBeVisible()
  await expect(page.getByRole('button', { name: /^Close 20/ })).toBeHidden()
})

test('accounts bill whoever pays by the notice for all of theirs, and a list of the roster on one bill', async ({ page }) => {
  await signIn(page, 'accounts')
  await page.goto('/fees/bills')
  const payer = page.getByRole('row', { name: /Ilmara Fisheries Guild/ }).first()
  await payer.getByRole('button', { name: 'Bill them' }).click()
  await expect(payer.getByRole('button', { name: 'Bill them' })).toBeDisabled()
  const bill = page.getByRole('link', { name: /^HL27-/ }).first()
  expect((await (await page.request.get(await bill.getAttribute('href') ?? '')).body()).subarray(0, 5).toString()).toBe('%PDF-')
  await page.getByRole('button', { name: 'Withdraw' }).first().click()
  await expect(page.getByText(/withdrawn by Cassil Varno/)).toBeVisible()
  await page.goto('/roster?is=fee:due')
  await page.getByRole('button', { name: 'Pay for those who owe' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Who pays, as their bank has the name').fill('Skarnholm Grammar School')
  await dialog.getByRole('button', { name: 'Make the bill' }).click()
  await expect(dialog.getByText(/under the reference RF\d\d HL27/)).toBeVisible()
})

test('a slip that was paid in at a counter is handed in, found to be used twice, confirmed, and stands in transit', async ({ page }) => {
  await signIn(page, 'accounts')
  const due = await (await page.request.get('/api/cycles/HL27/roster?is=fee:due&limit=40')).json() as {
    rows: { id: string, tags: string[] }[],
  }
  await page.goto(`/intake/${due.rows.find(row => row.tags.includes('form:submitted'))?.id}`)
  await page.getByRole('button', { name: 'I have paid at a bank' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Bank and branch').fill('Lohn, Market')
  await dialog.getByLabel('Day of the deposit').fill(new Date(Date.now() - 36 * 3_600_000).toISOString().slice(0, 10))
  await dialog.getByLabel('Picture or PDF of the slip').setInputFiles({
    name: 'slip.jpg',
    mimeType: 'image/jpeg',
    buffer: await drawPortrait(new Random(77), 'none'),
  })
  await dialog.getByRole('button', { name: 'Send the slip' }).click()
  await expect(page.getByText('waits to be looked at', { exact: true })).toBeVisible()
  await page.goto('/fees/slips')
  await expect(page.getByText('The same paper was handed in for')).toHaveCount(2)
  const waiting = Number(/^(\d+) slips wait/.exec(await page.getByRole('heading', { level: 1 }).innerText())?.[1])
  await page.keyboard.press('c')
  await expect(page.getByRole('heading', { name: `${waiting - 1} slips wait` })).toBeVisible()
  await page.goto('/fees')
  await expect(page.getByText('slips in transit').first()).toBeVisible()
})

test('an officer reads the books and changes nothing in them; a slip can be printed for whoever owes', async ({ page }) => {
  await signIn(page, 'officer')
  for (const path of ['/fees/statements', '/fees/matching', '/fees/slips', '/fees/payouts', '/fees/refunds', '/fees/closing']) {
    await page.goto(path)
    await expect(page.getByRole('navigation', { name: 'Fees' })).toBeVisible()
    await expect(page.getByRole('button', { name: /Take a|It is theirs|^Close 20|Enter an account/ })).toHaveCount(0)
  }
  await page.goto('/roster?fee=due')
  await page.getByRole('link', { name: /HL27-/ }).first().click()
  const slip = page.getByRole('link', { name: 'Deposit slip to print' })
  await expect(slip).toBeVisible()
  const answer = await page.request.get(await slip.getAttribute('href') ?? '')
  expect((await answer.body()).subarray(0, 5).toString()).toBe('%PDF-')

  // Who has paid has a receipt, which anybody who holds it may have checked.
  await page.goto('/roster?fee=settled')
  await page.getByRole('link', { name: /HL27-/ }).first().click()
  const receipt = page.getByRole('link', { name: /^\d{4}-\d{7}-\d ·/ })
  await expect(receipt).toBeVisible()
  expect((await (await page.request.get(await receipt.getAttribute('href') ?? '')).body()).subarray(0, 5).toString()).toBe('%PDF-')
  const number = (await receipt.innerText()).split(' ')[0] ?? ''
  await page.goto('/receipt')
  const ask = async (of: string) => {
    await page.getByLabel('Number').fill(of)
    await page.getByLabel('Code').fill('AAAAAAAAAA')
    await page.getByRole('button', { name: 'Ask the office' }).click()
  }
  await ask(number.slice(0, -1) + String((Number(number.at(-1)) + 1) % 10))
  await expect(page.getByText('its check digit does not agree')).toBeVisible()
  await ask(number)
  await expect(page.getByText('no receipt with this number and code')).toBeVisible()
})
