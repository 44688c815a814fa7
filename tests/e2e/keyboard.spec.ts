import { expect, test, type Page } from '@playwright/test'
import { drawCertificate, scanPage } from '../../demo/documents'
import { demoPassword } from '../../demo/load'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { candidateSignIn } from './office'

/** Whole tasks without a pointer: what is pressed is counted, and nothing is ever clicked. */
class Keys {
  presses = 0

  constructor(readonly page: Page) {}

  async press(key: string): Promise<void> {
    this.presses += 1
    await this.page.keyboard.press(key)
  }

  async type(text: string): Promise<void> {
    this.presses += text.length
    await this.page.keyboard.type(text)
  }

  /** The names of what has the focus: its own, and that of the group in which it stands. */
  focused(): Promise<{ name: string, group: string, field: string, value: string, isChecked: boolean }> {
    return this.page.evaluate(() => {
      const element = document.activeElement as HTMLInputElement | null
      const name = element?.getAttribute('aria-label') ?? element?.labels?.[0]?.textContent ?? element?.textContent ?? ''
      const option = element instanceof HTMLSelectElement ? element.selectedOptions[0]?.textContent : element?.value
      const said = name.replace(/\s+/g, ' ').trim()
      return {
        name: said,
        field: element?.type === 'radio' ? '' : said,
        group: element?.closest('[role=radiogroup], [role=group]')?.getAttribute('aria-label') ?? '',
        value: (option ?? '').trim(),
        isChecked: element?.checked === true,
      }
    })
  }

  /** Goes on by Tab to what bears a name. */
  async to(name: string | RegExp, of: 'name' | 'group' | 'field' = 'name', key = 'Tab'): Promise<void> {
    const seen: string[] = []
    for (let i = 0; i < 150; i += 1) {
      const at = (await this.focused())[of]
      if (typeof name === 'string' ? at === name || at.startsWith(`${name} `) : name.test(at)) return
      seen.push(at.slice(0, 40))
      await this.press(key)
    }
    throw new Error(`no way by ${key} to ${String(name)}; on it: ${seen.slice(0, 60).join(' | ')}`)
  }

  async fill(name: string, text: string): Promise<void> {
    await this.to(name, 'field')
    await this.press('Control+a')
    await this.type(text)
  }

  /** One of a group of which all are seen. */
  async choose(group: string, option: string): Promise<void> {
    await this.to(group, 'group')
    for (let i = 0; (await this.focused()).name !== option; i += 1) {
      expect(i).toBeLessThan(8)
      await this.press('ArrowDown')
    }
    if (!(await this.focused()).isChecked) await this.press('Space')
  }

  /** One of a closed list, by the letters that it begins with. */
  async pick(name: string, option: string, letters: string): Promise<void> {
    await this.to(name)
    await this.type(letters)
    expect((await this.focused()).value).toBe(option)
  }

  async file(name: string | RegExp, buffer: Buffer): Promise<void> {
    await this.to(name)
    // While the file before is still being drawn the browser may leave a press out.
    await expect(async () => {
      const chooser = this.page.waitForEvent('filechooser', { timeout: 3000 })
      await this.press('Enter')
      await (await chooser).setFiles({ name: 'file.jpg', mimeType: 'image/jpeg', buffer })
    }).toPass({ timeout: 20_000 })
  }
}

async function fillByKeys(keys: Keys): Promise<void> {
  const own = String(Math.floor(Math.random() * 1_000_000)).padStart(6, '0')
  await keys.fill('Name on the school certificate', 'Tavirel Osk')
  await keys.fill('Name on the identity proof', 'Tavirel Osk')
  await keys.fill('Date of birth', '29.2.2004')
  await keys.choose('Gender', 'Woman')
  await keys.choose('Nationality', 'Ilmaran')
  await keys.choose('Residence in Ilmara', 'Since birth')
  await keys.pick('Identity proof', "Seafarer's book", 'Sea')
  await keys.fill('Number of the proof', `SB${own}7`)
  await keys.fill('Mobile telephone', `5550${own}`)
  await keys.fill('Postal code', '11042')
  await keys.fill('Street and house', '4 Beacon Street')
  await keys.choose('Category', 'General')
  await keys.choose('Household income below 90,000 IMK a year', 'No')
  await keys.choose('Disability declared', 'No')
  await keys.pick('Highest qualification', 'Senior school, year 12', 'Sen')
  await keys.choose('Result awaited', 'No')
  await keys.fill('Year of passing', '2022')
  await keys.pick('Board or university', 'Northern Isles Board', 'Nor')
  await keys.choose('The certificate states', 'Marks in total')
  await keys.fill('Marks in total', '500')
  await keys.fill('Marks obtained', '412')
  await keys.choose('Work in a harbour, on board or at a station', 'No')
  await keys.fill('Earlier attempts at this test', '0')
  await keys.to('Pilot cadet')
  await keys.press('Space')
  for (const [city, letters] of [['Skarnholm', 'Ska'], ['Ottrevik', 'Ott']] as const) {
    await keys.pick('Test cities in order of preference', city, letters)
    await keys.press('Enter')
    await expect(keys.page.getByRole('listitem').filter({ hasText: city })).toBeVisible()
    // A list forgets what was typed into it after a second.
    await keys.page.waitForTimeout(1200)
  }
}

async function filesByKeys(keys: Keys): Promise<void> {
  const paper = { name: 'Tavirel Osk', number: 'SB4471923', bornOn: '15 June 2004' }
  const scan = await scanPage(new Random(9), await drawCertificate(new Random(9), 'Paper of the tests', paper), 'none', 140)
  await keys.file('Choose the photograph', await drawPortrait(new Random(4711), 'none'))
  await expect(keys.page.getByAltText('Photograph, version 1')).toBeVisible()
  await keys.file('Choose the signature', await drawSignature(new Random(4711), 'none'))
  await expect(keys.page.getByAltText('Signature, version 1')).toBeVisible()
  await keys.file('Choose the identity proof', scan)
  await keys.to(/^Send the page/)
  await keys.press('Enter')
  await expect(keys.page.locator('#row-identity-proof').getByText('Stored', { exact: true })).toBeVisible()
}

async function handInByKeys(keys: Keys): Promise<void> {
  await keys.to('Submit')
  await keys.press('Enter')
  const dialog = keys.page.getByRole('dialog', { name: 'Declaration' })
  const ticks = dialog.getByRole('checkbox')
  await expect(ticks.first()).toBeVisible()
  for (let i = 0; i < await ticks.count(); i += 1) {
    await keys.to(/^(The candidate has|I have read|I declare)/)
    await keys.press('Space')
    await expect(ticks.nth(i)).toBeChecked()
    await keys.press('Tab')
  }
  await keys.to('Submit with this declaration')
  await keys.press('Enter')
}

test('an officer enters whoever walks in by the keyboard alone, with fewer presses than three minutes have', async ({ page }) => {
  test.setTimeout(300_000)
  await page.goto('/sign-in')
  const keys = new Keys(page)
  await keys.fill('Sign-in name', 'officer')
  await keys.fill('Password', demoPassword)
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: 'What needs you today' })).toBeVisible()
  keys.presses = 0
  await keys.to('Register a candidate')
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: 'New application' })).toBeVisible()
  await fillByKeys(keys)
  await filesByKeys(keys)
  await handInByKeys(keys)
  await expect(page.getByText('Answers and images are frozen').or(page.getByRole('button', { name: /^Pay IMK/ })).first()).toBeVisible()
  // Five presses a second, as people type who type every day (common practice, no source).
  console.log(`a walk-in by keyboard: ${keys.presses} presses`)
  expect(keys.presses).toBeLessThan(3 * 60 * 5)
})

test('a candidate fills the form in and hands it in by the keyboard alone', async ({ page }) => {
  test.setTimeout(300_000)
  await candidateSignIn(page)
  await page.goto('/own?examination=HL27')
  const keys = new Keys(page)
  await expect(page.getByRole('heading', { name: 'My applications' })).toBeVisible()
  await keys.to('Begin an application')
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: 'New application' })).toBeVisible()
  await fillByKeys(keys)
  await filesByKeys(keys)
  await handInByKeys(keys)
  await expect(page.getByRole('button', { name: /^Pay IMK/ })).toBeVisible()
})
