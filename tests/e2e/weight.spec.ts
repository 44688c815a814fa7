import { expect, test, type Page } from '@playwright/test'
import { candidateSignIn } from './office'

/** What came over the line so far, in bytes with heads, and in requests. */
async function weigh(page: Page): Promise<{ bytes: () => number, requests: () => number }> {
  const seen = new Map<string, number>()
  const line = await page.context().newCDPSession(page)
  await line.send('Network.enable')
  line.on('Network.requestWillBeSent', ({ requestId, request }) => { if (request.url.startsWith('http')) seen.set(requestId, 0) })
  line.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => { if (seen.has(requestId)) seen.set(requestId, encodedDataLength) })
  return { bytes: () => [...seen.values()].reduce((sum, bytes) => sum + bytes, 0), requests: () => [...seen.values()].filter(bytes => bytes > 0).length }
}

test('pages of candidates keep to their budget of bytes and requests', async ({ browser, baseURL }) => {
  const signedIn = await browser.newContext({ baseURL })
  const first = await signedIn.newPage()
  await candidateSignIn(first)
  await first.goto('/own?examination=HL27')
  await first.getByRole('button', { name: 'Begin an application', exact: true }).click()
  await first.waitForURL(/\/own\/./)
  const sheet = new URL(first.url()).pathname
  const state = await signedIn.storageState()

  /** Opened by a browser that has nothing yet: bytes and requests until it can be used, and in all. */
  const opened = async (path: string, usable: (page: Page) => Promise<void>) => {
    const context = await browser.newContext({ baseURL, storageState: state, viewport: { width: 390, height: 844 } })
    const page = await context.newPage()
    const { bytes, requests } = await weigh(page)
    await page.goto(path, { waitUntil: 'commit' })
    await usable(page)
    const before = { bytes: bytes(), requests: requests() }
    await page.waitForTimeout(5000)
    const all = { bytes: bytes(), requests: requests() }
    await context.close()
    return { before, all }
  }
  const kb = (n: number) => n * 1024
  const notice = await opened('/examinations/HL27', page => expect(page.getByRole('heading', { level: 1 })).toBeVisible())
  expect(notice.all.bytes).toBeLessThan(kb(30))
  const form = await opened(sheet, page => expect(page.getByLabel('Name on the school certificate')).toBeEditable())
  // The aim is 150 KB before it can be used and 250 KB in all; a page that grows back fails here.
  expect(form.before.requests).toBeLessThanOrEqual(15)
  expect(form.before.bytes).toBeLessThan(kb(245))
  expect(form.all.requests).toBeLessThanOrEqual(25)
  expect(form.all.bytes).toBeLessThan(kb(285))
  await signedIn.close()
})
