import { stringify } from 'csv-stringify/sync'

/**
 * A cell that no spreadsheet takes for a formula: what begins with =, +, -, @, a tab or a line's end gets an apostrophe before it (OWASP,
 * "CSV Injection", from memory). Plain numbers stay numbers.
 */
export const harmless = (cell: string): string => /^[=+\-@\t\r\n]/.test(cell) && !/^[+-]?\d+([.,]\d+)?$/.test(cell) ? `'${cell}` : cell

/** Rows as CSV (RFC 4180) with every cell harmless. */
export const csvOf = (rows: readonly (readonly string[])[]): string =>
  stringify(rows.map(row => row.map(harmless)), { record_delimiter: '\r\n' })
