import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { expect, test, type Page } from '@playwright/test'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { registerCandidate, signIn } from './office'

/** Pictures on a telephone: measured before they are sent, helped into shape, reversible, and measured again by the office. */
test.use({ viewport: { width: 390, height: 844 } })

async function choose(page: Page, kind: 'photograph' | 'signature', bytes: Buffer): Promise<void> {
  const file = join(mkdtempSync(join(tmpdir(), 'lucid-picture-')), 'IMG_0042.jpg')
  writeFileSync(file, bytes)
  await page.locator(`input[data-kind=${kind}]`).setInputFiles(file)
}

test('a sideways, oversized, badly framed picture becomes one that keeps every rule', async ({ page }) => {
  const large = await sharp(await drawPortrait(new Random(5), 'tilted')).resize(2600, 3342).extend({
    left: 700,
    right: 700,
    top: 400,
    bottom: 0,
    background: '#eef1f5',
  }).rotate(90).jpeg({ quality: 97 }).toBuffer()
  await signIn(page)
  await registerCandidate(page)
  await choose(page, 'photograph', large)
  await expect(page.getByText(/rules are not kept · /)).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText('Turned by 270°')).toBeVisible()
  await page.getByRole('button', { name: 'Make it fit' }).click()
  await expect(page.getByText('Everything is in order')).toBeVisible({ timeout: 30_000 })
  // Reversible: back to the one chosen, and made again.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(/rules are not kept · /)).toBeVisible()
  await page.getByRole('button', { name: 'Make it fit' }).click()
  await page.getByRole('button', { name: 'Send the new one' }).click()
  await expect(page.getByAltText('Photograph, version 1')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText('The file as chosen is kept, too.')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText(/Made to fit: turned by 90° to the left; straightened by/)).toBeVisible()
  // The office found the same: nothing in its findings is open.
  const id = /intake\/([0-9a-f-]+)/.exec(page.url())?.[1] ?? ''
  const dossier = await (await page.request.get(`/api/applications/${id}`)).json() as {
    files: { photograph: { findings: { code: string, verdict: string }[], originals: number } },
  }
  expect(dossier.files.photograph.originals).toBe(1)
  expect(dossier.files.photograph.findings.filter(f => f.verdict !== 'pass')).toEqual([])
  expect(dossier.files.photograph.findings.map(f => f.code)).toContain('photograph.faces')
})

test('a picture that no help mends can be sent all the same, with what is wrong said', async ({ page }) => {
  await signIn(page)
  await registerCandidate(page)
  await choose(page, 'photograph', await drawPortrait(new Random(21), 'sunglasses'))
  await expect(page.getByText('Something dark covers the eyes.').first()).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Make it fit' }).click()
  await expect(page.getByText(/not kept still: take a better picture/)).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Send the new one' }).click()
  await expect(page.getByAltText('Photograph, version 1')).toBeVisible()
  // Pressing what was found shows where.
  await page.getByRole('button', { name: 'Light round the eyes' }).click()
  await expect(page.locator('#row-photograph polygon')).toHaveCount(2)
})

test('a signature on grey paper is trimmed and whitened', async ({ page }) => {
  await signIn(page)
  await registerCandidate(page)
  const grey = await sharp(await drawSignature(new Random(4), 'tiny')).linear(0.5, 0).resize(2400).jpeg({ quality: 95 }).toBuffer()
  await choose(page, 'signature', grey)
  await page.getByRole('button', { name: 'Make it fit' }).click()
  await expect(page.getByText(/paper lightened/)).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Send the new one' }).click()
  await expect(page.getByAltText('Signature, version 1')).toBeVisible()
})

test('the camera has an outline, and what it takes is measured like any other', async ({ page, context }) => {
  await context.grantPermissions(['camera'])
  await signIn(page)
  await registerCandidate(page)
  await page.locator('#row-photograph').getByRole('button', { name: 'Take it with the camera' }).click()
  await expect(page.getByRole('dialog')).toContainText('Head in the outline')
  await page.getByRole('button', { name: 'Take it', exact: true }).click()
  // The browser's test camera shows a clock, not a person.
  await expect(page.getByText('No face found')).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Choose another' }).click()
  await expect(page.getByRole('button', { name: 'Choose the photograph' })).toBeVisible()
})

test('what people decided stands beside what was measured, and another bound can be tried', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  await signIn(page, 'scrutineer')
  await page.goto('/scrutiny')
  await page.getByRole('link', { name: 'How the checks do' }).click()
  await page.getByRole('button', { name: 'Sharpness in the middle' }).click()
  await expect(page.getByRole('img', { name: 'Values of Sharpness in the middle on accepted and returned pictures' })).toBeVisible()
  await page.getByLabel('Try at least').fill('300')
  await page.getByLabel('Try at least').press('Enter')
  await expect(page.getByText(/^At 300 instead of 5, about \d+ of \d+ accepted pictures would fail/)).toBeVisible()
})
