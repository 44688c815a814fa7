import { and, asc, count, eq, isNotNull, isNull, or, sql } from 'drizzle-orm'
import type { Finding } from '../../../core/finding/finding'
import { imageKindsOf, imageRuleOf } from '../../../core/notice/image-rules'
import type { Notice } from '../../../core/notice/schema'
import { bareName, personKey, placeFile, slotNames } from '../../../core/roll/file-names'
import type { RollRow } from '../../../core/roll/row'
import type { RollDetail } from '../../../shared/rolls'
import type { Executor } from '../../database/client'
import { rollFile } from '../../database/schema'

const shownAtMost = 200

/** How many pictures and papers have come with a roll, and the first of those that somebody has to look at. */
export async function filesView(db: Executor, rollId: string): Promise<RollDetail['files']> {
  const [all] = await db.select({ n: count(), odd: count(rollFile.finding) }).from(rollFile).where(eq(rollFile.rollId, rollId))
  const odd = await db.select({ name: rollFile.name, finding: rollFile.finding }).from(rollFile)
    .where(and(eq(rollFile.rollId, rollId), isNotNull(rollFile.finding))).orderBy(asc(rollFile.name)).limit(shownAtMost)
  return { count: all?.n ?? 0, odd: all?.odd ?? 0, found: odd.flatMap(({ name, finding }) => finding ? [{ name, finding }] : []) }
}

/** What is wrong with a row or a file of a roll besides what the sheet finds. */
export const rollFinding = (code: string, parameters: Finding['parameters'] = {}): Finding => ({
  code,
  about: '',
  verdict: 'fail',
  value: null,
  unit: 'none',
  bound: null,
  parameters,
})

/** A file while a pass goes over the rows: what its name tells, and whose it has turned out to be. */
export interface PlacedRollFile {
  name: string
  sha256: string
  person: string
  said: string | null
  row: number | null
  slot: string | null
  finding: Finding | null
}
const isSeveral = sql`${rollFile.finding} ->> 'code' = 'roll.file-several'`

/** The pictures and papers of a roll, found for each of its rows by a column that names them, or by their own names. */
export class RollFiles {
  readonly #byPerson = new Map<string, PlacedRollFile[]>()
  readonly #byName = new Map<string, PlacedRollFile[]>()
  readonly #wanted: { kind: string, title: string }[]

  private constructor(readonly all: readonly PlacedRollFile[], notice: Notice) {
    for (const file of all) {
      if (file.person !== '') add(this.#byPerson, file.person, file)
      add(this.#byName, bareName(file.name), file)
    }
    this.#wanted = imageKindsOf(notice).map(kind => ({ kind, title: imageRuleOf(notice, kind).title }))
  }

  /** All that can be taken; once tried, without those that could belong to two rows. */
  static async of(db: Executor, rollId: string, notice: Notice, isTried: boolean): Promise<RollFiles> {
    const rows = await db.select({ name: rollFile.name, sha256: rollFile.sha256 }).from(rollFile).where(and(
      eq(rollFile.rollId, rollId),
      isNotNull(rollFile.sha256),
      isTried ? or(isNull(rollFile.finding), sql`not ${isSeveral}`) : undefined,
    )).orderBy(asc(rollFile.name))
    const slots = slotNames(notice)
    return new RollFiles(
      rows.flatMap(({ name, sha256 }) => {
        const { person, slot } = placeFile(name, slots)
        return sha256 === null
          ? []
          : [{
            name,
            sha256,
            person,
            said: slot,
            row: null,
            slot: null,
            finding: rollFinding(person === '' ? 'roll.file-whose' : 'roll.file-nobody'),
          }]
      }),
      notice,
    )
  }

  /** The files of a row by slot, with what is wrong about them. `number` is that of the application it has made before. */
  forRow(
    row: Pick<RollRow, 'reference' | 'files'> & { row: number },
    number: string | null,
  ): { files: Map<string, PlacedRollFile>, findings: Finding[] } {
    const files = new Map<string, PlacedRollFile>()
    const findings: Finding[] = []
    for (const [slot, written] of Object.entries(row.files)) {
      const hits = this.#byName.get(bareName(written ?? '')) ?? []
      const file = hits.find(one => one.said === slot) ?? (hits.length === 1 ? hits[0] : undefined)
      if (file) this.#take(files, file, slot, row.row)
      else if (this.all.length > 0) {
        findings.push({
          ...rollFinding('roll.file-named', { slot: this.#titleOf(slot), written: (written ?? '').slice(0, 60) }),
          verdict: 'unsure',
        })
      }
    }
    for (const key of new Set([row.reference, number ?? ''].map(personKey))) {
      for (const file of key === '' ? [] : this.#byPerson.get(key) ?? []) {
        if (file.row === row.row && file.slot !== null) continue
        if (file.said === null) file.finding = rollFinding('roll.file-slot', { row: row.row })
        else this.#take(files, file, file.said, row.row)
      }
    }
    const lacking = this.all.length > 0 && number === null ? this.#wanted.filter(({ kind }) => !files.has(kind)) : []
    if (lacking.length > 0) {
      findings.push({ ...rollFinding('roll.file-missing', { slots: lacking.map(one => one.title).join(', ') }), verdict: 'unsure' })
    }
    return { files, findings }
  }

  #take(files: Map<string, PlacedRollFile>, file: PlacedRollFile, slot: string, row: number): void {
    const before = files.get(slot)
    if (before === file) return
    if (file.row !== null && file.row !== row) file.finding = rollFinding('roll.file-several', { one: file.row, other: row })
    else if (before) file.finding = rollFinding('roll.file-twice', { row, name: before.name })
    else {
      Object.assign(file, { row, slot, finding: null })
      files.set(slot, file)
    }
  }

  #titleOf = (slot: string): string => this.#wanted.find(one => one.kind === slot)?.title ?? slot

  /** Keeps what the pass has found. */
  async keep(db: Executor, rollId: string): Promise<{ all: number, placed: number }> {
    for (let from = 0; from < this.all.length; from += 5000) {
      const rows = this.all.slice(from, from + 5000).map(({ name, row, slot, finding }) => ({ name, row, slot, finding }))
      await db
        .execute(sql`update roll_file set "row" = one."row", slot = one.slot, finding = one.finding from jsonb_to_recordset(${
          JSON.stringify(rows)
        }::jsonb) as one(name text, "row" integer, slot text, finding jsonb) where roll_file.roll_id = ${rollId}::uuid and roll_file.name = one.name`)
    }
    const [all] = await db.select({ n: count() }).from(rollFile).where(eq(rollFile.rollId, rollId))
    return { all: all?.n ?? 0, placed: this.all.filter(file => file.finding === null).length }
  }
}

function add(index: Map<string, PlacedRollFile[]>, key: string, file: PlacedRollFile): void {
  const there = index.get(key)
  if (there) there.push(file)
  else index.set(key, [file])
}
