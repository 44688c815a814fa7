import { expect, test } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { ZipFile } from 'yazl'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { pick, signIn } from './office'

test('a spreadsheet of a school goes in, with every fault named and given back', async ({ page }) => {
  await signIn(page)
  await page.goto('/roster')
  await page.getByRole('link', { name: 'Nominal rolls' }).click()
  const sender = `School of Ottrevik ${Date.now()}`
  await page.getByLabel('Who sent it').fill(sender)
  const rows = ['Sl No;Candidate Name;DOB;Mobile;PIN;Category;Remarks', '1;Orin Vel;03/04/2004;5550100301;11042;General;',
    '2;Tala Røn;15 Jun 2004;5.5501E+09;11042;Outer Ilses;', '3;Maro Quil;15 Jun 2004;5550100303;11042;Outer Isles;',
    '3;Maro Quil;15 Jun 2004;5550100303;11042;Outer Isles;twice']
  await page.getByLabel('File of the roll').setInputFiles({
    name: 'ottrevik.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.join('\r\n'), 'latin1'),
  })
  await expect(page.getByRole('heading', { name: 'ottrevik.csv' })).toBeVisible()
  await page.getByRole('button', { name: 'Try it' }).click()
  const table = page.getByRole('table').last()
  await expect(table.getByText('“03/04/2004” is 2004-04-03 or 2004-03-04')).toBeVisible({ timeout: 20_000 })
  await expect(table.getByText('shortened the number to “5.5501E+09”')).toBeVisible()
  await expect(table.getByText("“Outer Ilses” is not one of the notice's")).toBeVisible()
  await expect(table.getByText('The same person stands in row 3')).toBeVisible()
  // What the school's own word means is said once.
  await pick(page, 'What “Outer Ilses” means in Category', 'Outer Isles')
  await page.getByRole('button', { name: 'Read them so, and try the roll again' }).click()
  await expect(table.getByText('shortened the number to “5.5501E+09”')).toBeVisible({ timeout: 20_000 })
  await expect(table.getByText("“Outer Ilses” is not one of the notice's")).toBeHidden()
  await pick(page, 'In dates such as 03/04/2006', 'the day stands first')
  // Pictures of the school, by number and by folder; one is of nobody.
  const zip = new ZipFile()
  const portrait = await drawPortrait(new Random(31), 'none')
  for (
    const [name, bytes] of [['photos/1.jpg', portrait], ['3_signature.png', await drawSignature(new Random(32), 'none')], ['photos/9.jpg',
      portrait]] as const
  ) zip.addBuffer(bytes, name)
  zip.end()
  const parts: Buffer[] = []
  for await (const part of zip.outputStream) parts.push(part as Buffer)
  await page.getByLabel('Choose a ZIP').setInputFiles({ name: 'school.zip', mimeType: 'application/zip', buffer: Buffer.concat(parts) })
  await expect(page.getByText('3 files have come.')).toBeVisible({ timeout: 20_000 })
  await expect(page.getByRole('button', { name: 'Try it', exact: true })).toBeEnabled()
  await page.getByRole('button', { name: 'Try it', exact: true }).click()
  await expect(page.getByRole('row', { name: /photos\/9.jpg.*Nobody in this roll has this number/ })).toBeVisible({ timeout: 20_000 })
  await page.getByRole('button', { name: 'Enter 2 rows and 2 files' }).click({ timeout: 20_000 })
  await expect(page.getByRole('heading', { name: 'What was done' })).toBeVisible({ timeout: 20_000 })
  const [download] = await Promise.all([page.waitForEvent('download'),
    page.getByRole('link', { name: 'Download them with their reasons' }).click()])
  const back = readFileSync(await download.path(), 'utf8').split('\r\n')
  expect(back[0]).toContain('Remarks,Row,Reasons')
  expect(back[1]).toMatch(/^2,Tala Røn,.*,2,/)
  // Neither of the two is complete: each stays a draft, and a table says what it lacks.
  const handIn = page.getByRole('button', { name: 'Hand in those that are complete' })
  await expect(handIn).toBeDisabled()
  await page.getByText(`${sender} keeps a signed declaration of each of them.`).click()
  await handIn.click()
  await expect(page.getByText('None was complete.')).toBeVisible({ timeout: 20_000 })
  await expect(page.getByText('answers are missing or wrong: 2')).toBeVisible()
  const [lacking] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download what each lacks' }).click()])
  expect(readFileSync(await lacking.path(), 'utf8')).toMatch(/HL27-\d{7}-\d,1,Orin Vel,.+\|/)
  // Tried again, those who are in are found, and nobody is made twice.
  await page.getByRole('button', { name: 'Try it again' }).click()
  await expect(page.getByText('there already, unchanged')).toBeVisible({ timeout: 20_000 })
  await expect(page.getByRole('button', { name: 'Enter 2 files' })).toBeVisible({ timeout: 20_000 })
})
