import { spawn, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { isPdf } from '../../core/documents/container'
import { readContainer } from '../../core/imaging/container'
import type { Slot } from '../../core/application/slots'
import { LookEnded, LookWaits, type Inspection, type Inspector } from '../../pictures/inspect'
import { ProblemError, type Problem } from '../../shared/problem'

export interface PictureQuestion {
  id: number
  bytes: Uint8Array
  slot: Slot
}
export type PictureAnswer = { id: number, inspection: Inspection } | {
  id: number,
  inspection?: undefined,
  problem: Problem | null,
  message: string,
}

/** Bounds of the processes that look at files which strangers sent. */
export interface PictureLimits {
  processes: number
  /** How many of them look at costly files, PDFs and large pictures, too: the others stay free for everybody else. */
  costly: number
  /**
   * What a process of either kind may hold: set by the operating system, for native and WebAssembly memory alike; the watch ends it above.
   */
  megabytes: { costly: number, other: number }
  /** Longest look, in seconds of the processor and of the clock. */
  processorSeconds: number
  seconds: number
  /** How long a file may wait for its look to begin before whoever asked is told that it waits. */
  patienceSeconds: number
}

export const pictureLimits: PictureLimits = {
  processes: 3,
  costly: 1,
  megabytes: { costly: 640, other: 400 },
  processorSeconds: 15,
  seconds: 40,
  patienceSeconds: 8,
}
/** Pictures of more pixels are costly. */
const largePixels = 16e6
const watchMilliseconds = 25

/**
 * An inspector in processes of their own, so that the server goes on serving whatever a file costs, and lives whatever a file does. The
 * operating system bounds their memory (RLIMIT_DATA, setrlimit(2)); a watch ends one that holds or computes too much. Each looks at one
 * file at a time: one that dies was ended by its file.
 */
export class PictureProcesses {
  private readonly waiting: Waiting[] = []
  private readonly looking = new Map<number, Looker>()
  private closed = false

  /** @param code the bundled text of `picture.worker.ts`. */
  constructor(private readonly code: string, private readonly limits: PictureLimits = pictureLimits) {}

  readonly inspect: Inspector = (bytes, slot) =>
    new Promise((resolve, reject) => {
      const one: Waiting = { bytes, slot, costly: isCostly(bytes), resolve, reject }
      one.timer = setTimeout(() => {
        const place = this.waiting.indexOf(one)
        if (place < 0) return
        this.waiting.splice(place, 1)
        reject(new LookWaits())
      }, this.limits.patienceSeconds * 1000)
      this.waiting.push(one)
      this.next()
    })

  /** Numbers of the processes that live now. */
  get pids(): number[] {
    return [...this.looking.values()].flatMap(one => one.pid === undefined ? [] : [one.pid])
  }

  async close(): Promise<void> {
    this.closed = true
    for (const { reject, timer } of this.waiting.splice(0)) {
      clearTimeout(timer)
      reject(new LookWaits())
    }
    await Promise.all([...this.looking.values()].map(looker => looker.end()))
  }

  private next(): void {
    if (this.closed) return
    // From the last: what everybody sends goes to those that look at nothing costly.
    for (let place = this.limits.processes - 1; place >= 0; place -= 1) {
      const looker = this.looking.get(place)
      if (looker?.isBusy) continue
      const takesCostly = place < this.limits.costly
      const at = this.waiting.findIndex(one => takesCostly || !one.costly)
      const [one] = at < 0 ? [] : this.waiting.splice(at, 1)
      if (!one) continue
      clearTimeout(one.timer)
      const free = looker?.alive ? looker : new Looker(this.code, this.limits, this.limits.megabytes[takesCostly ? 'costly' : 'other'])
      this.looking.set(place, free)
      free.look(one).then(one.resolve, one.reject).finally(() => this.next())
    }
  }
}

interface Waiting {
  bytes: Uint8Array
  slot: Slot
  costly: boolean
  resolve: (inspection: Inspection) => void
  reject: (error: Error) => void
  timer?: NodeJS.Timeout
}

function isCostly(bytes: Uint8Array): boolean {
  if (isPdf(bytes)) return true
  const { facts } = readContainer(bytes)
  return (facts?.width ?? 0) * (facts?.height ?? 0) > largePixels
}

/** One process. */
class Looker {
  alive = true
  private last = 0
  private asked: { id: number, settle: (answer: PictureAnswer) => void, fail: (error: Error) => void } | null = null
  private readonly child: ChildProcess
  private watch: NodeJS.Timeout | null = null

  constructor(code: string, private readonly limits: PictureLimits, private readonly megabytes: number) {
    this.child = bounded(megabytes, ['--max-old-space-size=160', '-'], ['pipe', 'ignore', 'ignore', 'ipc'])
    this.child.on('message', (answer: PictureAnswer) => this.asked?.id === answer.id && this.asked.settle(answer))
    this.child.on('error', error => this.fail(new LookEnded(error.message)))
    this.child.on('exit', (status, signal) => this.fail(new LookEnded(`ended with ${signal ?? status}`)))
    this.child.stdin?.on('error', () => undefined)
    this.child.stdin?.end(code)
    this.rest()
  }

  get isBusy(): boolean {
    return this.asked !== null
  }

  get pid(): number | undefined {
    return this.alive ? this.child.pid : undefined
  }

  look({ bytes, slot }: Waiting): Promise<Inspection> {
    this.child.ref()
    this.child.channel?.ref()
    const begun = { at: Date.now(), processor: this.processorSeconds() }
    this.watch = setInterval(() => this.check(begun), watchMilliseconds)
    return new Promise<Inspection>((resolve, reject) => {
      const id = this.last += 1
      this.asked = {
        id,
        fail: reject,
        settle: (answer) => {
          if (answer.inspection) return resolve(answer.inspection)
          if (answer.problem) return reject(new ProblemError(answer.problem))
          // What failed without words may have left the process unsound.
          this.stop(answer.message)
        },
      }
      this.child.send({ id, bytes, slot } satisfies PictureQuestion, error => error && this.fail(new LookEnded(error.message)))
    }).finally(() => this.rest())
  }

  async end(): Promise<void> {
    this.alive = false
    if (this.child.exitCode !== null || this.child.signalCode !== null) return
    const ended = new Promise(done => this.child.once('exit', done))
    this.child.kill('SIGKILL')
    await ended
  }

  private rest(): void {
    if (this.watch) clearInterval(this.watch)
    this.watch = null
    this.asked = null
    // An idle process keeps nobody from leaving.
    this.child.unref()
    this.child.channel?.unref()
  }

  private check(begun: { at: number, processor: number }): void {
    const { seconds, processorSeconds } = this.limits
    if (Date.now() - begun.at > seconds * 1000) this.stop(`looked longer than ${seconds} s`)
    else if (this.processorSeconds() - begun.processor > processorSeconds) this.stop(`computed longer than ${processorSeconds} s`)
    else if (this.residentMegabytes() > this.megabytes) this.stop(`held more than ${this.megabytes} MB`)
  }

  private stop(why: string): void {
    this.fail(new LookEnded(why))
    void this.end()
  }

  private fail(error: Error): void {
    this.alive = false
    this.asked?.fail(error)
  }

  // proc(5): the second number of statm counts pages in memory; the 14th and 15th of stat count hundredths of a second. None is there where
  // there is no /proc.
  private residentMegabytes(): number {
    return Number(this.read('statm').split(' ')[1] ?? 0) * 4096 / 1e6
  }

  private processorSeconds(): number {
    const [user = 0, system = 0] = (this.read('stat').split(') ')[1] ?? '').split(' ').slice(11, 13).map(Number)
    return (user + system) / 100
  }

  private read(file: 'stat' | 'statm'): string {
    try {
      return readFileSync(`/proc/${this.child.pid}/${file}`, 'utf8')
    } catch {
      return ''
    }
  }
}

/**
 * Node under a bound of the operating system: no more data than so many megabytes, no core file, less urgent than the server, and the first
 * to go when memory is short. It is told nothing of how to reach the database.
 */
export function bounded(dataMegabytes: number, args: readonly string[], stdio: ('pipe' | 'ignore' | 'inherit' | 'ipc')[]): ChildProcess {
  const script = `ulimit -c 0; ulimit -d ${dataMegabytes * 1024}; echo 1000 2>/dev/null >/proc/self/oom_score_adj; exec nice -n 5 "$@"`
  const { PATH, LANG, NODE_ENV } = process.env
  return spawn('/bin/sh', ['-c', script, 'sh', process.execPath, ...args], {
    stdio,
    serialization: 'advanced',
    env: { PATH, LANG, NODE_ENV },
  })
}

/** Whether the bound holds on this machine: a process under 256 MB that asks for 512 MB must fail. Some sandboxes do not enforce it. */
export async function boundHolds(): Promise<boolean> {
  const child = bounded(256, ['-e', 'try { Buffer.alloc(512 * 1024 * 1024, 1); process.exit(1) } catch { process.exit(0) }'], ['ignore',
    'ignore', 'ignore'])
  return new Promise((done) => {
    child.once('error', () => done(false))
    // A process that was ended by its bound kept it, too.
    child.once('exit', status => done(status !== 1))
  })
}
