import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { confirmProposal } from '../../server/jobs/confirm'
import { saveAnswers } from '../../server/services/applications/answers'
import { registerApplication } from '../../server/services/applications/begin'
import { listProposals } from '../../server/services/acts/proposals'
import { readFile } from '../../server/services/files/bytes'
import { askOffice } from '../../server/services/letters/questions'
import { writeLetters } from '../../server/services/letters/write'
import { readErasure, releaseErasing } from '../../server/services/records/erase'
import { eraseReleased, type Erasers } from '../../server/services/records/erasing'
import { checkSealed, sealLog } from '../../server/services/records/seal'
import { changeOfficeSettings, readOfficeSettings } from '../../server/services/people/settings'
import type { Principal } from '../../core/access/principal'
import { openOffice, queueTo, type Office } from '../support/office'
import { everything } from '../support/everything'
import { problemOf } from '../support/problem'

let office: Office
let owner: Principal
let own: string
let waiting: string
const reason = 'its time is over, by the rules of the Board'
const told = ['Wendelgard Ulfsdatter-Krenn', 'wendelgard@mail.lanternreach.example', 'behind the old net loft',
  'the step before the hall is high']

beforeAll(async () => {
  office = await openOffice()
  owner = await office.candidate(told[0], told[1])
  own = await office.complete(owner)
  await saveAnswers(office.by(owner), own, { revision: 1, changes: { certificateName: told[0] ?? '', address: told[2] ?? '' } })
  await askOffice(office.by(owner), own, { about: '', text: told[3] ?? '' })
  await office.act(own, 'submit', { revision: 2, declared: true }, office.by(owner))
  await office.settle(own)
  await office.act(own, 'accept')
  waiting = await office.at('drafting')
  await office.publish((await office.run()).runId)
  await office.issue(own)
  await writeLetters(office.product)
  await sealLog(office.product, 'now')
})
afterAll(() => office.close())

const erasers = (): Erasers => ({ app: office.db, files: office.in('files') })
const erase = async () => eraseReleased(erasers(), await office.context())
const release = (who = office.as()) => releaseErasing(who, 'HL27', { reason })

describe('what a cycle tells of people', () => {
  it('is kept for its time, and while something is not settled', async () => {
    expect(await problemOf(release())).toMatchObject({ code: 'erase.too-early', parameters: { cycle: 'HL27' } })
    office.now = new Date('2031-01-01T00:00:00Z')
    await office.db.execute(sql`update application set headline = 'in scrutiny' where id = ${waiting}`)
    expect(await problemOf(release())).toMatchObject({ code: 'erase.open', parameters: { cases: 1, payments: 0 } })
    await office.db.execute(sql`update application set headline = 'lapsed' where id = ${waiting}`)
    await changeOfficeSettings(office.as('administrator'), { ...await readOfficeSettings(office.as('administrator')), keepMonths: 240 })
    expect(await readErasure(office.as('auditor'), 'HL27')).toMatchObject({ applications: 2, refusal: { code: 'erase.too-early' } })
    await changeOfficeSettings(office.as('administrator'), { ...await readOfficeSettings(office.as('administrator')), keepMonths: 12 })
    expect(await erase()).toEqual([])
  })

  it('is released by two people, once', async () => {
    await release()
    expect(await problemOf(release(office.second()))).toMatchObject({ code: 'act.proposed' })
    const [{ id = '' } = {}] = await listProposals(office.second(), 'HL27')
    expect(await problemOf(confirmProposal(office.as(), queueTo([]), id))).toMatchObject({ code: 'access.second-self' })
    await confirmProposal(office.second(), queueTo([]), id)
    expect(await problemOf(release())).toMatchObject({ code: 'erase.released' })
    expect(await problemOf(registerApplication(office.as(), 'HL27', randomUUID(), { outsideDates: true, reason }))).toMatchObject({
      code: 'erase.cycle',
    })
  })

  it('is gone from every table afterwards, bytes and all; what was counted and paid stays, and the log is proven as before', async () => {
    const before = await everything(office)
    for (const value of told) expect(before).toContain(value)
    const ledger = (await office.db.execute(sql`select account, sum(amount) from ledger_line group by 1 order by 1`)).rows
    // Broken off after a page of evidence, it begins again.
    const broken = {
      ...erasers(),
      app: {
        ...office.db,
        insert: office.db.insert.bind(office.db),
        select: office.db.select.bind(office.db),
        transaction: () => Promise.reject(new Error('the power is gone')),
      } as unknown as Office['db'],
    }
    await expect(eraseReleased(broken, await office.context())).rejects.toThrow('the power is gone')
    await sealLog(office.product, 'now')
    expect((await checkSealed(office.as('auditor')))?.fault).toBeNull()
    expect(await erase()).toEqual(['HL27'])
    const after = await everything(office)
    for (const value of told) expect(after).not.toContain(value)
    const { rows: [answers] } = await office.db.execute<
      { left: number }
    >(sql`select count(*)::int as left from application where answers <> '{}' or erased_at is null`)
    expect(answers).toEqual({ left: 0 })
    expect(await readErasure(office.as('auditor'), 'HL27')).toMatchObject({
      done: { applications: 2, files: 1, accounts: 1 },
      refusal: null,
    })
    expect((await office.db.execute(sql`select account, sum(amount) from ledger_line group by 1 order by 1`)).rows).toEqual(ledger)
    expect((await office.db.execute(sql`select 1 from seat where application_id = ${own}`)).rows.length).toBeGreaterThan(0)
    await sealLog(office.product, 'now')
    expect(await checkSealed(office.as('auditor'))).toMatchObject({ fault: null })
    expect(await erase()).toEqual([])
  })

  it('is nothing to act on or to look at any more', async () => {
    expect(await problemOf(office.act(own, 'withdraw', { reason, outsideDates: true }))).toMatchObject({ code: 'application.erased' })
    expect(await problemOf(office.dossier(own))).toMatchObject({ code: 'application.erased' })
    expect(await problemOf(readFile(office.db, 'erased'))).toMatchObject({ code: 'file.erased' })
  })

  it('names bytes only where the sweep of unnamed bytes looks', async () => {
    const { fileNames } = await import('../../server/services/files/bytes')
    const { rows } = await office.in('owner').execute<
      { name: string }
    >(sql`select table_name || '.' || column_name as name from information_schema.columns where table_schema = 'public' and (column_name ~ 'sha256$' or column_name in ('pages', 'originals')) order by 1`)
    const others = ['accepted_text.sha256', 'allocation_run.inputs_sha256', 'file.sha256', 'image_likeness.pixels_sha256',
      'notice_version.sha256', 'post_verdict.facts_sha256', 'post_verdict.rules_sha256', 'review_item.facts_sha256',
      'review_item.rules_sha256', 'text_wording.sha256', 'verdict_history.facts_sha256', 'verdict_history.rules_sha256']
    const arms = fileNames.split('union all')
    const isLookedAt = (name: string) => {
      const [table, column] = name.split('.')
      // A page's hash in quotes is a member of what a column holds, not the column.
      return arms.some(arm => new RegExp(`from ${table}\\b`).test(arm) && new RegExp(`(?<!')\\b${column}\\b`).test(arm))
    }
    const names = rows.map(row => row.name).filter(name => !others.includes(name))
    expect(names.length).toBeGreaterThan(10)
    expect(names.filter(name => !isLookedAt(name))).toEqual([])
    expect(['staff.sha256', 'deposit_slip.originals'].map(isLookedAt)).toEqual([false, false])
  })
})
