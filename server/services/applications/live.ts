import { sql } from 'drizzle-orm'
import type { Database } from '../../database/client'
import { refusal } from '../../../shared/refusal'
import type { Caller } from '../context'

/** How often a process looks for what has changed, in milliseconds; how many may watch in one process, and one person. */
const beat = 1000
const watchersAtMost = 4000
const watchersOfOne = 6

interface Watcher {
  who: string
  /** The moment of the last change that it was told of. */
  at: string
  tell: (at: string) => void
}

/**
 * Who watches applications in this process, told when one of theirs has changed, whichever process changed it. One question a second asks
 * for all of them together, however many watch; nothing is kept but who is listening now.
 */
export class LiveWatch {
  private readonly watchers = new Map<string, Set<Watcher>>()
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly db: Database) {}

  /**
   * Watches one application for somebody who may read it, until the function that is given back is called. The moment of its last change,
   * in milliseconds of UTC, is told at once: whoever has read the application before that reads it again.
   *
   * @throws ProblemError `live.too-many` where too many watch already.
   */
  async watch(caller: Caller, id: string, tell: (at: string) => void): Promise<() => void> {
    const { principal } = await caller.authorise('applications.read', { application: id })
    const all = [...this.watchers.values()].flatMap(set => [...set])
    if (all.length >= watchersAtMost || all.filter(one => one.who === principal.id).length >= watchersOfOne) throw refusal('live.too-many')
    const watcher = { who: principal.id, at: '', tell }
    const set = this.watchers.get(id) ?? new Set()
    this.watchers.set(id, set.add(watcher))
    await this.ask([id])
    this.timer ??= setTimeout(() => {
      void this.look()
    }, beat)
    return () => {
      set.delete(watcher)
      if (set.size === 0 && this.watchers.get(id) === set) this.watchers.delete(id)
    }
  }

  close(): void {
    clearTimeout(this.timer)
    this.watchers.clear()
  }

  private async look(): Promise<void> {
    // A database that is away is asked again with the next beat.
    await this.ask([...this.watchers.keys()]).catch(() => undefined)
    this.timer = this.watchers.size > 0
      ? setTimeout(() => {
        void this.look()
      }, beat)
      : undefined
  }

  private async ask(ids: string[]): Promise<void> {
    if (ids.length === 0) return
    const { rows } = await this.db.execute<
      { id: string, at: string }
    >(sql`select id, trunc(extract(epoch from updated_at) * 1000)::bigint as at from application where id = any(${sql.param(ids)}::uuid[])`)
    for (const { id, at } of rows) {
      for (const watcher of this.watchers.get(id) ?? []) {
        if (watcher.at === String(at)) continue
        watcher.at = String(at)
        watcher.tell(watcher.at)
      }
    }
  }
}
