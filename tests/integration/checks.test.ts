import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { readCheckRecords, readCheckValues } from '../../server/services/scrutiny/checks'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { openOffice, type Office } from '../support/office'

describe("how the checks do against people's decisions", () => {
  let office: Office
  beforeAll(async () => {
    office = await openOffice()
  })
  afterAll(() => office.close())

  async function waitingWith(fault: Parameters<typeof drawPortrait>[1], seed: number): Promise<string> {
    const id = await office.draft()
    await office.addPicture(id, 'photograph', await drawPortrait(new Random(seed), fault))
    await office.addPicture(id, 'signature', await drawSignature(new Random(seed), 'none'))
    await office.addPapers(id)
    const { revision } = await office.dossier(id)
    await office.act(id, 'submit', { revision, declared: true })
    const { order } = await openPayment(office.as(), office.gateway, id)
    for (const event of await office.gateway.act(order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
    return id
  }

  it('has nothing to say before anything is decided', async () => {
    expect(await readCheckRecords(office.as(), office.cycle)).toEqual({ decisions: 0, since: null, checks: [] })
    await expect(readCheckValues(office.as(), office.cycle, 'photograph/photograph.sharpness')).rejects
      .toThrow('Nothing that was decided on')
  })

  it('counts accepted pictures, and of returns those that the reasons name', async () => {
    for (const seed of [11, 12, 13]) await office.act(await waitingWith('none', seed), 'accept', { reasons: [] }, office.as('scrutineer'))
    await office.act(await waitingWith('blurred', 14), 'return', {
      reasons: [{ item: 'photograph', reason: 'Blurred; send a sharp one.' }],
    }, office.as('scrutineer'))
    // Accepted against the rule, and returned for something else than a picture.
    await office.act(await waitingWith('dark', 15), 'accept', {
      reasons: [{ item: 'photograph', reason: 'Dark, but the person can be known by it.' }],
    }, office.as('scrutineer'))
    await office.act(
      await waitingWith('none', 16),
      'return',
      { reasons: [{ item: 'address', reason: 'The street is missing.' }] },
      office.as('scrutineer'),
    )
    const records = await readCheckRecords(office.as(), office.cycle)
    expect(records.decisions).toBe(6)
    const of = (code: string) => records.checks.find(check => check.code === code)
    expect(of('photograph.sharpness')).toMatchObject({
      accepted: { pass: 4, unsure: 0, fail: 0 },
      returned: { pass: 0, unsure: 0, fail: 1 },
    })
    expect(of('photograph.exposure')).toMatchObject({
      accepted: { pass: 3, unsure: 0, fail: 1 },
      returned: { pass: 1, unsure: 0, fail: 0 },
    })
    expect(of('signature.inkShare')).toMatchObject({ accepted: { pass: 4, unsure: 0, fail: 0 }, returned: { pass: 0, unsure: 0, fail: 0 } })
    // People and rule part on exposure: it comes before those on which they agree.
    expect(records.checks.findIndex(check => check.code === 'photograph.exposure'))
      .toBeLessThan(records.checks.findIndex(check => check.code === 'photograph.width'))
  })

  it('gives values of both kinds in bins that hold the bound', async () => {
    const values = await readCheckValues(office.as(), office.cycle, 'photograph/photograph.sharpness')
    expect(values.bound).toEqual(office.notice.images.photograph.sharpness)
    const sum = (counts: number[]) => counts.reduce((a, b) => a + b, 0)
    expect([sum(values.accepted), sum(values.returned)]).toEqual([4, 1])
    const bin = Math.floor(((values.bound?.min ?? 0) - values.from) / values.width)
    expect(sum(values.returned.slice(0, bin + 1))).toBe(1)
    expect(sum(values.accepted.slice(bin + 1))).toBe(4)
  })
})
