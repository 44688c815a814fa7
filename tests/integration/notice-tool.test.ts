import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { readNotice } from '../../core/notice/check'

const folder = mkdtempSync(join(tmpdir(), 'lucid-notice-'))
const lucid = (...args: string[]) => spawnSync('./bin/lucid', ['notice', ...args], { encoding: 'utf8' })

it("the demo's notice is resolved for a day, is sound, and two of it are compared in words", () => {
  const [first, second] = [join(folder, 'first.json'), join(folder, 'second.json')]
  expect(lucid('resolve', 'demo/harbour-lighthouse.notice.json', '--on', '2026-12-01', '--out', first).status).toBe(0)
  const { notice } = readNotice(JSON.parse(readFileSync(first, 'utf8')))
  // Three days after the first of December at 17:00 in a zone that is 75 minutes behind UTC.
  expect(notice?.keyDates).toMatchObject({ closes: '2026-12-04T18:15:00.000Z', ageOn: '2027-01-08' })
  expect(lucid('check', first)).toMatchObject({ status: 0, stdout: expect.stringContaining('no errors') as string })
  writeFileSync(second, JSON.stringify({ ...notice, title: 'Another title' }))
  expect(lucid('compare', first, second).stdout)
    .toContain('Title: “Harbour and Lighthouse Service Recruitment Test 2027” → “Another title”')
  writeFileSync(second, JSON.stringify({ ...notice, sessions: [] }))
  expect(lucid('check', second)).toMatchObject({ status: 1, stdout: expect.stringContaining('sessions') as string })
  expect(lucid('resolve', first, '--on', '2026-02-30').stderr).toContain('is no day')
})
