import type { Statement } from '../core/bank/statement'
import { refusal } from '../shared/refusal'
import { recogniseTable, textOf } from '../tables/read'
import { readCamt } from './camt053'
import type { CsvMapping } from '../shared/bank'
import { readCsv } from './csv'
import { readMt940 } from './mt940'

/** Bank statements as files: ISO 20022 camt.053, SWIFT MT940, and CSV whose columns the office has said. */

/** Bytes of a file that is taken. */
export const statementAtMost = 64 * 1024 * 1024

/** What a file is, by its content. */
export async function formatOf(bytes: Buffer): Promise<Statement['format']> {
  if (bytes.length === 0) throw refusal('table.empty')
  const head = bytes.subarray(0, 4096).toString('latin1').replace(/^\u00EF\u00BB\u00BF/, '').replaceAll('\0', '').trimStart()
  if (head.startsWith('<')) return 'camt.053'
  if (/(^|\n|\{4:\r?\n?):20:/.test(head) && /\n:2(5|8C?):/.test(head)) return 'MT940'
  const { format } = await recogniseTable(bytes)
  if (format !== 'csv') throw refusal('statement.unknown')
  return 'CSV'
}

/**
 * Reads all statements of a file. `mapping` says what the columns of a CSV mean; `account` is whose it is, which a CSV does not say.
 *
 * @throws ProblemError naming what cannot be read and where; nothing of such a file is taken.
 */
export async function readStatements(
  bytes: Buffer,
  { mapping, account, currency }: { mapping: CsvMapping | null, account: string, currency: string },
): Promise<Statement[]> {
  const format = await formatOf(bytes)
  if (format === 'camt.053') return readCamt(bytes)
  if (format === 'MT940') return readMt940(textOf(bytes))
  if (!mapping) throw refusal('statement.no-mapping')
  return [await readCsv(bytes, mapping, { account, currency })]
}
