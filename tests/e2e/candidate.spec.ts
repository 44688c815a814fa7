import { createChallenge, verifySolution, type Solution } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2'
import { expect, test, type Page } from '@playwright/test'
import { addPictures, fillSheet, payAtGateway, signIn, startPaying, submitSheet } from './office'

/** A candidate's way on a telephone, from the public page to a paid application. */
async function codeFor(staff: Page, address: string): Promise<string> {
  const { rows } = await (await staff.request.get(`/api/letters?search=${encodeURIComponent(address)}`)).json() as {
    rows: { body: string }[],
  }
  return /\d{6}/.exec(rows[0]?.body ?? '')?.[0] ?? ''
}

/** A correction that takes effect at once, and one that the office looks at. */
async function correct(page: Page, staff: Page, id: string): Promise<void> {
  await page.goto(`/own/${id}`)
  await page.getByRole('link', { name: 'Correct something' }).click()
  await page.getByRole('button', { name: 'Begin a correction' }).click()
  await page.getByLabel('Street and house').fill('7 Lantern Row')
  await expect(page.getByRole('row', { name: /Street and house.*7 Lantern Row/ })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  // Nothing typed is lost with the page, and nothing counts yet.
  await page.reload()
  await expect(page.getByLabel('Street and house')).toHaveValue('7 Lantern Row')
  expect((await (await page.request.get(`/api/applications/${id}`)).json() as { answers: { address: string } }).answers.address).not
    .toBe('7 Lantern Row')
  await page.getByRole('button', { name: 'Hand the correction in' }).click()
  await expect(page.getByText('Has taken effect.')).toBeVisible()

  await page.getByRole('button', { name: 'Begin another one' }).click()
  await page.getByLabel('Name on the school certificate').fill('Tavirel Oskanunde')
  await expect(page.getByText('Still missing: Proof of the correction')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Hand the correction in' })).toBeDisabled()
  await page.getByRole('button', { name: 'Drop it' }).click()
  await expect(page.getByRole('button', { name: 'Begin another one' })).toBeVisible()
  await staff.goto('/scrutiny/corrections')
  await expect(staff.getByRole('heading', { name: 'No correction waits' })).toBeVisible()
}

/** What the office does shows on the candidate's page while it is open, without loading it again. */
async function watched(page: Page, staff: Page, id: string): Promise<void> {
  await page.goto(`/own/${id}`)
  const standing = page.getByRole('region', { name: 'Where an application stands' })
  await expect(standing).toContainText('Waits for scrutiny. The office has it')
  await page.evaluate(() => {
    document.body.dataset.same = 'page'
  })
  await staff.goto(`/intake/${id}`)
  await staff.getByRole('button', { name: 'Withhold the card' }).click()
  const dialog = staff.getByRole('dialog')
  await dialog.getByLabel('Reason').fill('Looked at by the registrar')
  await dialog.getByRole('button', { name: 'Withhold the card' }).click()
  await expect(page.getByText('Admit card is withheld').first()).toBeVisible()
  await expect(standing).toContainText('withheld: what comes next says why')
  expect(await page.evaluate(() => document.body.dataset.same)).toBe('page')
}

test('somebody applies on a telephone from nothing to a paid application, and is told by letter', async ({ page, browser, baseURL }) => {
  test.setTimeout(420_000)
  await page.setViewportSize({ width: 390, height: 844 })
  const staff = await (await browser.newContext({ baseURL })).newPage()
  await signIn(staff)

  await page.goto('/examinations/HL27')
  await page.getByRole('link', { name: 'Apply' }).click()
  await page.getByLabel('E-mail address').fill('not an address')
  await page.getByLabel('E-mail address').press('Enter')
  const address = `tavi${Date.now()}@post.example`
  await page.getByLabel('E-mail address').fill(address)
  await page.getByRole('button', { name: 'Send me a code' }).click()
  await expect(page.getByText(`A code of six digits was sent to ${address}`)).toBeVisible()
  await page.getByLabel('Code').fill('000000')
  await page.getByRole('button', { name: 'Go in' }).click()
  await expect(page.getByText(/The code does not fit/)).toBeVisible()
  await page.getByLabel('Code').fill(await codeFor(staff, address))
  await page.getByRole('button', { name: 'Go in' }).click()
  await expect(page.getByText('You have no application yet.')).toBeVisible()

  // The office is not theirs, by address or by request.
  await page.goto('/roster')
  await expect(page).toHaveURL(/\/own/)
  expect((await page.request.get('/api/cycles/HL27/roster')).status()).toBe(403)

  await page.goto('/own?examination=HL27')
  await page.getByRole('button', { name: 'Begin an application', exact: true }).dblclick()
  await expect(page.getByRole('heading', { name: 'New application' })).toBeVisible()
  await fillSheet(page, 'Tavirel Osk-Anundé')
  await page.getByLabel('Number of the proof').fill('SB44719')
  // All that is missing is listed, and each is a press away.
  await page.getByRole('button', { name: /still missing or wrong$/ }).click()
  const gaps = page.getByRole('region', { name: 'All that is missing or wrong' })
  await expect(gaps.getByRole('button')).toHaveCount(5)
  await gaps.getByRole('button', { name: 'Number of the proof is not written like one' }).click()
  await expect(page.getByLabel('Number of the proof')).toBeFocused()
  await expect(page).toHaveURL(/#part-person$/)
  await page.getByLabel('Number of the proof').fill('SB4471923')
  await page.getByRole('button', { name: 'Same as Street and house' }).click()
  await expect(page.getByLabel('Address for letters')).toHaveValue(/\S/)
  await addPictures(page)
  await page.getByRole('button', { name: 'Submit', exact: true }).click()
  const read = page.getByRole('group', { name: 'What is handed in' })
  await expect(read).toContainText('Cannot be changed afterwards')
  await expect(read).toContainText('SB4471923')
  await page.getByRole('button', { name: 'Not yet' }).click()
  await submitSheet(page, 'I declare this')
  await startPaying(page, 'by wallet')
  await expect(page.getByText('Time left to pay:')).toBeVisible()
  await payAtGateway(page, 'It is paid', 'Wallet')

  await page.goto('/own')
  await expect(page.getByText('Tavirel Osk-Anundé')).toHaveCount(1)
  await expect(page.getByText(/in scrutiny/)).toBeVisible()
  await expect(async () => {
    await page.reload()
    await expect(page.getByText(/: your form has arrived/)).toBeVisible({ timeout: 1000 })
    await expect(page.getByText(/: paid/)).toBeVisible({ timeout: 1000 })
  }).toPass({ timeout: 30_000 })
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)

  const own = await (await page.request.get('/api/own')).json() as { applications: { id: string }[] }
  const id = own.applications[0]?.id ?? ''
  await correct(page, staff, id)
  await ask(page, staff, id)
  await watched(page, staff, id)

  const { number, answers } = await (await page.request.get(`/api/applications/${id}`)).json() as {
    number: string,
    answers: { bornOn: string },
  }

  await again(page, staff)

  // Another person sees nothing of it.
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByText('Your address')).toBeVisible()
  expect((await page.request.get(`/api/applications/${own.applications[0]?.id}`)).status()).toBe(401)
  // Whoever has its number and knows the birthday reads where it stands.
  await page.goto('/standing')
  for (const proof of ['1900-01-01', answers.bornOn]) {
    await page.getByLabel('Number of the application').fill(number)
    await page.getByLabel('Date of birth, or e-mail address').fill(proof)
    await page.getByRole('button', { name: 'Look' }).click()
    await expect(page.getByText(proof === answers.bornOn ? /^handed in / : /No application has this number/)).toBeVisible()
  }
  await staff.goto('/letters')
  await staff.getByLabel('Address begins with').fill(address)
  await expect(staff.getByRole('row').filter({ hasText: address }).filter({ hasText: 'is your code' })).toBeVisible()
  await expect(staff.getByRole('row').filter({ hasNotText: address })).toHaveCount(1)
  await staff.context().close()
})

/** Asks the office from the form; the office answers, sees what the candidate sees, and whether they have read it. */
async function ask(page: Page, staff: Page, id: string): Promise<void> {
  await page.goto(`/own/${id}`)
  await page.getByRole('button', { name: 'Ask the office' }).click()
  await page.getByLabel('What it is about').selectOption('Contact')
  await page.getByLabel('Your question').fill('May my sister fetch the card for me?')
  await page.getByRole('button', { name: 'Ask the office' }).click()
  await expect(page.getByText(/An answer comes by/)).toBeVisible()
  await page.goto('/own/account')
  await staff.goto('/questions')
  await staff.getByRole('button', { name: /May my sister fetch/ }).click()
  await staff.getByLabel('Your answer').fill('Nobody needs to: you print it yourself.')
  await staff.getByLabel('Your answer').press('Control+Enter')
  await expect(staff.getByRole('button', { name: /May my sister fetch/ })).toHaveCount(0)
  await staff.goto(`/intake/${id}`)
  const told = staff.getByRole('listitem').filter({ hasText: 'answered a question' }).filter({ hasText: /read/ })
  await expect(told).toContainText('not read yet')
  await staff.getByRole('link', { name: 'As the candidate sees it' }).click()
  // The sheet shows the answer, too: the other page has to stand before it is loaded again.
  await expect(staff).toHaveURL(/\/intake\/as\//)
  await expect(staff.getByText('Nobody needs to: you print it yourself.')).toBeVisible()
  // The letter is written a moment later; it stands with its application and among all letters.
  await expect(async () => {
    await staff.reload()
    await expect(staff.getByText(/the office has answered you/)).toHaveCount(2, { timeout: 8000 })
  }).toPass({ timeout: 40_000 })
  for (const button of await staff.locator('main').getByRole('button').all()) await expect(button).toBeDisabled()
  await staff.getByRole('link', { name: 'Back to the application' }).click()
  await expect(told).toContainText('not read yet')
  await page.goto(`/own/${id}`)
  await expect(page.getByText('Nobody needs to: you print it yourself.')).toBeVisible()
  await expect(async () => {
    await staff.reload()
    await expect(told).toContainText(/read \S+ \d/, { timeout: 2000 })
  }).toPass({ timeout: 20_000 })
}

test('where many codes were asked for the browser works for one, and nobody has to do anything', async ({ page }) => {
  const challenge = await createChallenge({
    algorithm: 'PBKDF2/SHA-256',
    cost: 2000,
    counter: 250,
    deriveKey,
    hmacSignatureSecret: 'of the test',
    hmacKeySignatureSecret: 'of keys',
  })
  const verified: boolean[] = []
  await page.route('**/api/codes', async (route) => {
    const { work } = route.request().postDataJSON() as { work?: string }
    if (work === undefined) {
      return route.fulfill({ status: 429, json: { code: 'code.work', kind: 'too-many', parameters: {}, message: '', data: challenge } })
    }
    const { solution } = JSON.parse(work) as { solution: Solution }
    verified.push((await verifySolution({
      challenge,
      solution,
      deriveKey,
      hmacSignatureSecret: 'of the test',
      hmacKeySignatureSecret: 'of keys',
    })).verified)
    return route.fulfill({ json: { id: crypto.randomUUID(), expiresAt: new Date(Date.now() + 600_000).toISOString(), again: 60 } })
  })
  await page.goto('/apply')
  await page.getByRole('textbox', { name: 'E-mail address' }).fill('somebody@post.example')
  await page.getByRole('button', { name: 'Send me a code' }).click()
  await expect(page.getByLabel('Code', { exact: true })).toBeFocused()
  expect(verified).toEqual([true])
})

/** Another examination, whose texts are read before its form opens: what was given in the first is taken over. */
async function again(page: Page, staff: Page): Promise<void> {
  const { notice } = await (await staff.request.get('/api/cycles/HL27/notice')).json() as { notice: { terms: object[] } }
  const { csrfToken } = await (await staff.request.get('/api/session')).json() as { csrfToken: string }
  const terms = [{ id: 'before', title: 'Before you begin', text: 'Have your papers at hand.', asked: 'at the beginning' }, ...notice.terms]
  const opened = await staff.request.post('/api/cycles', {
    data: { notice: { ...notice, code: 'TF28', title: 'A second test', terms }, reason: 'for a test' },
    headers: { 'x-lucid-csrf': csrfToken },
  })
  expect(opened.ok() ? '' : await opened.text()).toBe('')
  await page.goto('/own?examination=TF28')
  await page.getByRole('button', { name: 'Begin an application', exact: true }).click()
  await expect(page.getByText('Have your papers at hand.')).toBeVisible()
  await expect(page.getByLabel('Street and house')).toHaveCount(0)
  await page.getByText('I have read this and accept it').click()
  await page.getByRole('button', { name: 'Accept, and open the form' }).click()
  await expect(page.getByLabel('Street and house')).toHaveValue('')
  await page.getByRole('button', { name: 'Take over what you gave before' }).click()
  await page.getByRole('checkbox', { name: /^Year of passing/ }).uncheck()
  await page.getByRole('button', { name: 'Take over what is ticked' }).click()
  await expect(page.getByText(/^\d+ answers and \d files taken over/)).toBeVisible()
  await expect(page.getByLabel('Street and house')).toHaveValue('7 Lantern Row')
  await expect(page.getByRole('textbox', { name: 'Year of passing' })).toHaveValue('')
  await expect(page.getByAltText('Photograph, version 1')).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
}
