import { sql } from 'drizzle-orm'
import type { Database } from '../../database/client'
import { refusal } from '../../../shared/problem'
import type { Caller } from '../context'

/** How often a process looks for what has changed, in milliseconds; how many may watch in one process, and one person. */
const beat = 1000
const watchersAtMost = 4000
const watchersOfOne = 6

interface Watcher { who: string, tell: () => void }

/**
 * Who watches applications in this process, told when one of theirs has changed, whichever process changed it. One question a second asks for all of them together, however many watch; nothing is kept but who is
 * listening now.
 */
export class LiveWatch {
  private readonly watchers = new Map<string, Set<Watcher>>()
  private readonly seen = new Map<string, string>()
  private timer: ReturnType<typeof setTimeout> | undefined
  private count = 0

  constructor(private readonly db: Database) {}

  /**
   * Watches one application for somebody who may read it, until the function that is given back is called.
   *
   * @throws ProblemError `live.too-many` where too many watch already.
   */
  async watch(caller: Caller, id: string, tell: () => void): Promise<() => void> {
    const { principal } = await caller.authorise('applications.read', { application: id })
    const own = [...this.watchers.values()].reduce((sum, set) => sum + [...set].filter(one => one.who === principal.id).length, 0)
    if (this.count >= watchersAtMost || own >= watchersOfOne) throw refusal('live.too-many')
    const watcher = { who: principal.id, tell }
    const set = this.watchers.get(id) ?? new Set()
    this.watchers.set(id, set.add(watcher))
    this.count += 1
    this.timer ??= setTimeout(() => { void this.look() }, beat)
    return () => {
      if (!set.delete(watcher)) return
      this.count -= 1
      if (set.size > 0) return
      this.watchers.delete(id)
      this.seen.delete(id)
    }
  }

  close(): void {
    clearTimeout(this.timer)
    this.watchers.clear()
  }

  private async look(): Promise<void> {
    const ids = [...this.watchers.keys()]
    try {
      const { rows } = ids.length === 0 ? { rows: [] } : await this.db.execute<{ id: string, at: string }>(sql`select id, updated_at as at from application where id = any(${sql.param(ids)}::uuid[])`)
      for (const { id, at } of rows) {
        const before = this.seen.get(id)
        this.seen.set(id, String(at))
        if (before !== undefined && before !== String(at)) this.watchers.get(id)?.forEach(watcher => watcher.tell())
      }
    } catch {
      // A database that is away is asked again with the next beat.
    }
    this.timer = this.watchers.size > 0 ? setTimeout(() => { void this.look() }, beat) : undefined
  }
}
