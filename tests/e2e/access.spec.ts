import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { Secret, TOTP } from 'otpauth'
import { candidateSignIn, differing, keepDraft, registerCandidate, signIn, visitEach } from './office'

/** Who may do what, second persons, ways back, and that every page can be used by everybody. */
test('an administrator invites somebody, who sets a password and has rights of their own', async ({ page, browser, baseURL }) => {
  await signIn(page, 'administrator')
  await expect(page.getByText('Your role looks after accounts')).toBeVisible()
  for (const area of ['Intake', 'Scrutiny', 'Fees', 'Records']) {
    await expect(page.getByRole('link', { name: area, exact: true })).toBeHidden()
  }
  await page.goto('/people')
  await page.getByRole('button', { name: 'Invite somebody' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Jorun Lisgard')
  await page.getByLabel('Signs in as').fill('jorun')
  await page.getByText('Scrutineer', { exact: true }).last().click()
  await page.getByRole('button', { name: 'Make the link' }).click()
  const link = await page.locator('code').innerText()
  await expect(page.getByRole('row', { name: /Jorun Lisgard/ })).toContainText('invited')

  const other = await browser.newContext({ baseURL })
  const theirs = await other.newPage()
  await theirs.goto(link)
  await expect(theirs.getByText('Welcome, Jorun Lisgard')).toBeVisible()
  await theirs.getByLabel('Password', { exact: true }).fill('short')
  await theirs.getByLabel('The same again').fill('short')
  await theirs.getByRole('button', { name: 'Set it and go in' }).click()
  await expect(theirs.getByText('it needs at least 15')).toBeVisible()
  await theirs.getByLabel('Password', { exact: true }).fill('gulls over the grey mole')
  await theirs.getByLabel('The same again').fill('gulls over the grey mole')
  await theirs.getByRole('button', { name: 'Set it and go in' }).click()
  await expect(theirs.getByRole('heading', { name: 'What needs you today' })).toBeVisible()
  await expect(theirs.getByRole('link', { name: 'Scrutiny', exact: true })).toBeVisible()
  await expect(theirs.getByRole('button', { name: 'Register a candidate' })).toBeHidden()
  await expect(theirs.getByRole('link', { name: 'People' })).toBeHidden()
  // With a second factor the password alone opens nothing.
  await theirs.goto('/account')
  await theirs.getByRole('button', { name: 'Set up a second factor' }).click()
  const secret = (await theirs.locator('code').first().innerText()).replaceAll(' ', '')
  const factor = (moment = Date.now()) => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: moment })
  await theirs.getByLabel('The six digits that it shows').fill(factor())
  await theirs.getByLabel('Your password').fill('gulls over the grey mole')
  await theirs.getByRole('button', { name: 'Set up', exact: true }).click()
  const recovery = await theirs.locator('.codes code').first().innerText()
  await theirs.goto('/sign-in')
  await theirs.getByLabel('Sign-in name').fill('jorun')
  await theirs.getByLabel('Password', { exact: true }).fill('gulls over the grey mole')
  await theirs.getByRole('button', { name: 'Sign in' }).click()
  await theirs.getByLabel('Code of your second factor').fill('000000')
  await theirs.getByRole('button', { name: 'Sign in' }).click()
  await expect(theirs.getByText('This code is not the present one')).toBeVisible()
  await theirs.getByLabel('Code of your second factor').fill(recovery)
  await theirs.getByRole('button', { name: 'Sign in' }).click()
  await expect(theirs.getByRole('heading', { name: 'What needs you today' })).toBeVisible()
  await expect(theirs.getByText(/You are signed in elsewhere, too/)).toBeVisible()
  // The link lets nobody in a second time.
  await theirs.goto('/sign-in')
  await theirs.goto(link)
  await expect(theirs.getByText('This link was used already')).toBeVisible()
  // Who has left is out at once.
  await page.getByRole('row', { name: /Jorun Lisgard/ }).getByRole('button', { name: 'Has left' }).click()
  await expect(page.getByRole('row', { name: /Jorun Lisgard/ }).getByRole('button', { name: 'Has left' })).toBeHidden()
  await theirs.goto('/')
  await expect(theirs).toHaveURL(/sign-in/)
  await other.close()
})

test('a refusal is read before it goes, and taken back only with a second person', async ({ page, browser, baseURL }) => {
  await signIn(page, 'scrutineer')
  await page.goto('/scrutiny')
  await page.getByRole('button', { name: 'Take the next of Pictures or papers' }).click()
  await expect(page.getByRole('button', { name: /^Refuse/ })).toBeVisible()
  const here = page.url()
  const number = await page.getByText(/HL27-\d{7}-\d/).first().innerText()
  await page.keyboard.press('x')
  const dialog = page.getByRole('dialog', { name: 'Refuse' })
  // The list is drawn anew while it is searched: a press that comes in between chooses nothing.
  await expect(async () => {
    await dialog.getByRole('combobox', { name: 'Item' }).fill('Category')
    await page.getByRole('option', { name: 'Category', exact: true }).click({ timeout: 2000 })
    await expect(dialog.locator('.el-select__placeholder', { hasText: 'Category' })).toBeVisible({ timeout: 2000 })
  }).toPass({ timeout: 40_000 })
  await dialog.getByLabel('Reason', { exact: true }).fill('The certificate was not issued by a district office')
  await dialog.getByRole('button', { name: 'Read it through' }).click()
  await expect(dialog.getByText('Category: The certificate was not issued by a district office')).toBeVisible()
  await dialog.getByRole('button', { name: 'Send the refusal' }).click()
  await expect(page.getByText(`${number} refused`)).toBeVisible()
  // The sheet says why, as the dialog promised.
  await page.goto(here.replace('/scrutiny/', '/intake/'))
  await expect(page.getByText('Category: The certificate was not issued by a district office').first()).toBeVisible()

  await page.goto(here)
  await page.getByRole('button', { name: 'Take the refusal back' }).click()
  await page.getByLabel('Reason').fill('The wrong paper was looked at')
  await page.getByRole('button', { name: /^Ask for confirmation/ }).click()
  await expect(page.getByText('Somebody else has to confirm it.')).toBeVisible()

  const other = await browser.newContext({ baseURL })
  const second = await other.newPage()
  await signIn(second, 'second')
  await expect(second.getByRole('heading', { name: 'Waits for a second person' })).toBeVisible()
  await second.getByRole('listitem').filter({ hasText: number }).getByRole('button', { name: 'Confirm' }).click()
  await expect(second.getByRole('heading', { name: 'Waits for a second person' })).toBeHidden()
  await other.close()
  await page.reload()
  await expect(page.getByText('in scrutiny', { exact: false }).nth(1)).toBeVisible()
  await expect(page.getByRole('button', { name: /^Accept/ })).toBeVisible()
})

test('dates are read as they are typed, an application is withdrawn and brought back, and an empty draft is deleted', async ({ page }) => {
  await signIn(page)
  // Two presses make one application.
  await page.getByRole('button', { name: 'Register a candidate' }).dblclick()
  await expect(page.getByRole('heading', { name: 'New application' })).toBeVisible()
  const born = page.getByLabel('Date of birth')
  await born.fill('29.2.2004')
  await born.blur()
  await expect(born).toHaveValue('29 Feb 2004')
  await born.fill('03/04/2004')
  await page.getByRole('button', { name: '3 Apr 2004' }).click()
  await expect(born).toHaveValue('3 Apr 2004')
  await page.getByRole('button', { name: 'Withdraw the application' }).click()
  await expect(page.getByText('It leaves the flow')).toBeVisible()
  await page.getByLabel('Reason').fill('Asked for by telephone')
  await page.getByRole('dialog').getByRole('button', { name: 'Withdraw the application' }).click()
  await expect(page.getByText('withdrew the application').last()).toBeVisible()
  await page.getByRole('button', { name: 'Bring the application back' }).click()
  await page.getByLabel('Reason').fill('Called again')
  await page.getByRole('dialog').getByRole('button', { name: 'Bring the application back' }).click()
  await expect(page.getByText('brought the application back').last()).toBeVisible()

  await registerCandidate(page)
  await page.getByRole('button', { name: 'Delete the empty draft' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Delete the empty draft' }).click()
  await expect(page).toHaveURL(/\/roster/)
})

async function faultsOf(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze()
  return violations.flatMap(v => v.nodes.map(node => `${v.id}: ${node.target.join(' ')}`))
}

test('no page of candidates has one either', async ({ page }) => {
  const found: string[] = []
  await page.setViewportSize({ width: 390, height: 844 })
  await candidateSignIn(page)
  await page.goto('/own?examination=HL27')
  await expect(page.getByRole('heading', { name: 'My applications' })).toBeVisible()
  found.push(...await faultsOf(page))
  await page.getByRole('button', { name: 'Begin an application', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'New application' })).toBeVisible()
  found.push(...await faultsOf(page))
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  await page.goto('/own/account')
  await expect(page.getByRole('heading', { name: 'Your account' })).toBeVisible()
  found.push(...await faultsOf(page))
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Your address' })).toBeVisible()
  found.push(...await faultsOf(page))
  expect(found).toEqual([])
})

test('no page has a fault that WCAG 2.2 A and AA know and axe finds', async ({ page }) => {
  // Forty pages, each read by axe: on a slow machine that takes minutes.
  test.setTimeout(1_200_000)
  await page.goto('/sign-in')
  await expect(page.getByRole('heading', { name: /Sign in/ })).toBeVisible()
  expect(await faultsOf(page)).toEqual([])
  await signIn(page)
  const { rows } = await (await page.request.get('/api/cycles/HL27/roster?is=at:in+scrutiny&is=from:candidate&limit=1')).json() as {
    rows: { id: string }[],
  }
  const { rows: [draft] } = await (await page.request.get('/api/cycles/HL27/roster?is=at:drafting&limit=1')).json() as {
    rows: { id: string }[],
  }
  const found: string[] = []
  const notice = await keepDraft(page, { sessions: [] })
  // High enough that the bar at the foot covers nothing: what it covers can be scrolled, and axe would call it too small.
  await page.setViewportSize({ width: 1280, height: 2400 })
  const paths = ['/', '/notice', '/roster', '/scrutiny', `/scrutiny/${rows[0]?.id}`, `/intake/${rows[0]?.id}`, `/intake/as/${rows[0]?.id}`,
    `/intake/${draft?.id}`, '/scrutiny/checks', '/scrutiny/duplicates', '/scrutiny/corrections', '/scrutiny/barred', '/fees',
    '/fees/statements', '/fees/matching', '/fees/bills', '/fees/slips', '/fees/payouts', '/fees/refunds', '/fees/closing', '/standins/bank',
    '/receipt', '/centres', '/centres/new', '/centres/demand', '/centres/register', '/cards', '/records', '/work', '/letters', '/questions',
    '/intake/rolls', '/intake/keying', `/intake/keying/${await differing(page)}`, '/account', '/check', '/nowhere', '/examinations',
    '/standing', '/examinations/HL27', ...['dates', 'posts', 'fees', 'files'].map(part => `/notice/draft/${notice}?part=${part}`)]
  await visitEach(page, paths, async (one, path) => {
    await one.waitForLoadState('networkidle')
    found.push(...(await faultsOf(one)).map(fault => `${path} ${fault}`))
  })
  expect(found).toEqual([])
})
