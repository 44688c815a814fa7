import { expect, test, type Page } from '@playwright/test'
import { candidateSignIn } from './office'

interface Weight {
  bytes: number
  requests: number
}

/**
 * What came over the line so far, in bytes with heads and in requests: all of it, and without the faces, which follow once a page stands.
 */
async function weigh(page: Page): Promise<{ all: () => Weight, withoutFaces: () => Weight }> {
  const seen = new Map<string, { bytes: number, isFace: boolean }>()
  const line = await page.context().newCDPSession(page)
  await line.send('Network.enable')
  line.on('Network.requestWillBeSent', ({ requestId, request }) => {
    if (request.url.startsWith('http')) seen.set(requestId, { bytes: 0, isFace: request.url.includes('/type/') })
  })
  line.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    seen.set(requestId, { bytes: encodedDataLength, isFace: seen.get(requestId)?.isFace ?? false })
  })
  const sum = (came: { bytes: number }[]): Weight => ({
    bytes: came.reduce((bytes, one) => bytes + one.bytes, 0),
    requests: came.filter(one => one.bytes > 0).length,
  })
  return { all: () => sum([...seen.values()]), withoutFaces: () => sum([...seen.values()].filter(one => !one.isFace)) }
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
    const weight = await weigh(page)
    await page.goto(path, { waitUntil: 'commit' })
    await usable(page)
    const before = weight.withoutFaces()
    await page.waitForTimeout(5000)
    const all = weight.all()
    await context.close()
    return { before, all }
  }
  const kb = (n: number) => n * 1024
  const notice = await opened('/examinations/HL27', page => expect(page.getByRole('heading', { level: 1 })).toBeVisible())
  expect(notice.all.bytes).toBeLessThan(kb(30))
  const form = await opened(sheet, page => expect(page.getByLabel('Name on the school certificate')).toBeEditable())
  // A page that grows back fails here.
  expect(form.before.requests).toBeLessThanOrEqual(12)
  expect(form.before.bytes).toBeLessThan(kb(150))
  expect(form.all.requests).toBeLessThanOrEqual(25)
  expect(form.all.bytes).toBeLessThan(kb(250))
  await signedIn.close()
})
