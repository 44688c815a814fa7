import { spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import {
  bin,
  checkNode,
  ensureBuild,
  ensureDebianPackages,
  ensureModules,
  fail,
  keptSecret,
  officeKeyFile,
  root,
  run,
  say,
  startGateway,
  tryListen,
} from './lib/system.mjs'
import { postgresInstalled, startCluster, useCluster } from './lib/postgres.mjs'

/**
 * Everything from a fresh clone to a served application: see README. Flags: --empty serves an office that begins with nothing, in a
 * database of its own; --fresh begins anew; --dev serves for development.
 */
const flags = new Set(process.argv.slice(2))
const unknown = [...flags].find(flag => !['--fresh', '--dev', '--empty'].includes(flag))
if (unknown) fail(`"${unknown}" is not a flag; there are --empty, --fresh and --dev.`)
/** The office that begins with nothing and the demo never share a database. */
const databaseName = flags.has('--empty') ? 'lucid_office' : 'lucid'
const host = process.env.HOST || '127.0.0.1'
const port = Number(process.env.PORT || 3000)

checkNode()
if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`PORT is "${process.env.PORT}"; give a whole number from 1 to 65535.`)
const free = await tryListen(port, host)
if (free === 'EADDRINUSE') fail(`port ${port} on ${host} is busy. Stop what uses it, or choose another: PORT=${port + 1} npm start`)
if (typeof free === 'string') fail(`cannot listen on ${host}:${port} (${free}). Choose another HOST or PORT.`)

let release = () => {}
let server = null
let gateway = null
let leaving = false
function leave(code) {
  if (leaving) return
  leaving = true
  gateway?.end()
  const end = () => {
    release()
    process.exit(code)
  }
  if (server && server.exitCode === null && server.signalCode === null) {
    server.once('exit', end)
    server.kill('SIGTERM')
    setTimeout(() => server.kill('SIGKILL'), 15_000).unref()
  } else end()
}
process.on('SIGINT', () => leave(0))
process.on('SIGTERM', () => leave(0))

const { url, ownerUrl } = await database()
await ensureModules()
const env = {
  DATABASE_URL: url,
  LUCID_KEY_FILE: officeKeyFile(),
  LUCID_SECRET: process.env.LUCID_SECRET || keptSecret('secret', () => randomBytes(32).toString('base64url')),
  HOST: host,
  PORT: String(port),
  NUXT_TELEMETRY_DISABLED: '1',
  LUCID_STANDINS: process.env.LUCID_STANDINS || (flags.has('--empty') ? 'no' : 'yes'),
}
// The demo and the build know nothing of each other: a first start makes both at once.
const [prepared] = await Promise.all([
  run(bin('tsx'), ['scripts/prepare-database.ts', ...(flags.has('--empty') ? ['--empty'] : [])], {
    env: { ...env, DATABASE_URL: ownerUrl },
  }),
  flags.has('--dev') || ensureBuild(),
])
if (!prepared) await failAndLeave('the database could not be prepared; the lines above say why.')
if (!leaving && env.LUCID_STANDINS === 'yes') {
  gateway = await startGateway({
    databaseUrl: url,
    secret: env.LUCID_SECRET,
    office: `http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}`,
    host,
    port,
  })
  env.LUCID_GATEWAY = process.env.LUCID_GATEWAY || gateway.address
}
if (!leaving) serve()

async function database() {
  if (process.env.DATABASE_URL) {
    if (flags.has('--fresh')) fail('--fresh never empties a database given from outside. Empty it yourself, or leave DATABASE_URL unset.')
    return { url: process.env.DATABASE_URL, ownerUrl: process.env.LUCID_OWNER_DATABASE_URL || process.env.DATABASE_URL }
  }
  ensureDebianPackages({ postgresql: postgresInstalled })
  const cluster = await startCluster()
  release = useCluster(cluster)
  if (flags.has('--fresh')) cluster.recreate(databaseName)
  else cluster.create(databaseName)
  return { url: cluster.url(databaseName), ownerUrl: cluster.url(databaseName, 'lucid_owner') }
}

async function failAndLeave(line) {
  console.error(`lucid: ${line}`)
  leave(1)
  await new Promise(() => {})
}

function serve() {
  const [command, args] = flags.has('--dev')
    ? [bin('nuxt'), ['dev', '--host', host, '--port', String(port)]]
    : [process.execPath, [join(root, '.output/server/index.mjs')]]
  server = spawn(command, args, {
    cwd: root,
    env: {
      ...withoutOwner(process.env),
      ...env,
      NODE_ENV: flags.has('--dev') ? 'development' : 'production',
      NITRO_SHUTDOWN_TIMEOUT: '5000',
    },
    stdio: 'inherit',
    detached: true,
  })
  server.once('exit', (code) => {
    if (!leaving) {
      console.error(`lucid: the server ended by itself (${code ?? 'killed'}). Start again with npm start; nothing that was saved is lost.`)
    }
    leave(leaving ? 0 : 1)
  })
  tellWhenReady()
}

// The server never knows how to reach its database as the owner.
function withoutOwner({ ...env }) {
  delete env.LUCID_OWNER_DATABASE_URL
  return env
}

async function tellWhenReady() {
  const address = `http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}`
  for (let tries = 0; tries < 240 && !leaving; tries += 1) {
    const answer = await fetch(`${address}/api/session`).catch(() => null)
    if (answer?.ok) {
      say(`serving on ${address}`)
      if (flags.has('--empty')) await tellFirstLink(address)
      else say('sign in as officer, second, scrutineer, accounts, auditor or administrator; the password of the demo is lantern-harbour-27')
      return
    }
    await new Promise(done => setTimeout(done, 250))
  }
}

// The first account of an empty office is made by a link that only who can read this terminal gets. Once it was used, none is printed.
async function tellFirstLink(address) {
  await run(bin('tsx'), ['scripts/let-in.ts', 'administrator', '--first'], { env: { ...env, LUCID_ADDRESS: address } })
}
