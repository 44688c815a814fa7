import { spawn, spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'

/** The project's root, whatever folder a command is given in. */
export const root = resolve(import.meta.dirname, '../..')
export const data = join(root, '.data')

/** Ends the process with one line that says what to do. */
export function fail(line) {
  console.error(`lucid: ${line}`)
  process.exit(1)
}

export const say = line => console.log(`lucid: ${line}`)

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major !== 20 || minor < 19) {
    fail(`Node ${process.versions.node} is running; this needs Node 20.19 or newer of version 20. Install it and start again.`)
  }
}

/** Installs what is missing of Debian's packages. `wanted` maps a package to a function that tells whether it is there. */
export function ensureDebianPackages(wanted) {
  const missing = Object.entries(wanted).filter(([, present]) => !present()).map(([name]) => name)
  if (missing.length === 0) return
  if (process.getuid?.() !== 0) {
    fail(`missing: ${missing.join(', ')}. You are not root; ask for "apt-get install ${missing.join(' ')}" and start again.`)
  }
  say(`installing Debian's ${missing.join(', ')}`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  spawnSync('apt-get', ['update', '-q'], { env, stdio: 'ignore' })
  const done = spawnSync('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...missing], { env, encoding: 'utf8' })
  if (done.status !== 0) {
    fail(`apt-get could not install ${missing.join(', ')}: ${lastLine(done.stderr || done.error?.message)}. Mend that and start again.`)
  }
}

export const hasCommand = name => () => spawnSync('sh', ['-c', `command -v ${name}`], { stdio: 'ignore' }).status === 0

const lastLine = text => (text ?? '').trim().split('\n').at(-1) ?? ''

/** Runs a program to its end with its output shown; false when it failed. It does not outlive this process. */
export function run(command, args, options = {}) {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options, env: { ...process.env, ...options.env } })
    const end = () => child.kill()
    process.on('exit', end)
    child.on('error', () => done(false))
    child.on('exit', (code) => {
      process.off('exit', end)
      done(code === 0)
    })
  })
}

const bin = name => join(root, 'node_modules/.bin', name)
export const runBin = (name, args, options) => run(bin(name), args, options)
export { bin }

/**
 * Starts the simulated payment gateway beside the office, on the port after the office's where that is free. It is started again when it
 * ends by itself.
 *
 * @returns its address, and what ends it.
 */
export async function startGateway({ databaseUrl, secret, office, host, port, quiet = false }) {
  const own = await tryListen(port + 1, host) === port + 1 ? port + 1 : await tryListen(0, host)
  let child = null
  let isLeaving = false
  const begin = () => {
    child = spawn(process.execPath, ['--import', 'tsx', 'scripts/gateway.ts'], {
      cwd: root,
      stdio: quiet ? 'ignore' : 'inherit',
      detached: true,
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl,
        LUCID_SECRET: secret,
        LUCID_ADDRESS: office,
        GATEWAY_HOST: host,
        GATEWAY_PORT: String(own),
      },
    })
    child.once('exit', () => {
      if (!isLeaving) setTimeout(() => isLeaving || begin(), 1000)
    })
  }
  begin()
  const end = () => {
    isLeaving = true
    child?.kill('SIGTERM')
  }
  process.on('exit', end)
  return { address: `http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${own}`, end }
}

/** Installs the packages of the lock file, unless they stand as the lock says. */
export async function ensureModules() {
  const stamp = join(root, 'node_modules/.lucid-lock')
  const lock = hashOf([join(root, 'package-lock.json')])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  say('installing packages (a minute or two)')
  if (!await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])) {
    fail('npm ci failed; the lines above say why. A full disk and a missing network are the usual reasons.')
  }
  writeFileSync(stamp, lock)
}

/** Builds the application, unless the build was made from these very sources. */
export async function ensureBuild() {
  const stamp = join(root, '.output/.lucid-sources')
  const sources =
    hashOf(['app', 'core', 'documents', 'pictures', 'server', 'shared', 'public', 'nuxt.config.ts', 'scripts/lib/worker-as-text.mjs',
      'package-lock.json'].map(name => join(root, name)))
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return
  say('building (two to three minutes)')
  if (
    !await runBin('nuxt', ['build'], {
      env: { NUXT_TELEMETRY_DISABLED: '1' },
      stdio: process.env.LUCID_VERBOSE ? 'inherit' : ['ignore', 'ignore', 'inherit'],
    })
  ) fail('the build failed; the lines above say why.')
  writeFileSync(stamp, sources)
}

function hashOf(places) {
  const hash = createHash('sha256')
  const walk = (place) => {
    if (!existsSync(place)) return
    if (statSync(place).isDirectory()) { for (const name of readdirSync(place).sort()) walk(join(place, name)) }
    else hash.update(place.slice(root.length)).update('\0').update(readFileSync(place))
  }
  places.forEach(walk)
  return hash.digest('hex')
}

/** Whether an address can be listened on; tells why not. */
export function tryListen(port, host) {
  return new Promise((done) => {
    const server = createServer()
    server.once('error', error => done(error.code ?? 'error'))
    server.listen(port, host, () => {
      const { port: got } = server.address()
      server.close(() => done(got))
    })
  })
}

/** A secret that is made once and kept in `.data`. */
export function keptSecret(name, make) {
  mkdirSync(data, { recursive: true })
  const path = join(data, name)
  if (!existsSync(path)) writeFileSync(path, make(), { mode: 0o600 })
  return readFileSync(path, 'utf8')
}

/** The file with the key that seals the office's secrets: the operator's, or one that is made once. */
export function officeKeyFile() {
  if (process.env.LUCID_KEY_FILE) return process.env.LUCID_KEY_FILE
  keptSecret('office-key', () => randomBytes(32).toString('base64url'))
  return join(data, 'office-key')
}
