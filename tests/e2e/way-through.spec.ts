import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { addPictures, fillSheet, numberOnSheet, payAtGateway, registerCandidate, signInByForm, submitSheet } from './office'

/** One person's whole way, through the real interface, and the card read back with tools that are not ours. */
test('from an empty sheet to a verified admit card', async ({ page, context }) => {
  test.setTimeout(420_000)
  const name = 'Tavirel Osk-Anundé'

  await test.step('the desk shows the state of the day under the band', async () => {
    await signInByForm(page)
    await expect(page.getByText('wait for scrutiny')).toBeVisible()
    for (const point of ['drafting', 'in scrutiny', 'accepted', 'card issued']) {
      await expect(page.getByRole('link', { name: new RegExp(`${point} [\\d,]+`) })).toBeVisible()
    }
    await expect(page.getByText('applications close in', { exact: true })).toBeVisible()
  })

  let number = ''
  await test.step('a new candidate is typed in, with checks in the margin and each answer saved', async () => {
    await registerCandidate(page)
    await page.getByLabel('Mobile telephone').fill('123')
    await expect(page.getByText('Mobile telephone needs exactly 10 digits')).toBeVisible()
    await fillSheet(page, name)
    await expect(page.getByText('Mobile telephone needs exactly 10 digits')).toBeHidden()
    await expect(page.getByText('Proof at scrutiny: Certificate of the district office')).toBeVisible()
    await expect(page.getByText('Skarnholm, Skarn')).toBeVisible()
    await expect(page.getByText(/^answers saved \d\d:\d\d:\d\d$/)).toBeVisible()
    number = await numberOnSheet(page)
    await page.reload()
    await expect(page.getByLabel('Name on the school certificate')).toHaveValue(name)
    await expect(page.getByLabel('Number of the Outer Isles certificate')).toHaveValue('OI-77120')
  })

  await test.step('photograph and signature are measured', async () => {
    await addPictures(page)
    await expect(page.getByText('Sharpness in the middle')).toBeVisible()
    await expect(page.getByText('Ink on the paper')).toBeVisible()
    await expect(page.getByText('Evenness of the background')).toBeVisible()
  })

  await test.step('verdicts and the itemised fee stand in the margin', async () => {
    await expect(page.getByText('Pilot cadet: open')).toBeVisible()
    await expect(page.getByText('Lighthouse keeper: open')).toBeVisible()
    await page.getByText('Pilot cadet: open').click()
    await expect(page.getByText('82.40 %').first()).toBeVisible()
    await page.getByText('How 82.40 % was found').first().click()
    await expect(page.getByText('412 of 500').first()).toBeVisible()
    await expect(page.getByText('Signal technician: not open')).toBeVisible()
    // 480.00 for Outer Isles, 150.00 for the further post.
    await expect(page.getByRole('row', { name: /^Total/ })).toContainText('IMK 630.00')
    await submitSheet(page)
  })

  await test.step('the payment goes through the simulated gateway, told twice and counted once', async () => {
    // 1.20 % of 630.00 for the card, and 15 % tax on that.
    await page.getByRole('button', { name: 'Pay IMK 630.00' }).click()
    await page.getByRole('button', { name: 'Pay IMK 638.69 by card' }).dblclick()
    await expect(page.getByText('A simulated gateway that ships with the product')).toBeVisible()
    await payAtGateway(page, 'Paid, told twice')
    await expect(page.getByText('✓ Settled')).toBeVisible()
    await expect(page.getByText('told 2 times, counted once')).toBeVisible()
    await expect(page.getByRole('row', { name: /^Received/ })).toContainText('IMK 638.69')
    await expect(page.getByRole('row', { name: /^Charge of the way of paying/ })).toContainText('IMK 7.56')
  })

  await test.step('scrutiny accepts', async () => {
    await page.getByRole('button', { name: 'To scrutiny' }).click()
    await expect(page.getByRole('button', { name: /^Accept/ })).toBeVisible()
    await page.keyboard.press('a')
    await expect(page.getByText(`${number} accepted`)).toBeVisible()
  })

  await test.step('the allocation runs, is proven, looked at and published', async () => {
    await page.goto('/centres')
    await page.getByRole('button', { name: 'New run' }).click()
    await page.getByRole('button', { name: 'Run the allocation' }).click()
    await expect(page.getByText(/Cost [\d,]+ points, proven bound [\d,]+/)).toBeVisible({ timeout: 30_000 })
    await expect(page.getByText('First choice', { exact: true })).toBeVisible()
    await page.getByRole('button', { name: /^Publish run/ }).click()
    // Applications have not closed yet: the office is told so, and gives its reason.
    await expect(page.getByText(/Applications close on .*; seats are published after that/)).toBeVisible()
    await page.getByLabel('Reason').fill('The whole way is tried before the close')
    await page.getByRole('button', { name: 'Publish', exact: true }).click()
    await expect(page.getByText('people have their seat and roll number')).toBeVisible()
  })

  await test.step('the card is issued', async () => {
    await page.getByRole('button', { name: 'To the cards' }).click()
    await page.getByRole('button', { name: 'Issue the cards' }).click()
    await expect(page.getByText(/Cards go out from/)).toBeVisible()
    await page.getByLabel('Reason').fill('The whole way is tried before cards go out')
    await page.getByRole('button', { name: 'Issue the card', exact: true }).click()
    await expect(page.getByText(/The last issue gave out \d+ cards and withheld 0/)).toBeVisible({ timeout: 60_000 })
  })

  const folder = mkdtempSync(join(tmpdir(), 'lucid-card-'))
  let code = ''
  let picture = ''
  await test.step('poppler reads its text and zbar its code', async () => {
    await page.keyboard.press('Control+k')
    await page.getByLabel('Application or roll number, beginning of a name or telephone').fill(number)
    await page.getByRole('dialog').getByRole('button', { name: new RegExp(number) }).click()
    const href = await page.getByRole('link', { name: /^Admit card, version 1/ }).getAttribute('href')
    const pdf = await context.request.get(href ?? '')
    expect(pdf.headers()['content-type']).toBe('application/pdf')
    const file = join(folder, 'card.pdf')
    writeFileSync(file, await pdf.body())
    const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
    for (
      const wanted of [name, number, 'Roll number', '29 Feb 2004', "Seafarer's book ending", 'Report at', 'Bring this card on paper']
    ) expect(text).toContain(wanted)
    expect(text).toMatch(/(Forenoon|Afternoon) session/)
    const roll = /\b\d{8}\b/.exec(text)?.[0]
    expect(roll).toBeDefined()
    const images = execFileSync('pdfimages', ['-list', file], { encoding: 'utf8' })
    expect(images.match(/\bimage\b/g)?.length).toBe(2)
    picture = join(folder, 'card.png')
    execFileSync('pdftoppm', ['-r', '150', '-png', '-singlefile', file, join(folder, 'card')])
    code = execFileSync('zbarimg', ['-q', '--raw', picture], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).trimEnd()
    expect(code).toMatch(/^LR1:/)
  })

  await test.step('the check page verifies it without a network, and refuses a changed sign', async () => {
    await page.goto('/check')
    await expect(page.getByRole('heading', { name: 'Is this admit card genuine?' })).toBeVisible()
    await page.waitForLoadState('networkidle')
    await context.setOffline(true)
    await page.getByLabel('Picture of the code').setInputFiles(picture)
    await expect(page.getByText('✓ Genuine: signed by the Board')).toBeVisible()
    await expect(page.getByText('Without a network this page cannot know')).toBeVisible()
    await expect(page.getByRole('cell', { name })).toBeVisible()
    const at = Math.floor(code.length / 2)
    const changed = code.slice(0, at) + (code[at] === 'A' ? 'B' : 'A') + code.slice(at + 1)
    await page.getByLabel('or its text, beginning with LR1:').fill(changed)
    await page.getByRole('button', { name: 'Check the text' }).click()
    await expect(page.getByText('✕ Not genuine')).toBeVisible()
    await page.getByLabel('or its text, beginning with LR1:').fill(code)
    await page.getByRole('button', { name: 'Check the text' }).click()
    await expect(page.getByText('✓ Genuine: signed by the Board')).toBeVisible()
    await context.setOffline(false)
  })

  await test.step('a replaced card is void wherever there is a network, and what was outside the dates is counted', async () => {
    await page.goto('/')
    await expect(page.getByText(/acts of officers outside the notice's dates/)).toBeVisible()
    await page.keyboard.press('Control+k')
    await page.getByLabel('Application or roll number, beginning of a name or telephone').fill(number)
    await page.getByRole('dialog').getByRole('button', { name: new RegExp(number) }).click()
    await page.getByRole('button', { name: 'Replace the card' }).click()
    await page.getByLabel('Reason').fill('The street was misspelt')
    await page.getByRole('dialog').getByRole('button', { name: 'Replace the card' }).click()
    await expect(page.getByRole('link', { name: /^Admit card, version 2/ })).toBeVisible()
    await page.goto('/check')
    await page.getByLabel('or its text, beginning with LR1:').fill(code)
    await page.getByRole('button', { name: 'Check the text' }).click()
    await expect(page.getByText('✕ Signed by the Board, and void')).toBeVisible()
  })
})
