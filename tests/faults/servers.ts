import { spawn, type ChildProcess } from 'node:child_process'
import { createServer } from 'node:net'

/** A built server process that may be killed at any moment and started again on the same port. */
export class ServerProcess {
  private child: ChildProcess | null = null
  log = ''

  private constructor(readonly address: string, private readonly env: Record<string, string>) {}

  static async on(databaseUrl: string, env: Record<string, string>): Promise<ServerProcess> {
    const port = await freePort()
    return new ServerProcess(`http://127.0.0.1:${port}`, {
      ...env,
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      HOST: '127.0.0.1',
      NODE_ENV: 'production',
      LUCID_STANDINS: 'yes',
    })
  }

  /** `more`: what its environment holds from now on. */
  async start(more: Record<string, string> = {}): Promise<void> {
    Object.assign(this.env, more)
    this.child = spawn(process.execPath, ['.output/server/index.mjs'], {
      env: { ...process.env, ...this.env },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    for (const stream of [this.child.stdout, this.child.stderr]) {
      stream?.on('data', (part: Buffer) => {
        this.log += part.toString()
      })
    }
    for (let tries = 0; tries < 300; tries += 1) {
      if (await fetch(`${this.address}/api/session`).then(answer => answer.ok, () => false)) return
      await new Promise(done => setTimeout(done, 100))
    }
    throw new Error(`the server does not answer at ${this.address}: ${this.log.slice(-2000)}`)
  }

  /** Ends it at once, as a power cut would. */
  async kill(): Promise<void> {
    const child = this.child
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    const ended = new Promise(done => child.once('exit', done))
    child.kill('SIGKILL')
    await ended
  }
}

function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address()
      const port = typeof address === 'object' && address ? address.port : 0
      server.close(() => done(port))
    })
  })
}

/**
 * Somebody who is signed in at one of the servers and asks whichever answers. A request whose answer was lost is sent again under its
 * number, as the pages do.
 */
export class Client {
  private cookie = ''
  private csrf = ''
  constructor(private readonly servers: readonly ServerProcess[]) {}

  async signIn(signInName: string, password: string): Promise<void> {
    const answer = await fetch(`${this.servers[0]?.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signInName, password }),
    })
    this.cookie = answer.headers.getSetCookie().map(one => one.split(';')[0]).join('; ')
    this.csrf = ((await answer.json()) as { csrfToken: string }).csrfToken
  }

  /** One request that is not sent again, whatever becomes of it: its status and what is said; 599 when nothing came back. */
  async once(method: string, path: string, body?: unknown): Promise<{ status: number, message?: string }> {
    try {
      const answer = await fetch(`${this.servers[0]?.address}/api/${path}`, {
        method,
        signal: AbortSignal.timeout(20_000),
        headers: { 'cookie': this.cookie, 'x-lucid-csrf': this.csrf, ...body === undefined ? {} : { 'content-type': 'application/json' } },
        body: body === undefined ? undefined : JSON.stringify(body),
      })
      return { status: answer.status, message: (await answer.json() as { message?: string }).message }
    } catch (error) {
      return { status: 599, message: String(error) }
    }
  }

  /** The answer, once there is one; null when nobody answered for half a minute. */
  async ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number, body: T } | null> {
    const number = crypto.randomUUID()
    for (let tries = 0; tries < 60; tries += 1) {
      const server = this.servers[(tries + number.charCodeAt(0)) % this.servers.length]
      try {
        const answer = await fetch(`${server?.address}/api/${path}`, {
          method,
          signal: AbortSignal.timeout(20_000),
          headers: {
            'cookie': this.cookie,
            'x-lucid-csrf': this.csrf,
            'x-lucid-request': number,
            ...body === undefined ? {} : { 'content-type': 'application/json' },
          },
          body: body === undefined ? undefined : JSON.stringify(body),
        })
        if (answer.status < 500) return { status: answer.status, body: await answer.json() as T }
      } catch {
        // Killed in the middle, or not up yet.
      }
      await new Promise(done => setTimeout(done, 500))
    }
    return null
  }
}
