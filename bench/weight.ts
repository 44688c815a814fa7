import { chromium } from '@playwright/test'

/**
 * How long candidates' pages take on a slow line: a telephone of 390 x 844, nothing kept, 400 kbit/s with 400 ms to and fro, by the
 * browser's own emulation. `LUCID_ADDRESS=http://127.0.0.1:3000 npx tsx bench/weight.ts`: an office with the demo that is running.
 */
const base = process.env.LUCID_ADDRESS ?? 'http://127.0.0.1:3000'
const line = { offline: false, latency: 400, downloadThroughput: 400 * 1024 / 8, uploadThroughput: 400 * 1024 / 8 }
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] })

/** Somebody signed in by a code, as the office reads it, with an application begun. */
async function candidate() {
  const address = `slow${Date.now()}@post.example`
  const office = await (await browser.newContext({ baseURL: base })).newPage()
  await office.request.post('/api/session', { data: { signInName: 'officer', password: 'lantern-harbour-27' } })
  const context = await browser.newContext({ baseURL: base })
  const page = await context.newPage()
  const { id } = await (await page.request.post('/api/codes', { data: { channel: 'email', address } })).json() as { id: string }
  const { rows } = await (await office.request.get(`/api/letters?search=${encodeURIComponent(address)}`)).json() as {
    rows: { body: string }[],
  }
  await page.request.post(`/api/codes/${id}`, { data: { code: /\d{6}/.exec(rows[0]?.body ?? '')?.[0] ?? '' } })
  await page.goto('/own?examination=HL27')
  await page.getByRole('button', { name: 'Begin an application', exact: true }).click()
  await page.waitForURL(/own\/.+/)
  return { state: await context.storageState(), sheet: new URL(page.url()).pathname }
}

/** Opens a page cold, and once more with what the browser has kept. */
async function open(name: string, path: string, usable: string, state: Awaited<ReturnType<typeof candidate>>['state']): Promise<void> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, storageState: state })
  for (const when of ['cold', 'again']) {
    const page = await context.newPage()
    const devtools = await context.newCDPSession(page)
    await devtools.send('Network.enable')
    await devtools.send('Network.emulateNetworkConditions', line)
    const seen = new Map<string, number>()
    devtools.on('Network.requestWillBeSent', ({ requestId, request }) => {
      if (request.url.startsWith('http')) seen.set(requestId, 0)
    })
    devtools.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (seen.has(requestId)) seen.set(requestId, encodedDataLength)
    })
    const came = () =>
      `${[...seen.values()].filter(bytes => bytes > 0).length} requests, ${
        Math.round([...seen.values()].reduce((sum, bytes) => sum + bytes, 0) / 1024)
      } KB`
    const before = performance.now()
    await page.goto(base + path, { waitUntil: 'commit', timeout: 60_000 })
    await page.locator(usable).first().waitFor({ timeout: 60_000 })
    const ms = performance.now() - before
    const then = came()
    await page.waitForTimeout(10_000)
    console.log(`${name}, ${when}: usable after ${(ms / 1000).toFixed(1)} s (${then}); in all ${came()}`)
    await page.close()
  }
  await context.close()
}

const { state, sheet } = await candidate()
await open('notice for everybody', '/examinations/HL27', 'h1', state)
await open('address and code', '/apply?examination=HL27', 'input', { ...state, cookies: [] })
await open('my applications', '/own', 'main h1, main h2', state)
await open('sheet', sheet, 'input', state)
await browser.close()
