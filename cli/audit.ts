import { createReadStream, existsSync, readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { parseArgs } from 'node:util'
import { z } from 'zod'
import { consistencyProof, inclusionProof, isConsistent, isIncluded, rootOf } from '../core/records/merkle'
import { LogCheck, leafOf, sealedHeadSchema, sealedRowSchema, type SealedHead, type SealedRow } from '../core/records/sealed-log'
import { logFaultWords } from '../core/words/en/log-faults'
import { InputError } from './text'

const help = `lucid audit verify --rows log-rows.jsonl --heads log-heads.jsonl --keys keys.json
lucid audit prove --rows log-rows.jsonl --place N [--size S]
lucid audit grown --rows log-rows.jsonl --from M [--size S]

verify: whether anything that was sealed was changed, taken away, put in or dated back, and where it shows first. Heads that you kept are worth more than
those that come with the rows: give yours. prove: the hashes that prove that the row at a place, from 0, is in the log of S rows; grown: those that prove that
the log of M rows is the beginning of the one of S (RFC 9162, section 2.1). Files come from the page Records; keys from /api/check/keys.
Exit code 0: whole, or proven; 3: something is wrong; 2: bad input.`

const keysSchema = z.array(z.object({ id: z.string(), key: z.base64() }))
const toHex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex')
const fromHex = (text: string) => new Uint8Array(Buffer.from(text, 'hex'))

/** Checks an exported log, or proves something of it; the exit code. */
export async function audit(args: string[]): Promise<number> {
  const text = { type: 'string' } as const
  let given: {
    values: Partial<Record<'rows' | 'heads' | 'keys' | 'place' | 'from' | 'size', string>> & { help?: boolean },
    positionals: string[],
  }
  try {
    given = parseArgs({
      args,
      allowPositionals: true,
      options: { rows: text, heads: text, keys: text, place: text, from: text, size: text, help: { type: 'boolean' } },
    })
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  const { values, positionals: [act, ...more] } = given
  if (values.help) {
    console.log(help)
    return 0
  }
  if (more.length > 0 || !values.rows) throw new InputError(`verify, prove or grown, and --rows must be given.\n${help}`)
  if (act === 'verify' && values.heads && values.keys) return verify(values.rows, values.heads, values.keys)
  if (act === 'prove' && values.place) return prove(values.rows, whole(values.place, 'place'), values.size)
  if (act === 'grown' && values.from) return grown(values.rows, whole(values.from, 'from'), values.size)
  throw new InputError(`"${act ?? ''}" with these options is not known.\n${help}`)
}

function whole(value: string, name: string): number {
  if (!/^\d{1,12}$/.test(value)) throw new InputError(`--${name} "${value}" is no whole number from 0`)
  return Number(value)
}

async function verify(rows: string, headFile: string, keyFile: string): Promise<number> {
  const heads: SealedHead[] = []
  for await (const head of linesOf(headFile, sealedHeadSchema)) heads.push(head)
  if (heads.length === 0) throw new InputError(`${headFile} holds no head`)
  heads.sort((a, b) => a.size - b.size)
  const check = new LogCheck(heads, readKeys(keyFile))
  for await (const row of linesOf(rows, sealedRowSchema)) if (!check.row(row)) break
  const fault = check.end()
  console.log(fault
    ? `✕ ${logFaultWords(fault)}`
    : `✓ ${heads.at(-1)?.size} rows under ${heads.length} signed heads: nothing was changed, taken away, put in or dated back. ${
      check.rows - (heads.at(-1)?.size ?? 0)
    } further rows are under no head yet.`)
  return fault ? 3 : 0
}

async function leavesOf(rows: string, size: string | undefined): Promise<Uint8Array[]> {
  const most = size === undefined ? Infinity : whole(size, 'size')
  const leaves: Uint8Array[] = []
  for await (const row of linesOf(rows, sealedRowSchema)) {
    if (leaves.length >= most) break
    leaves.push(leafOf(row))
  }
  if (leaves.length < most && size !== undefined) throw new InputError(`${rows} holds ${leaves.length} rows; --size ${size} asks for more`)
  return leaves
}

async function prove(rows: string, place: number, size: string | undefined): Promise<number> {
  const leaves = await leavesOf(rows, size)
  const leaf = leaves[place]
  if (!leaf) throw new InputError(`--place ${place}: the log has ${leaves.length} rows, counted from 0`)
  const [root, proof] = [rootOf(leaves), inclusionProof(place, leaves)]
  console.log(JSON.stringify({ place, size: leaves.length, leaf: toHex(leaf), proof: proof.map(toHex), root: toHex(root) }, null, 2))
  return isIncluded(leaf, place, leaves.length, proof, root) ? 0 : 3
}

async function grown(rows: string, from: number, size: string | undefined): Promise<number> {
  const leaves = await leavesOf(rows, size)
  if (from > leaves.length) throw new InputError(`--from ${from}: the log has ${leaves.length} rows`)
  const [first, root, proof] = [rootOf(leaves.slice(0, from)), rootOf(leaves), consistencyProof(from, leaves)]
  console.log(JSON.stringify({ from, size: leaves.length, firstRoot: toHex(first), proof: proof.map(toHex), root: toHex(root) }, null, 2))
  return isConsistent(from, leaves.length, proof, first, root) ? 0 : 3
}

async function* linesOf<T extends SealedRow | SealedHead>(file: string, schema: z.ZodType<T>): AsyncGenerator<T> {
  if (!existsSync(file)) throw new InputError(`${file} cannot be read`)
  let line = 0
  for await (const text of createInterface({ input: createReadStream(file, 'utf8'), crlfDelay: Infinity })) {
    line += 1
    if (text.trim() === '') continue
    const parsed = schema.safeParse(parsedJson(text))
    if (!parsed.success) {
      throw new InputError(`${file}, line ${line}: ${parsed.error.issues[0]?.path.join('.') || 'no JSON'} is not what an export holds`)
    }
    yield parsed.data
  }
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

function readKeys(file: string): { id: string, key: Uint8Array }[] {
  const parsed = existsSync(file) ? keysSchema.safeParse(parsedJson(readFileSync(file, 'utf8'))) : null
  if (!parsed?.success) throw new InputError(`${file} is no list of public keys, such as /api/check/keys gives`)
  return parsed.data.map(({ id, key }) => ({ id, key: fromHex(Buffer.from(key, 'base64').toString('hex')) }))
}
