import { readdirSync, statSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join, relative } from 'node:path'
import { createApp, createRouter, toNodeListener, type EventHandler } from 'h3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { StaffRole } from '../../core/access/principal'
import { openSession } from '../../server/services/people/sign-in'
import { openOffice, type Office } from '../support/office'

/**
 * Who may ask what: every route file has a row here, and none is without. A caller who may not is answered 401 or 403; whoever may is
 * answered something else, were it that what was asked makes no sense now.
 */
const root = join(import.meta.dirname, '../../server/api')
type Who = 'nobody' | StaffRole | 'owner' | 'stranger'
const everybody: Who[] = ['nobody', 'administrator', 'officer', 'scrutineer', 'accounts', 'superintendent', 'auditor', 'owner', 'stranger']
const staff: Who[] = ['administrator', 'officer', 'scrutineer', 'accounts', 'superintendent', 'auditor']
const office4: Who[] = ['officer', 'scrutineer', 'accounts', 'auditor']
const seesFiles: Who[] = ['officer', 'scrutineer', 'auditor', 'owner']
const bankReaders: Who[] = ['officer', 'accounts', 'auditor']
const signedIn: Who[] = [...staff, 'owner', 'stranger']
interface Row {
  may: Who[]
  body?: unknown
  address?: string
}

const zero = '00000000-0000-4000-8000-0000000000ff'
const bankColumns = {
  bookedOn: 'a',
  order: 'ymd',
  amount: 'b',
  mark: '.',
  debit: null,
  valueOn: null,
  reference: null,
  text: [],
  name: null,
  account: null,
  bankReference: null,
  balance: null,
  currency: null,
}
const table: Record<string, Row> = {
  'GET account': { may: signedIn },
  'GET account/factor': { may: signedIn },
  'GET account/sessions': { may: signedIn },
  'DELETE account/sessions': { may: signedIn },
  'DELETE account/sessions/:id': { may: signedIn },
  'PUT account/password': { may: signedIn, body: { present: 'x', password: 'y' } },
  'PUT account/factor': { may: signedIn, body: { secret: 'x', code: '1', password: 'y' } },
  'DELETE account/factor': { may: signedIn, body: { password: 'y' } },
  'GET applications/:id': { may: [...office4, 'owner'] },
  'GET applications/:id/live': { may: [...office4, 'owner'] },
  'GET applications/:id/refund-account': { may: ['officer', 'accounts', 'owner'] },
  'PUT applications/:id/refund-account': { may: ['officer', 'accounts', 'owner'], body: { payee: 'A Payee', number: '12345678' } },
  'GET applications/:id/earlier': { may: [...office4, 'owner'] },
  'POST applications/:id/earlier/files': { may: ['officer', 'owner'], body: { from: zero, slot: 'photograph' } },
  'PUT applications/:id/seen': { may: ['owner'] },
  'GET applications/:id/texts': { may: [...office4, 'owner'] },
  'GET applications/:id/form': { may: [...office4, 'owner'] },
  'GET applications/:id/questions': { may: [...office4, 'owner'] },
  'POST applications/:id/questions': { may: ['officer', 'owner'], body: { text: 'When is it?' } },
  'GET cycles/:cycle/questions': { may: office4 },
  'GET applications/:id/endorsements': { may: [...office4, 'owner'] },
  'POST applications/:id/endorsements': {
    may: ['officer', 'owner'],
    body: { rule: 'x', name: 'Somebody', channel: 'email', address: 'a@b.example' },
  },
  'POST applications/:id/endorsements/paper': {
    may: ['officer'],
    body: { rule: 'x', name: 'Somebody', word: 'given', reason: 'tried here' },
  },
  'DELETE applications/:id/endorsements/:endorsement': { may: ['officer', 'owner'], address: `applications/OWN/endorsements/${zero}` },
  'POST endorsements/open': { may: everybody, body: { token: 'x' } },
  'POST endorsements/give': { may: everybody, body: { token: 'x', version: 1, word: 'given', signed: 'Somebody' } },
  'POST questions/:id/answer': { may: ['officer', 'scrutineer', 'accounts'], body: { text: 'Soon.' } },
  'PUT questions/:id/hand': { may: ['officer', 'scrutineer', 'accounts'] },
  'DELETE questions/:id/hand': { may: ['officer', 'scrutineer', 'accounts'] },
  'GET applications/:id/slips': { may: [...office4, 'owner'] },
  'POST applications/:id/slips': { may: ['officer', 'accounts', 'owner'] },
  'GET slips/:id/page': { may: [...bankReaders, 'owner', 'stranger'] },
  'GET cycles/:cycle/slips': { may: bankReaders },
  'PATCH applications/:id/answers': { may: ['officer', 'owner'], body: { revision: 0, changes: {} } },
  'POST applications/:id/acts/:act': {
    may: ['officer', 'owner'],
    body: { reason: 'tried' },
    address: 'applications/OWN/acts/take-back-submission',
  },
  'GET applications/:id/card': { may: ['officer', 'auditor', 'owner'] },
  'POST applications/:id/claims/:claim/ruling': { may: ['officer', 'scrutineer'], body: { ruling: 'false', reason: 'tried' } },
  'GET applications/:id/images/:kind': { may: seesFiles },
  'PUT applications/:id/images/:kind': { may: ['officer', 'owner'] },
  'GET applications/:id/lookalikes': { may: ['officer', 'scrutineer', 'auditor'] },
  'GET applications/:id/order': { may: [...office4, 'owner'] },
  'POST applications/:id/payments': { may: ['officer', 'accounts', 'owner'] },
  'POST applications/:id/payments/ask': { may: ['officer', 'accounts'] },
  'PUT applications/:id/placement': { may: ['officer'], body: { city: 'skarnholm', reason: 'tried here' } },
  'DELETE applications/:id/placement': { may: ['officer'], body: { reason: 'tried here' } },
  'GET applications/:id/correction': { may: [...office4, 'owner'] },
  'PUT applications/:id/correction': { may: ['officer', 'owner'], body: { changes: {} } },
  'DELETE applications/:id/correction': { may: ['officer', 'owner'] },
  'GET applications/:id/keying': { may: ['officer'] },
  'PUT applications/:id/keying': { may: ['officer'], body: { changes: {} } },
  'GET cycles/:cycle/keying': { may: ['officer'] },
  'POST cycles/:cycle/keying/next': { may: ['officer'] },
  'PUT applications/:id/correction/files/:kind': { may: ['officer', 'owner'] },
  'GET cycles/:cycle/corrections': { may: ['officer', 'scrutineer', 'auditor'] },
  'GET cycles/:cycle/barred': { may: ['officer', 'scrutineer', 'auditor'] },
  'POST barred': { may: ['officer'], body: { identityNumber: 'XY12345', reason: 'tried here' } },
  'PUT barred': { may: ['officer'] },
  'DELETE barred/:id': { may: ['officer'], body: { reason: 'tried here' } },
  'POST barred-matches/:id': { may: ['officer', 'scrutineer'], body: { result: 'different', reason: 'tried here' } },
  'GET images/:id/print': { may: ['officer', 'scrutineer', 'auditor'] },
  'GET centres': { may: [...office4, 'superintendent'] },
  'GET check/keys': { may: everybody },
  'POST check/card': { may: everybody, body: { code: 'LR1:x' } },
  'GET cycles': { may: staff },
  'POST cycles': { may: ['officer'], body: { notice: {}, reason: 'A bound.' } },
  'PUT cycles/:cycle/applications/:id': { may: ['officer', 'owner', 'stranger'], address: `cycles/XX99/applications/${zero}` },
  'GET cycles/:cycle/band': { may: staff },
  'GET cycles/:cycle/cards': { may: ['officer', 'auditor'] },
  'GET cycles/:cycle/cards/print': { may: ['officer', 'auditor'], address: 'cycles/HL27/cards/print?venue=none' },
  'GET cycles/:cycle/checks': { may: ['officer', 'scrutineer', 'auditor'] },
  'GET cycles/:cycle/checks/:id': { may: ['officer', 'scrutineer', 'auditor'] },
  'GET cycles/:cycle/demand': { may: ['officer', 'auditor'] },
  'POST cycles/:cycle/demand/trial': { may: ['officer'] },
  'GET cycles/:cycle/desk': { may: office4 },
  'GET cycles/:cycle/fees': { may: ['officer', 'accounts', 'auditor'] },
  'GET cycles/:cycle/find': { may: office4, address: 'cycles/HL27/find?q=a' },
  'GET cycles/:cycle/hand-placements': { may: ['officer', 'auditor'] },
  'GET cycles/:cycle/jobs': { may: office4 },
  'GET cycles/:cycle/jobs/:kind': { may: office4, address: 'cycles/HL27/jobs/review' },
  'POST cycles/:cycle/jobs/:kind': { may: ['officer'], address: 'cycles/XX99/jobs/issue-cards' },
  'GET cycles/:cycle/notice': { may: everybody },
  'GET cycles/:cycle/versions': { may: everybody },
  'POST cycles/:cycle/dates': { may: ['officer'], body: { dates: {}, reason: 'More time.' } },
  'GET cycles/:cycle/proposals': { may: office4 },
  'GET cycles/:cycle/reviews': { may: [...office4, 'superintendent'] },
  'POST cycles/:cycle/reviews': { may: ['officer'], body: { notice: {}, reason: 'A bound.' } },
  'POST cycles/:cycle/rooms': { may: ['officer'], body: { city: 'x', venue: 'x', title: 'x', seats: 1, accessibleSeats: 0 } },
  'POST cycles/:cycle/letters/try': { may: ['officer'], body: { letter: { act: 'accept', subject: 'x', text: 'x' }, number: 'x' } },
  'GET cycles/:cycle/handouts': { may: everybody },
  'POST cycles/:cycle/handouts': { may: ['officer'], address: 'cycles/HL27/handouts?title=x' },
  'GET cycles/:cycle/handouts/:handout': { may: everybody },
  'DELETE cycles/:cycle/handouts/:handout': { may: ['officer'] },
  'PUT cycles/:cycle/rooms': {
    may: ['officer'],
    body: { rooms: [{ room: 'x', seats: 1, stepFree: 0, unusable: [], closedIn: [], lost: false }], reason: 'x' },
  },
  'PUT centres/venues/:code': { may: ['officer'], body: { title: 'x', address: 'x', contact: '' } },
  'GET cycles/:cycle/roster': { may: office4 },
  'GET cycles/:cycle/roster/count': { may: office4 },
  'GET cycles/:cycle/roster/alike': { may: office4 },
  'GET cycles/:cycle/roster/facet': { may: office4, address: 'cycles/HL27/roster/facet?facet=fee' },
  'GET cycles/:cycle/roster/table': { may: office4 },
  'GET cycles/:cycle/roster/views': { may: office4 },
  'POST cycles/:cycle/roster/act': {
    may: ['officer'],
    address: 'cycles/XX99/roster/act',
    body: { filter: {}, act: 'withdraw', mode: 'try' },
  },
  'PUT cycles/:cycle/roster/views/:id': { may: office4, body: { title: 'Mine', query: '', isShared: false } },
  'DELETE cycles/:cycle/roster/views/:id': { may: office4 },
  'GET cycles/:cycle/queue': { may: ['officer', 'scrutineer', 'auditor'] },
  'POST cycles/:cycle/queue/next': { may: ['officer', 'scrutineer'], body: {} },
  'GET cycles/:cycle/pairs': { may: ['officer', 'scrutineer', 'auditor'] },
  'POST pairs/:id': { may: ['officer', 'scrutineer'], body: { result: 'different', reason: 'tried here' } },
  'PUT applications/:id/hand': { may: ['officer', 'scrutineer'] },
  'DELETE applications/:id/hand': { may: ['officer', 'scrutineer'] },
  'POST applications/:id/readings': { may: ['officer', 'scrutineer'], body: { question: 'bornOn', image: zero, result: 'agrees' } },
  'GET cycles/:cycle/reasons': { may: ['officer', 'scrutineer', 'auditor'] },
  'POST cycles/:cycle/reasons': { may: ['officer', 'scrutineer'], body: { item: 'photograph', reason: 'Taken from too far.' } },
  'GET cycles/:cycle/runs': { may: ['officer', 'auditor'] },
  'POST cycles/:cycle/runs': { may: ['officer'], address: 'cycles/XX99/runs', body: {} },
  'GET images/:id': { may: seesFiles },
  'PUT images/:id/original': { may: ['officer', 'owner'] },
  'POST codes': { may: everybody, body: { channel: 'email', address: 'x' } },
  'POST codes/:id': { may: everybody, body: { code: '000000' } },
  'GET own': { may: ['owner', 'stranger'] },
  'GET own/account': { may: ['owner', 'stranger'] },
  'POST own/addresses': { may: ['owner', 'stranger'], body: { codeId: zero, code: '000000' } },
  'DELETE own/addresses/:id': { may: ['owner', 'stranger'], address: `own/addresses/${zero}` },
  'PUT own/password': { may: ['owner', 'stranger'], body: { password: 'x' } },
  'GET own/letters': { may: ['owner', 'stranger'], address: `own/letters?application=${zero}` },
  'PUT own/letters/:id/seen': { may: ['owner', 'stranger'], address: `own/letters/${zero}/seen` },
  'PUT own/language': { may: ['owner', 'stranger'], body: { language: 'fr' } },
  'DELETE own/password': { may: ['owner', 'stranger'] },
  'GET letters': { may: ['officer'] },
  'GET drafts': { may: ['officer'] },
  'GET drafts/:id': { may: ['officer'] },
  'PUT drafts/:id': { may: ['officer'], body: { document: { code: 'QX27' } } },
  'DELETE drafts/:id': { may: ['officer'] },
  'GET cycles/:cycle/erasure': { may: ['officer', 'auditor'], address: 'cycles/HL27/erasure' },
  'POST cycles/:cycle/erasure': { may: ['officer'], address: 'cycles/HL27/erasure', body: { reason: 'its time is over' } },
  'GET notice-schema': { may: everybody },
  'GET jobs/:id': { may: office4 },
  'DELETE jobs/:id': { may: office4 },
  'POST links': { may: everybody, body: { token: 'x' } },
  'POST links/use': { may: everybody, body: { token: 'x', password: 'y' } },
  'GET office': { may: ['administrator'] },
  'PUT office': {
    may: ['administrator'],
    body: { keepMonths: 12, factorRoles: [], withoutSecondPerson: [], telephones: { country: '', ranges: [] } },
  },
  // The gateway has no session: what it sends is believed by its signature, and refused as what it is.
  'POST payments/event': { may: [], body: { eventId: 'e', order: 'o', outcome: 'charged', amount: 1, signature: 's' } },
  'GET cycles/:cycle/fullness': { may: everybody },
  'GET cycles/:cycle/announcements': { may: ['officer'] },
  'POST cycles/:cycle/announcements': {
    may: ['officer'],
    address: 'cycles/XX99/announcements',
    body: { id: zero, filter: {}, subject: 'Hello', text: 'All', mode: 'try' },
  },
  'GET centres/places': { may: ['officer', 'auditor'] },
  'GET centres/table': { may: ['officer', 'auditor'] },
  'GET cycles/:cycle/roster/owed': { may: ['officer', 'accounts'], address: 'cycles/HL27/roster/owed?is=fee:due' },
  'POST cycles/:cycle/roster/payment': { may: ['officer', 'accounts'], body: { filter: { search: 'nobody of this name' } } },
  'POST cycles/:cycle/register': { may: ['officer'] },
  'PUT rolls/:id/files': { may: ['officer'], address: `rolls/${zero}/files?name=a.zip` },
  'DELETE rolls/:id/files': { may: ['officer'] },
  'POST letters/:id/again': { may: ['officer'] },
  'POST bills': { may: ['officer', 'accounts', 'owner'], body: { applications: ['OWN'] } },
  'GET bills/:id/paper': { may: [...bankReaders, 'owner', 'stranger'] },
  'POST bills/:id/withdraw': { may: ['officer', 'accounts', 'owner', 'stranger'] },
  'GET cycles/:cycle/bills': { may: bankReaders },
  'POST cycles/:cycle/bills': { may: ['officer', 'accounts'], body: { payer: 'nobody' } },
  'POST cycles/:cycle/roster/bill': {
    may: ['officer', 'accounts'],
    body: { filter: { search: 'nobody of this name' }, payer: 'A school' },
  },
  'POST payments/together': { may: ['officer', 'accounts', 'owner'], body: { applications: ['OWN'] } },
  'POST proposals/:id': { may: office4 },
  'DELETE proposals/:id': { may: office4 },
  'GET records': { may: ['officer', 'auditor'] },
  'GET records/seal': { may: ['officer', 'auditor'] },
  'GET records/seal/:what': { may: ['officer', 'auditor'], address: 'records/seal/heads' },
  'GET applications/:id/slip': { may: [...office4, 'owner'] },
  'GET applications/:id/deposit': { may: [...office4, 'owner'] },
  'GET applications/:id/receipts': { may: [...office4, 'owner'] },
  'GET applications/:id/receipts/:receipt': { may: [...office4, 'owner'], address: `applications/OWN/receipts/${zero}` },
  'POST check/receipt': { may: everybody, body: { number: '2027-0000001-0', code: 'x' } },
  'GET bank/accounts': { may: bankReaders },
  'PUT bank/accounts/:id': {
    may: ['accounts'],
    body: { title: 'Fees', holder: 'The office', bank: 'A bank', number: '12345678', currency: 'IMK', takesDeposits: false },
  },
  'GET bank/accounts/:id/columns': { may: bankReaders },
  'PUT bank/accounts/:id/columns': { may: ['accounts'], body: bankColumns },
  'GET bank/accounts/:id/statements': { may: bankReaders },
  'POST bank/accounts/:id/statements': { may: ['accounts'], address: `bank/accounts/${zero}/statements?name=a.csv` },
  'POST bank/head': { may: ['accounts'] },
  'GET bank/lines': { may: bankReaders },
  'GET bank/lines/:id': { may: bankReaders },
  'POST bank/lines/:id/explain': { may: ['accounts'], body: { as: 'bank charge' } },
  'POST bank/matches/:id/take-back': { may: ['accounts'], body: { reason: 'tried here' } },
  'GET bank/matching': { may: bankReaders },
  'PUT bank/matching': { may: ['accounts'], body: { threshold: 0.9 } },
  'GET bank/dues': { may: ['accounts'] },
  'GET bank/settlements': { may: bankReaders },
  'POST bank/settlements': { may: ['accounts'] },
  'GET bank/ledger.csv': { may: bankReaders, address: 'bank/ledger.csv?from=2027-01-01&to=2027-01-01' },
  'POST cycles/:cycle/match-lines': { may: ['accounts'], address: 'cycles/XX99/match-lines' },
  'GET bank/refunds': { may: bankReaders },
  'POST bank/refunds': {
    may: ['accounts'],
    body: { application: zero, amount: 100, payee: 'Somebody', number: '12345678', reason: 'paid twice' },
  },
  'POST bank/refunds/:id': { may: ['officer', 'accounts'], body: { answer: 'approve' } },
  'POST bank/payment-files': { may: ['accounts'], body: { account: zero } },
  'GET bank/payment-files/:id': { may: ['accounts'] },
  'GET cycles/:cycle/closing': { may: bankReaders },
  'POST cycles/:cycle/closing': { may: ['accounts'], body: { on: '2999-01-01', currency: 'IMK' } },
  'GET cycles/:cycle/rolls': { may: ['officer'] },
  'POST cycles/:cycle/rolls': { may: ['officer'] },
  'GET rolls/:id': { may: ['officer'] },
  'PUT rolls/:id': { may: ['officer'], body: { columns: [], order: null, gaps: 'enter', charset: null } },
  'POST rolls/:id/try': { may: ['officer'] },
  'POST rolls/:id/enter': { may: ['officer'], body: {} },
  'POST rolls/:id/hand-in': { may: ['officer'], body: { declared: true } },
  'GET rolls/:id/drafts.csv': { may: ['officer'] },
  'GET rolls/:id/refused.csv': { may: ['officer'] },
  'GET reviews/:id': { may: [...office4, 'superintendent'] },
  'POST reviews/:id/accept': { may: ['officer'], body: {} },
  'POST reviews/:id/discard': { may: ['officer'] },
  'GET runs/:id': { may: ['officer', 'auditor'] },
  'GET runs/:id/allotment.csv': { may: ['officer', 'auditor'] },
  'GET runs/:id/cities.geojson': { may: ['officer', 'auditor'] },
  'GET runs/:id/move-cost': { may: ['officer'], address: `runs/${zero}/move-cost?application=${zero}&city=x` },
  'GET runs/:id/people': { may: ['officer', 'auditor'] },
  'POST runs/:id/publish': { may: ['officer'] },
  'GET runs/:id/report.pdf': { may: ['officer', 'auditor'] },
  'POST runs/:id/savings': { may: ['officer'], body: { cities: ['x'], seats: 1 } },
  'GET runs/:id/why/:application': { may: ['officer', 'auditor'] },
  'GET runs/compare': { may: ['officer', 'auditor'], address: `runs/compare?first=${zero}&second=${zero}` },
  'GET runs/compare/people': { may: ['officer', 'auditor'], address: `runs/compare/people?first=${zero}&second=${zero}&side=gain` },
  'GET session': { may: everybody },
  'POST session': { may: [], body: { signInName: 'x', password: 'y' } },
  'DELETE session': { may: signedIn },
  'GET staff': { may: ['administrator'] },
  'POST staff': { may: ['administrator'], body: { signInName: 'member0', name: 'x', roles: ['officer'] } },
  'PUT staff/:id': { may: ['administrator'], body: { signInName: 'x', name: 'x', roles: ['officer'] } },
  'PUT staff/:id/active': { may: ['administrator'], body: { active: true } },
  'POST staff/:id/link': { may: ['administrator'] },
  'GET standins/bank': { may: bankReaders },
  'POST standins/bank/day': { may: ['accounts'], body: { account: zero } },
  'GET standins/bank/settlement': { may: ['accounts'] },
  'GET standins/bank/statement': { may: ['accounts'], address: 'standins/bank/statement?account=x&sequence=1&format=csv' },
}

function routeFiles(place: string): string[] {
  return readdirSync(place).flatMap((name) => {
    const path = join(place, name)
    return statSync(path).isDirectory() ? routeFiles(path) : [relative(root, path)]
  })
}
/** `applications/[id]/card.get.ts` is `GET applications/:id/card`. */
function nameOf(file: string): { method: string, path: string } {
  const match = /^(.*?)(?:\.(get|post|put|patch|delete))?\.ts$/.exec(file)
  const path = (match?.[1] ?? '').replace(/\[\.\.\.\]/g, '**').replace(/\[(\w+)\]/g, ':$1').replace(/\/?index$/, '')
  return { method: (match?.[2] ?? 'all').toUpperCase(), path }
}
const routes = routeFiles(root).map(file => ({ file, ...nameOf(file) }))

let office: Office
let server: Server
let address = ''
let own = ''
const sessions = new Map<Who, { cookie: string, csrf: string }>()

beforeAll(async () => {
  office = await openOffice()
  process.env.DATABASE_URL = office.urls.application
  process.env.LUCID_SECRET = 'a secret of the tests'
  const [owner, stranger] = [await office.candidate('The Owner'), await office.candidate('A Stranger')]
  own = await office.complete(owner)
  const context = { ...await office.context(), now: () => new Date() }
  for (const who of everybody) {
    if (who === 'nobody') continue
    const id = who === 'owner' ? owner.id : who === 'stranger' ? stranger.id : office.as(who).principal.id
    const { token, csrfToken } = await openSession(context, id)
    sessions.set(who, { cookie: `lucid-session=${token}`, csrf: csrfToken })
  }
  const [app, router] = [createApp(), createRouter()]
  // What is named outright comes before what a parameter catches.
  for (
    const { file, method, path } of [...routes].sort((a, b) =>
      a.path.split(':').length - b.path.split(':').length || b.path.length - a.path.length
    )
  ) {
    const { default: handler } = await import(/* @vite-ignore */ join(root, file)) as { default: EventHandler }
    router.use(`/api/${path}`.replace(/\/$/, ''), handler, method === 'ALL' ? undefined : method.toLowerCase() as 'get')
  }
  app.use(router)
  server = createServer(toNodeListener(app)).listen(0, '127.0.0.1')
  await new Promise(done => server.once('listening', done))
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`
})
afterAll(async () => {
  const { runtime } = await import('../../server/runtime')
  await new Promise(done => server.close(done))
  await runtime().close()
  await office.close()
})

async function ask(who: Who, method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
  const session = sessions.get(who)
  return fetch(`${address}/${path}`, {
    method,
    headers: {
      'content-type': 'application/json',
      ...(session ? { 'cookie': session.cookie, 'x-lucid-csrf': session.csrf } : {}),
      ...headers,
    },
    body: method === 'GET' ? undefined : typeof body === 'string' ? body : JSON.stringify(body ?? {}),
  })
}

describe('every route', () => {
  it('has a row in the table, and every row a route', () => {
    const names = routes.filter(r => r.path !== '**').map(r => `${r.method} ${r.path}`)
    expect(names.filter(name => !(name in table))).toEqual([])
    expect(Object.keys(table).filter(name => !names.includes(name))).toEqual([])
  })

  const bodyOf = ({ body }: Row): unknown =>
    body === undefined ? undefined : JSON.parse(JSON.stringify(body).replace('"OWN"', JSON.stringify(own))) as unknown

  it.each(Object.entries(table).filter(([name]) => name !== 'DELETE session' && name !== 'DELETE account/sessions'))(
    '%s answers those who may and refuses all others',
    async (name, row) => {
      const [method = '', path = ''] = name.split(' ')
      const asked = (row.address ?? path).replace('OWN', own).replace('applications/:id', `applications/${own}`).replace(':cycle', 'HL27')
        .replace(':handout', zero).replace(':kind', 'photograph').replace(':claim', 'outer-isles').replace(':order', 'x').replace(
          ':application',
          zero,
        ).replace(':id', zero)
      const refused: Who[] = []
      for (const who of everybody) {
        const answer = await ask(who, method, asked, bodyOf(row))
        // 429: guessing passwords is slowed down, whoever guesses.
        if ([401, 403, 429].includes(answer.status)) refused.push(who)
        else expect([name, who, answer.status < 500]).toEqual([name, who, true])
        // One that goes on telling is left.
        if (answer.headers.get('content-type') === 'text/event-stream') await answer.body?.cancel()
        else await answer.arrayBuffer()
      }
      // A file of nobody is nobody's own.
      const may = path.startsWith('images/') ? row.may.filter(who => who !== 'owner') : row.may
      expect(refused).toEqual(everybody.filter(who => !may.includes(who)))
    },
  )

  it('packs long answers for whoever takes them packed, and never one that holds a token', async () => {
    const [packed, plain] = [await ask('officer', 'GET', 'cycles/HL27/notice', undefined, { 'accept-encoding': 'gzip' }),
      await ask('officer', 'GET', 'cycles/HL27/notice', undefined, { 'accept-encoding': 'identity' })]
    expect([packed.headers.get('content-encoding'), packed.headers.get('vary'), packed.headers.get('content-type')]).toEqual(['gzip',
      'accept-encoding', 'application/json'])
    expect(plain.headers.get('content-encoding')).toBeNull()
    expect(await packed.json()).toEqual(await plain.json())
    const session = await ask('officer', 'GET', 'session', undefined, { 'accept-encoding': 'gzip' })
    expect([session.headers.get('content-encoding'), Object.keys(await session.json() as object)]).toEqual([null,
      expect.arrayContaining(['csrfToken'])])
    // Long problems are packed, too, and keep their status.
    const refused = await ask('officer', 'POST', 'cycles', {
      notice: { code: 'ZZ99', posts: Array.from({ length: 60 }, (_, i) => ({ id: `No ${i}` })) },
      reason: 'tried',
    }, { 'accept-encoding': 'gzip' })
    expect([refused.status, (await refused.json() as { code: string }).code]).toEqual([422, 'notice.faults'])
  })

  it.each(Object.keys(table).filter(name => name.startsWith('GET cycles/:cycle')))('%s says that a cycle is none', async (name) => {
    const asked = name.slice(4).replace(':cycle', 'XX99').replace(':kind', 'review').replace(':handout', zero).replace(
      ':id',
      'photograph.roll',
    )
    const answer = await ask(
      'officer',
      'GET',
      asked.endsWith('/print')
        ? `${asked}?venue=x`
        : asked.endsWith('/facet')
        ? `${asked}?facet=fee`
        : asked.endsWith('/find')
        ? `${asked}?q=a`
        : asked,
    )
    expect([answer.status, (await answer.json() as { code: string }).code]).toEqual([404, 'cycle.unknown'])
  })

  it('that changes something wants the token of its session', async () => {
    for (const [name, row] of Object.entries(table)) {
      const [method = '', path = ''] = name.split(' ')
      if (method === 'GET' || row.may.includes('nobody') || ['POST session', 'POST payments/event'].includes(name)) continue
      const answer = await ask('officer', method, path.replace(/:\w+/g, zero), row.body, { 'x-lucid-csrf': 'made up' })
      expect([name, answer.status, (await answer.json() as { code: string }).code]).toEqual([name, 403, 'session.foreign-page'])
    }
  })
})

describe('what cannot be read', () => {
  const bad: [string, string, string, unknown, Record<string, string>?][] = [
    ['a number that is none', 'GET', 'cycles/HL27/roster?limit=abc', undefined],
    ['a missing parameter', 'GET', 'cycles/HL27/find', undefined],
    ['an origin that is none', 'POST', 'session', { signInName: 'a', password: 'b' }, { origin: 'null' }],
    ['a broken escape in the path', 'GET', 'cycles/%E0%A4%A/band', undefined],
    ['a NUL in the query', 'GET', 'cycles/HL27/find?q=%00', undefined],
    ['a NUL in the path', 'GET', 'cycles/%00/band', undefined],
    ['a NUL in a text', 'PATCH', 'applications/OWN/answers', { revision: 1, changes: { address: 'a\0b' } }],
    ['half a character', 'PATCH', 'applications/OWN/answers', '{"revision":1,"changes":{"address":"\\ud800"}}'],
    ['a number past 32 bits', 'PATCH', 'applications/OWN/answers', { revision: 2 ** 31, changes: {} }],
    ['a key past 32 bits', 'GET', `runs/compare/people?first=${zero}&second=${zero}&side=gain&afterPoints=99999999999&afterNumber=a`,
      undefined],
    ['no JSON', 'PATCH', 'applications/OWN/answers', '{"revision":'],
    ['nesting without end', 'PATCH', 'applications/OWN/answers', `{"revision":1,"changes":${'['.repeat(200)}${']'.repeat(200)}}`],
    ['a body without end', 'PATCH', 'applications/OWN/answers', `{"revision":1,"changes":{"address":"${'a'.repeat(1_100_000)}"}}`],
    ['an unknown address', 'GET', 'no/such/thing', undefined],
    ['a place in the log that is none', 'GET', 'records?before=99999999999999999999', undefined],
    ['a subject that is none', 'GET', 'records?subject=%00', undefined],
    ['an id that is none', 'GET', 'applications/1', undefined],
  ]
  it.each(bad)('%s is refused in words', async (_, method, path, body, headers) => {
    const answer = await ask('officer', method, path.replace('OWN', own), body, headers)
    expect(answer.headers.get('content-type')).toContain('json')
    const problem = await answer.json() as { code: string, message: string }
    expect([answer.status >= 400 && answer.status < 500, problem.message.length > 10]).toEqual([true, true])
  })
})

describe('an office without a gateway', () => {
  it('lets nothing be paid online, and believes no call', async () => {
    const paid = await ask('owner', 'POST', `applications/${own}/payments`, {})
    expect((await paid.json() as { code: string }).code).toBe('payment.no-gateway')
    expect((await ask('nobody', 'POST', 'payments/event', { eventId: 'ev', order: 'x', outcome: 'charged', amount: 1, currency: 'IMK' }))
      .status).toBe(403)
  })
})
