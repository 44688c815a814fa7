import { chromium, type Page } from '@playwright/test'

/**
 * Forty cases of scrutiny by keys alone, as one person goes through them: how long it takes from the key that decides until the next case's
 * photograph stands, and all of it with so many seconds of looking at each. `LUCID_ADDRESS=http://127.0.0.1:3000 npx tsx bench/keys.ts
 * [cases] [seconds]`: an office with the demo that is running; its cases are decided by it.
 */
const base = process.env.LUCID_ADDRESS ?? 'http://127.0.0.1:3000'
const [cases, looking] = [Number(process.argv[2] ?? 40), Number(process.argv[3] ?? 8)]
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: base })
await page.goto('/sign-in')
await page.getByLabel('Sign-in name').fill('scrutineer')
await page.getByLabel('Password', { exact: true }).fill('lantern-harbour-27')
await page.keyboard.press('Enter')
await page.waitForURL(url => !url.pathname.includes('sign-in'))

/** In the page itself: milliseconds from now until another case's photograph is drawn. */
const untilPicture = (from: Page, before: string) =>
  from.evaluate(async (old) => {
    const start = performance.now()
    for (;;) {
      const picture = document.querySelector<HTMLImageElement>('figure img')
      if (location.pathname !== old && location.pathname.length > 12 && picture?.complete && picture.naturalWidth > 0) {
        return performance.now() - start
      }
      await new Promise(requestAnimationFrame)
    }
  }, before)

const waits: number[] = []
const decided: Record<string, number> = {}
const begun = performance.now()
await page.goto('/scrutiny')
await page.getByRole('button', { name: /^Take the next/ }).first().waitFor()
await page.keyboard.press('n')
await page.waitForURL(/scrutiny\/[0-9a-f-]{36}/)
for (let i = 0; i < cases; i += 1) {
  const here = new URL(page.url()).pathname
  await page.waitForTimeout(looking * 1000)
  const isFlawed = await page.getByRole('button', { name: /^Return with/ }).isVisible()
  const canDecide = await page.getByRole('button', { name: /^Accept/ }).isVisible()
  const act = !canDecide ? 'j' : isFlawed ? 'r' : 'a'
  decided[act] = (decided[act] ?? 0) + 1
  const picture = act === 'r' ? null : untilPicture(page, here)
  await page.keyboard.press(act)
  if (act !== 'r') {
    waits.push(await Promise.race([picture ?? 0, new Promise<number>(resolve => setTimeout(resolve, 20_000, NaN))]))
    if (Number.isNaN(waits.at(-1))) break
    continue
  }
  await page.getByRole('dialog').waitFor()
  await page.waitForTimeout(300)
  const next = untilPicture(page, here)
  await page.keyboard.press('Control+Enter')
  waits.push(await Promise.race([next, new Promise<number>(resolve => setTimeout(resolve, 20_000, NaN))]))
  if (Number.isNaN(waits.at(-1))) break
}
const seconds = (performance.now() - begun) / 1000
const sorted = [...waits].filter(Number.isFinite).sort((a, b) => a - b)
const at = (share: number) => Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0)
console
  .log(`${sorted.length} of ${cases} cases in ${Math.round(seconds)} s with ${looking} s of looking at each: ${JSON.stringify(decided)}`)
console.log(`from key to the next photograph: median ${at(0.5)} ms, p95 ${at(0.95)} ms, longest ${at(1)} ms`)
await browser.close()
