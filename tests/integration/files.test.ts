import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { CreateBucketCommand, ListObjectsV2Command, PutObjectCommand, S3Client } from '@aws-sdk/client-s3'
import { eq, sql } from 'drizzle-orm'
import { buildApp } from 'fauxqs'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { verifyCode } from '../../core/admit-card/code'
import { openDatabase } from '../../server/database/client'
import { admitCard, file } from '../../server/database/schema'
import { objectStoreAddress, openObjectStore, useObjectStore, type ObjectStoreAddress } from '../../server/files/objects'
import { publicKeys } from '../../server/services/cards/keys'
import { bringFile, filesByHome, keepFile, moveFiles, readFile, removeUnnamed } from '../../server/services/files/bytes'
import { openOffice, type Office } from '../support/office'

/** Bytes have two homes: the database, and an S3-compatible store, here one from the package registry on loopback. */
let office: Office
let client: S3Client
let address: ObjectStoreAddress
const app = buildApp({ logger: false })
beforeAll(async () => {
  office = await openOffice()
  const endpoint = await app.listen({ host: '127.0.0.1', port: 0 })
  address = { endpoint, bucket: 'papers', region: 'us-east-1', key: 'key', secret: 'secret' }
  client = new S3Client({
    endpoint,
    region: 'us-east-1',
    forcePathStyle: true,
    credentials: { accessKeyId: 'key', secretAccessKey: 'secret' },
  })
  for (const bucket of ['papers', 'restored']) await client.send(new CreateBucketCommand({ Bucket: bucket }))
})
afterEach(() => useObjectStore(null))
afterAll(async () => {
  client.destroy()
  await app.close()
  await office.close()
})

const hash = (content: Uint8Array) => createHash('sha256').update(content).digest('hex')
const keep = async (content: Uint8Array) => keepFile(office.db, await bringFile(office.db, content))
const bytesOf = (seed: number, size = 2000) => Buffer.from(Array.from({ length: size }, (_, i) => (i * 7 + seed) % 256))
const listed = async (bucket = 'papers') =>
  ((await client.send(new ListObjectsV2Command({ Bucket: bucket }))).Contents ?? []).map(one => one.Key ?? '').sort()
const inStore = () => {
  useObjectStore(openObjectStore(address))
}

describe.each([['the database', () => useObjectStore(null)], ['a store of objects', inStore]] as const)('bytes in %s', (_, open) => {
  it('are kept once by their hash, and come back as they were', async () => {
    open()
    const contents = [bytesOf(1), bytesOf(2, 400_000), Buffer.from([0, 255, 0])]
    for (const content of contents) {
      const kept = await office.db.transaction(async tx => keepFile(tx, await bringFile(office.db, content)))
      expect(kept).toBe(hash(content))
      expect(await keep(content)).toBe(kept)
      expect((await readFile(office.db, kept)).equals(content)).toBe(true)
    }
    await expect(readFile(office.db, 'f'.repeat(64))).rejects.toThrow('is not in the store')
  })
})

describe('the store of objects', () => {
  it('leaves no name without bytes when a transaction breaks off, and refuses bytes that were changed', async () => {
    inStore()
    const content = bytesOf(77)
    await expect(office.db.transaction(async (tx) => {
      await keepFile(tx, await bringFile(office.db, content))
      throw new Error('broken off')
    })).rejects.toThrow('broken off')
    expect(await office.db.select().from(file).where(eq(file.sha256, hash(content)))).toEqual([])
    const kept = await keep(content)
    await client.send(new PutObjectCommand({ Bucket: 'papers', Key: `${kept.slice(0, 2)}/${kept}`, Body: 'other' }))
    await expect(readFile(office.db, kept)).rejects.toThrow('not those that were kept')
    await client.send(new PutObjectCommand({ Bucket: 'papers', Key: `${kept.slice(0, 2)}/${kept}`, Body: content }))
    useObjectStore(null)
    await expect(readFile(office.db, kept)).rejects.toThrow('LUCID_OBJECTS_ENDPOINT')
  })

  it('takes everything over from the database and gives it back while files are read and kept', async () => {
    inStore()
    for (let seed = 100; seed < 250; seed += 1) {
      const content = bytesOf(seed, 300 + seed)
      await office.db.insert(file).values({ sha256: hash(content), bytes: content.length, home: 'database', content }).onConflictDoNothing()
    }
    const all = (await office.db.select({ sha256: file.sha256 }).from(file)).map(row => row.sha256)
    const reading = async () => {
      for (const sha256 of all) expect(hash(await readFile(office.db, sha256))).toBe(sha256)
    }
    const there = (await filesByHome(office.db)).database
    const [moved] = await Promise.all([moveFiles(office.in('files'), 'objects'), reading(), keep(bytesOf(999))])
    expect(moved).toBe(there)
    expect(await filesByHome(office.db)).toEqual({ database: 0, objects: all.length + 1 })
    expect(await listed()).toHaveLength(all.length + 1)
    await Promise.all([moveFiles(office.in('files'), 'database'), reading()])
    expect(await filesByHome(office.db)).toEqual({ database: all.length + 1, objects: 0 })
    expect(await moveFiles(office.in('files'), 'database')).toBe(0)
  })

  it('loses bytes that nothing names any more, and takes the very same again', async () => {
    inStore()
    const content = bytesOf(555)
    const sha256 = await keep(content)
    const [brought, there] = [await bringFile(office.db, content), (await listed()).length]
    expect(await removeUnnamed(office.in('files'))).toBeGreaterThan(0)
    expect((await listed()).length).toBeLessThan(there)
    await expect(readFile(office.db, sha256)).rejects.toThrow('not in the store')
    // Brought before they went, and named after: whoever sends them is asked to send them again.
    await expect(keepFile(office.db, brought)).rejects.toThrow('Add it again')
    await office.in('files').execute(sql`delete from file where sha256 = ${sha256}`)
    expect(hash(await readFile(office.db, await keep(content)))).toBe(sha256)
  })

  it('says so when it cannot be reached, and keeps no name', async () => {
    useObjectStore(openObjectStore({ ...address, bucket: 'nowhere' }))
    await expect(keep(bytesOf(123))).rejects.toThrow('cannot be reached')
    expect(await office.db.select().from(file).where(eq(file.sha256, hash(bytesOf(123))))).toEqual([])
  })

  it('is set as a whole or not at all', () => {
    expect(objectStoreAddress({})).toBeNull()
    expect(() => objectStoreAddress({ LUCID_OBJECTS_ENDPOINT: 'http://127.0.0.1:9', LUCID_OBJECTS_KEY: 'k' }))
      .toThrow('LUCID_OBJECTS_BUCKET, LUCID_OBJECTS_SECRET')
  })
})

describe('a backup as operations.md describes it', () => {
  it('restores database, bytes and keys: every file is read, and a card that was signed before is genuine', async () => {
    inStore()
    const id = await office.at('accepted')
    await office.publish((await office.run()).runId)
    expect(await office.issue(id)).toBe('issued')
    await moveFiles(office.in('files'), 'objects')
    // The bucket first, then the database: a file that the dump names is in the copy of the bucket.
    const dump = execFileSync('pg_dump', ['--format=custom', office.urls.superuser], { maxBuffer: 1 << 28 })
    for (const key of await listed()) {
      const content = await openObjectStore(address).get(key.slice(3))
      await client.send(new PutObjectCommand({ Bucket: 'restored', Key: key, Body: content ?? Buffer.alloc(0) }))
    }
    const name = `lucid_restored_${process.pid}`
    await office.in('superuser').execute(sql.raw(`create database ${name} owner lucid_owner`))
    const [url, asApplication] = [new URL(office.urls.owner), new URL(office.urls.application)]
    url.pathname = asApplication.pathname = `/${name}`
    execFileSync('pg_restore', ['--dbname', url.href, '--no-owner', '--exit-on-error'], { input: dump })
    useObjectStore(openObjectStore({ ...address, bucket: 'restored' }))
    const restored = openDatabase(asApplication.href, 2)
    try {
      for (const { sha256 } of await restored.db.select({ sha256: file.sha256 }).from(file)) {
        expect(hash(await readFile(restored.db, sha256))).toBe(sha256)
      }
      const [card] = await restored.db.select().from(admitCard)
      const keys = (await publicKeys(office.as())).map(k => ({ id: k.id, key: new Uint8Array(Buffer.from(k.key, 'base64')) }))
      expect(verifyCode(card?.code ?? '', keys)).toMatchObject({ ok: true })
      // Rights come back with the rows.
      await expect(restored.db.execute(sql`delete from audit_event`)).rejects.toMatchObject({ cause: { code: '42501' } })
    } finally {
      await restored.close()
      await office.in('superuser').execute(sql.raw(`drop database ${name} with (force)`))
    }
  })
})
