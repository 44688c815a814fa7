import { DeleteObjectCommand, GetObjectCommand, PutObjectCommand, S3Client } from '@aws-sdk/client-s3'

/** Bytes outside the database, by the hash of their content. */
export interface ObjectStore {
  put: (sha256: string, content: Uint8Array) => Promise<void>
  /** Null for bytes that are not there. */
  get: (sha256: string) => Promise<Buffer | null>
  /** Bytes that are not there are as good as removed. */
  remove: (sha256: string) => Promise<void>
  close: () => void
}

/** Where an S3-compatible store is, and the key of the account that may read and write one bucket of it. */
export interface ObjectStoreAddress {
  endpoint: string
  bucket: string
  region: string
  key: string
  secret: string
}

// Two letters of the hash are a folder: stores that list by prefix stay quick.
const nameOf = (sha256: string) => `${sha256.slice(0, 2)}/${sha256}`

/** Opens an S3-compatible store. Nothing is sent before the first file. */
export function openObjectStore({ endpoint, bucket, region, key, secret }: ObjectStoreAddress): ObjectStore {
  const client = new S3Client({
    endpoint,
    region,
    forcePathStyle: true,
    credentials: { accessKeyId: key, secretAccessKey: secret },
    // Stores other than the first of their kind do not all know the newer checksums; we check our own hash on reading.
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
  })
  return {
    async put(sha256, content) {
      await client.send(new PutObjectCommand({
        Bucket: bucket,
        Key: nameOf(sha256),
        Body: content,
        ContentLength: content.length,
        ContentType: 'application/octet-stream',
      }))
    },
    async get(sha256) {
      try {
        const { Body } = await client.send(new GetObjectCommand({ Bucket: bucket, Key: nameOf(sha256) }))
        return Body ? Buffer.from(await Body.transformToByteArray()) : null
      } catch (error) {
        if (error instanceof Error && error.name === 'NoSuchKey') return null
        throw error
      }
    },
    async remove(sha256) {
      await client.send(new DeleteObjectCommand({ Bucket: bucket, Key: nameOf(sha256) }))
    },
    close: () => client.destroy(),
  }
}

const settings = ['LUCID_OBJECTS_ENDPOINT', 'LUCID_OBJECTS_BUCKET', 'LUCID_OBJECTS_KEY', 'LUCID_OBJECTS_SECRET'] as const

/**
 * The address that the operator has set, null when none is.
 *
 * @throws Error naming what is missing when only a part is set.
 */
export function objectStoreAddress(environment: Readonly<Record<string, string | undefined>>): ObjectStoreAddress | null {
  const [endpoint, bucket, key, secret] = settings.map(name => environment[name])
  if (!endpoint && !bucket && !key && !secret) return null
  if (!endpoint || !bucket || !key || !secret) {
    throw new Error(`${settings.filter(name => !environment[name]).join(', ')}: not set. The object store needs ${
      settings.join(', ')
    }; set all or none.`)
  }
  return { endpoint, bucket, key, secret, region: environment.LUCID_OBJECTS_REGION ?? 'us-east-1' }
}

let opened: ObjectStore | null | undefined

/** The object store of this process, as the environment sets it; null where bytes stay in the database. */
export function objectStore(): ObjectStore | null {
  if (opened === undefined) {
    const address = objectStoreAddress(process.env)
    opened = address && openObjectStore(address)
  }
  return opened
}

/** Takes another store than the environment's: for tests, and for the command that moves bytes. */
export function useObjectStore(store: ObjectStore | null): void {
  opened = store
}
