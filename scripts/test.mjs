import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  bin,
  checkNode,
  ensureBuild,
  ensureDebianPackages,
  ensureModules,
  fail,
  hasCommand,
  officeKeyFile,
  root,
  run,
  say,
  startGateway,
  tryListen,
} from './lib/system.mjs'
import { postgresInstalled, startCluster } from './lib/postgres.mjs'

/**
 * The whole test from a fresh clone: installs what it needs, checks style and types, runs the unit, reference and
 * integration tests on a private PostgreSQL, builds, and follows people's ways through the built application in a
 * browser. Ends with one line, `N passed, N failed`, over all of them. A name of a part (lint, types, unit, ways) as
 * argument runs only that part; `faults` needs `ways` before it.
 */
const parts = ['lint', 'types', 'unit', 'ways', 'faults']
const wanted = process.argv.slice(2)
const strange = wanted.find(part => !parts.includes(part))
if (strange) fail(`"${strange}" is not a part of the test; there are ${parts.join(', ')}.`)
const has = part => wanted.length === 0 || wanted.includes(part)

const total = { passed: 0, failed: 0 }
const failures = []
/** Each part with what came of it and the seconds that it took. */
const times = []
const reports = mkdtempSync(join(tmpdir(), 'lucid-test-'))
const started = Date.now()
/** What people wrote of themselves, as far as it is long enough to be known again. */
const personal =
  "select distinct one #>> '{}' from application, jsonb_each(answers) as answer(question, one) where jsonb_typeof(one) = 'string' and length(one #>> '{}') >= 8 union select address from contact union select display_name from application"
const quiet = { NUXT_TELEMETRY_DISABLED: '1', DO_NOT_TRACK: '1', NO_COLOR: '1' }
let cluster = null
let server = null
let isEnding = false
let gateway = null

checkNode()
const seconds = since => Math.round((Date.now() - since) / 1000)
ensureDebianPackages({
  'postgresql': postgresInstalled,
  'chromium': hasCommand('chromium'),
  'poppler-utils': hasCommand('pdftotext'),
  'zbar-tools': hasCommand('zbarimg'),
})
await ensureModules()
times.push(['packages', '', seconds(started)])
process.on('SIGINT', () => finish(130))
process.on('SIGTERM', () => finish(143))

try {
  await prepareTypes()
  await styleAndTypes()
  if (has('unit') || has('ways') || has('faults')) cluster = await startCluster('postgres-test', { throwaway: true })
  if (has('unit')) await unitTests()
  if (has('ways') || has('faults')) await waysThrough()
  if (has('faults')) await faults()
} catch (error) {
  count('the test itself', 0, 1)
  console.error(error)
}
finish(total.failed > 0 ? 1 : 0)

function count(part, passed, failed, since = started) {
  total.passed += passed
  total.failed += failed
  if (failed > 0) failures.push(part)
  times.push([part, `${passed} passed, ${failed} failed`, seconds(since)])
  say(`${part}: ${passed} passed, ${failed} failed (${seconds(since)} s, ${seconds(started)} s so far)`)
}

async function prepareTypes() {
  if (!await run(bin('nuxt'), ['prepare'], { env: quiet, stdio: ['ignore', 'ignore', 'inherit'] })) throw new Error('nuxt prepare failed')
}

/** Two at a time: one thread each, on machines of two cores. The long one begins. */
async function styleAndTypes() {
  const since = Date.now()
  const { references } = JSON.parse(readFileSync(join(root, 'tsconfig.json'), 'utf8'))
  const waiting = [
    ...has('types') ? references.map(({ path }) => ['types', bin('vue-tsc'), ['--noEmit', '-p', path]]) : [],
    ...has('lint') ? [['lint', bin('eslint'), ['.']], ['lint', process.execPath, ['scripts/format.mjs', '--check']]] : [],
  ].sort(([a], [b]) => Number(b === 'lint') - Number(a === 'lint'))
  const broken = new Set()
  await Promise.all([0, 1].map(async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const [part, command, args] = next
      if (!await run(command, args, { env: quiet })) broken.add(part)
    }
  }))
  for (const part of ['lint', 'types'].filter(has)) count(part, broken.has(part) ? 0 : 1, broken.has(part) ? 1 : 0, since)
}

async function unitTests() {
  const since = Date.now()
  cluster.recreate('lucid_template')
  const report = join(reports, 'vitest.json')
  await run(bin('vitest'), ['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`], {
    env: { ...quiet, LUCID_TEST_DATABASES: JSON.stringify(cluster.roleUrls('lucid_template')) },
  })
  const result = readReport(report)
  // A file that could not be loaded holds no test that could fail: it counts as one.
  const broken = result?.testResults.filter(file => file.status === 'failed' && file.assertionResults.length === 0).length ?? 1
  count('unit, reference and integration tests', result?.numPassedTests ?? 0, (result?.numFailedTests ?? 0) + broken, since)
}

async function waysThrough() {
  const since = Date.now()
  cluster.recreate('lucid_ways')
  const port = await tryListen(0, '127.0.0.1')
  const address = `http://127.0.0.1:${port}`
  const env = {
    ...quiet,
    DATABASE_URL: cluster.url('lucid_ways'),
    LUCID_SECRET: 'a-secret-of-the-tests-and-nothing-else',
    LUCID_STANDINS: 'yes',
    LUCID_KEY_FILE: officeKeyFile(),
    HOST: '127.0.0.1',
    PORT: String(port),
  }
  const [prepared] = await Promise.all([
    run(bin('tsx'), ['scripts/prepare-database.ts'], { env: { ...env, DATABASE_URL: cluster.url('lucid_ways', 'lucid_owner') } }),
    ensureBuild(),
  ])
  if (!prepared) throw new Error('the demo could not be loaded')
  gateway = await startGateway({
    databaseUrl: env.DATABASE_URL,
    secret: env.LUCID_SECRET,
    office: address,
    host: '127.0.0.1',
    port,
    quiet: true,
  })
  const log = serve({ ...env, LUCID_GATEWAY: gateway.address })
  await answering(address)
  times.push(['build and demo', '', seconds(since)])
  const ready = Date.now()
  const report = join(reports, 'playwright.json')
  await run(bin('playwright'), ['test'], { env: { ...env, LUCID_ADDRESS: address, LUCID_REPORT: report } })
  const stats = readReport(report)?.stats
  count(
    'ways through the application',
    stats?.expected ?? 0,
    stats ? stats.unexpected + stats.flaky + (stats.expected === 0 ? 1 : 0) : 1,
    ready,
  )
  // The server's log holds nothing that people wrote about themselves.
  const told = cluster.lines('lucid_ways', personal).filter(value => value !== '' && log().includes(value))
  if (told.length > 0) say(`the server's log holds what people wrote: ${told.slice(0, 5).join('; ')}`)
  count(
    'the log of the server without personal data',
    told.length === 0 && log() !== '' ? 1 : 0,
    told.length === 0 && log() !== '' ? 0 : 1,
    ready,
  )
}

/** Starts the built server; gives what it has written so far. */
function serve(env) {
  server = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
    cwd: root,
    env: { ...process.env, ...env, NODE_ENV: 'production' },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let log = ''
  for (const stream of [server.stdout, server.stderr]) {
    stream.on('data', (part) => {
      log += part
    })
  }
  server.once('exit', (code, signal) => {
    if (!isEnding) say(`the server ended by itself (${signal ?? code}); its last words: ${log.slice(-2000)}`)
  })
  return () => log
}

/** What kills servers and the database comes last, on a copy of the demo. */
async function faults() {
  const since = Date.now()
  isEnding = true
  const isOver = server.exitCode !== null || server.signalCode !== null
  const ended = isOver ? null : new Promise(done => server.once('exit', done))
  server.kill('SIGTERM')
  gateway?.end()
  await ended
  cluster.copy('lucid_ways', 'lucid_faults')
  const report = join(reports, 'faults.json')
  await run(bin('vitest'), ['run', '--config', 'tests/faults/vitest.config.ts', '--reporter=dot', '--reporter=json',
    `--outputFile.json=${report}`], {
    env: {
      ...quiet,
      LUCID_FAULTS: 'lucid_faults',
      LUCID_SECRET: 'a-secret-of-the-tests-and-nothing-else',
      LUCID_KEY_FILE: officeKeyFile(),
    },
  })
  const result = readReport(report)
  count(
    'killed at random moments',
    result?.numPassedTests ?? 0,
    result ? result.numFailedTests + (result.numTotalTests === 0 ? 1 : 0) : 1,
    since,
  )
}

async function answering(address) {
  for (let tries = 0; tries < 120; tries += 1) {
    if (await fetch(`${address}/api/session`).then(answer => answer.ok, () => false)) return
    await new Promise(done => setTimeout(done, 250))
  }
  throw new Error(`the built server does not answer at ${address}`)
}

function readReport(path) {
  return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null
}

function finish(code) {
  isEnding = true
  server?.kill('SIGTERM')
  gateway?.end()
  cluster?.stop()
  rmSync(reports, { recursive: true, force: true })
  const width = Math.max(...times.map(([part]) => part.length))
  for (const [part, ended, took] of times) console.log(`  ${part.padEnd(width)}  ${String(took).padStart(4)} s  ${ended}`)
  if (failures.length > 0) say(`failed: ${failures.join('; ')}`)
  console.log(`${total.passed} passed, ${total.failed} failed`)
  process.exit(code)
}
