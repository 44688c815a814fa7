import { expect, test } from '@playwright/test'
import { drawCertificate, scanPage } from '../../demo/documents'
import { Random } from '../../demo/random'
import { oddPdf } from '../support/odd-files'
import { addPapers, addPictures, fillSheet, registerCandidate, signIn } from './office'

const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } })

  test('pictures of pages and a PDF become one document in the order that is wanted', async ({ page }) => {
    await signIn(page)
    await registerCandidate(page)
    const certificate = await drawCertificate(new Random(1), 'Certificate of residence', holder)
    const slot = page.locator('#row-identity-proof')
    await slot.locator('input[data-document]').setInputFiles([
      { name: 'page-2.pdf', mimeType: 'application/pdf', buffer: certificate },
      { name: 'page-1.jpg', mimeType: 'image/jpeg', buffer: await scanPage(new Random(2), certificate, 'sideways', 130) },
    ])
    await expect(slot.getByText(/page 2 turned by 90° to the (right|left)/)).toBeVisible({ timeout: 60_000 })
    await slot.getByRole('button', { name: 'Move page 2 forward' }).click()
    await expect(slot.getByText(/page 1 turned by 90° to the (right|left)/)).toBeVisible({ timeout: 60_000 })
    await expect(slot.getByText('Everything is in order')).toBeVisible()
    await slot.getByRole('button', { name: /^Send 2 pages/ }).click()
    await expect(slot.getByAltText('Identity proof, version 1, page 2')).toBeVisible({ timeout: 30_000 })
    await expect(slot.getByText('The files as chosen are kept, too.')).toBeVisible({ timeout: 30_000 })
    await slot.getByRole('button', { name: 'Identity proof, page 1: show large' }).click()
    await page.getByRole('button', { name: 'Next page' }).click()
    await expect(page.getByRole('dialog', { name: 'Identity proof, page 2 of 2' })).toBeVisible()
  })
})

test('a file that is no document is refused in words, and what was there stays', async ({ page }) => {
  await signIn(page)
  await registerCandidate(page)
  await addPapers(page, ['identity-proof'])
  const slot = page.locator('#row-identity-proof')
  for (const [kind, words] of [['secret', 'opens only with a password'], ['script', 'carries a program']] as const) {
    await slot.locator('input[data-document]').setInputFiles({ name: 'paper.pdf', mimeType: 'application/pdf', buffer: await oddPdf(kind) })
    await expect(slot.getByRole('alert')).toContainText(words)
    await expect(slot.getByAltText('Identity proof, version 1, page 1')).toBeVisible()
  }
})

test('who somebody is can be judged side by side, and what was sent again beside what was sent before', async ({ page }) => {
  await signIn(page)
  await registerCandidate(page)
  await fillSheet(page, 'Sade Tambery')
  await addPictures(page, 77)
  const id = page.url().split('/').at(-1) ?? ''
  const slot = page.locator('#row-identity-proof')
  const coarse = await scanPage(new Random(4), await drawCertificate(new Random(4), 'Paper', holder), 'from afar', 140)
  await slot.locator('input[data-document]').setInputFiles({ name: 'again.jpg', mimeType: 'image/jpeg', buffer: coarse })
  await slot.getByRole('button', { name: /^Send the page/ }).click()
  await expect(slot.getByText('version 2')).toBeVisible({ timeout: 60_000 })
  await page.goto(`/scrutiny/${id}`)
  await expect(page.getByRole('heading', { name: 'Sade Tambery' })).toBeVisible()
  await page.keyboard.press('s')
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByAltText('Photograph, version 1')).toBeVisible()
  await expect(dialog.getByAltText('Identity proof, version 1, before')).toBeVisible()
  await expect(dialog.getByRole('row', { name: /Height of small letters/ })).toBeVisible()
})
