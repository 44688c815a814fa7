import { execFileSync, spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { closeSync, mkdirSync, openSync, rmSync, symlinkSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { z } from 'zod'
import { product } from '../../core/access/principal'
import { demoPassword, prepareEmptyDatabase } from '../../demo/load'
import { demoNotice } from '../../demo/notice'
import { startCluster } from '../../scripts/lib/postgres.mjs'
import { openDatabase } from '../../server/database/client'
import { Caller } from '../../server/services/context'
import { putNotice } from '../../server/services/notice/notices'
import { putStaff } from '../../server/services/people/staff'
import { Client, ServerProcess } from './servers'

/**
 * The disk of the database becomes full while people register and type. What is answered then is a refusal in words; once there is room
 * again the server goes on by itself, and whatever was acknowledged is there once.
 */
const given = z.object({ LUCID_SECRET: z.string(), LUCID_KEY_FILE: z.string() }).parse(process.env)
const pause = (milliseconds: number) => new Promise(done => setTimeout(done, milliseconds))
const disk = '/tmp/lucid-small-disk'
const filler = join(disk, 'filler')
const data = join(import.meta.dirname, '../../.data')
const link = join(data, 'postgres-full')

/** A disk of 256 MB in memory for the database alone; false where this machine lets nobody mount one. */
function mountDisk(): boolean {
  mkdirSync(disk, { recursive: true })
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=256m,mode=0755', 'tmpfs', disk]).status !== 0) return false
  const cluster = join(disk, 'cluster')
  mkdirSync(cluster, { mode: 0o700 })
  if (process.getuid?.() === 0) execFileSync('chown', ['postgres:postgres', cluster])
  mkdirSync(data, { recursive: true })
  rmSync(link, { force: true })
  symlinkSync(cluster, link)
  return true
}

/** Writes until nothing more fits. */
function fillDisk(): void {
  const file = openSync(filler, 'w')
  try {
    for (let size = 1 << 20; size >= 512;) {
      try {
        writeSync(file, Buffer.alloc(size))
      } catch {
        size /= 2
      }
    }
  } finally {
    closeSync(file)
  }
}

const isMounted = mountDisk()
if (!isMounted) console.log('no disk of its own can be mounted here: the full disk is not tried')

describe.skipIf(!isMounted)('a full disk', () => {
  let cluster: Awaited<ReturnType<typeof startCluster>>
  let server: ServerProcess
  let db: pg.Pool
  beforeAll(async () => {
    cluster = await startCluster('postgres-full', { throwaway: true })
    cluster.recreate('lucid_full')
    await prepareEmptyDatabase(cluster.url('lucid_full', 'lucid_owner'), () => undefined)
    const handle = openDatabase(cluster.url('lucid_full'), 2)
    const caller = new Caller(handle.db, product, { requestId: 'full disk' })
    await putNotice(caller, demoNotice(new Date()))
    await putStaff(await caller.authorise('clock.act'), {
      signInName: 'officer',
      name: 'Senna Halwen',
      roles: ['officer'],
      password: demoPassword,
    })
    await handle.close()
    server = await ServerProcess.on(cluster.url('lucid_full'), { LUCID_SECRET: given.LUCID_SECRET, LUCID_KEY_FILE: given.LUCID_KEY_FILE })
    await server.start()
    db = new pg.Pool({ connectionString: cluster.url('lucid_full', 'lucid'), max: 1 })
    db.on('error', () => undefined)
  })
  afterAll(async () => {
    await server.kill()
    await Promise.race([db.end(), pause(3000)])
    cluster.stop()
    spawnSync('umount', ['-l', disk])
    rmSync(link, { force: true })
  })

  it('refuses in words, loses nothing, and work goes on once there is room', async () => {
    const client = new Client([server])
    await client.signIn('officer', demoPassword)
    const kept = new Map<string, string>()
    const refused: { status: number, message?: string }[] = []
    let isFull = true
    const people = async () => {
      while (isFull) {
        const id = randomUUID()
        const begun = await client.once('PUT', `cycles/HL27/applications/${id}`)
        if (begun.status !== 200) {
          refused.push(begun)
          await pause(100)
          continue
        }
        kept.set(id, '')
        const address = `Quay ${id} ${'x'.repeat(100)}`
        const saved = await client.once('PATCH', `applications/${id}/answers`, { revision: 0, changes: { address } })
        if (saved.status === 200) kept.set(id, address)
        else refused.push(saved)
      }
    }
    const load = Promise.all([people(), people(), people()])
    await pause(2000)
    const before = kept.size
    fillDisk()
    for (let tries = 0; tries < 100 && refused.length < 20; tries += 1) await pause(200)
    rmSync(filler)
    // Whoever looks after the machine has made room and starts the database again, if it is down; the server is left alone.
    await pause(1000)
    await cluster.crash()
    await pause(3000)
    isFull = false
    await load
    expect([before > 0, refused.length >= 20]).toEqual([true, true])
    for (const one of refused) {
      expect(one).toMatchObject({
        status: expect.toSatisfy((status: number) => status >= 500),
        message: expect.stringMatching(/\w{4}/) as unknown,
      })
    }
    const { rows } = await db.query<
      { id: string, address: string | null, saved: number }
    >("select a.id, a.answers ->> 'address' as address, (select count(*)::int from answer_change c where c.application_id = a.id and c.question = 'address') as saved from application a")
    const there = new Map(rows.map(row => [row.id, row]))
    for (const [id, address] of kept) {
      expect([id, address === '' ? '' : there.get(id)?.address, there.has(id) && (address === '' || there.get(id)?.saved === 1)]).toEqual([
        id,
        address,
        true,
      ])
    }
    const later = randomUUID()
    expect((await client.ask('PUT', `cycles/HL27/applications/${later}`))?.status).toBe(200)
    console.log(`full disk: ${kept.size} acknowledged, ${refused.length} refused`)
  })
})
