import { execFileSync } from 'node:child_process'

/** What an independent reader of PDF (poppler) finds on the pages of a paper. */
export function printed(pdf: Buffer): { text: string, pages: number } {
  const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf, encoding: 'utf8' })
  return { text: text.replace(/\s+/g, ' '), pages: text.split('\f').length - 1 }
}
