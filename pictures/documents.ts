import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { pageSide, type DocumentFacts } from '../core/documents/document'
import { openPdfReader, type PdfReader } from '../documents/pdf'
import { DocumentProblem, readDocument } from '../documents/read'
import { ProblemError } from '../shared/problem'
import { refusalOf } from '../shared/refusal'
import { decodePage, encodePage } from './decode'
import { checkBytes } from './door'

/** A document as it was read, and a copy of each page for screens. */
export interface DocumentRead {
  facts: DocumentFacts
  pages: { jpeg: Uint8Array, width: number, height: number }[]
}

/** The reader of PDFs, out of its package under `root/node_modules`. Takes a tenth of a second. */
export async function openPdfReaderFrom(root = process.cwd()): Promise<PdfReader> {
  return openPdfReader(Uint8Array.from(await readFile(join(root, 'node_modules/@embedpdf/pdfium/dist/pdfium.wasm'))).buffer)
}

/**
 * Reads documents in Node. The reader of PDFs is opened with the first one.
 *
 * @throws ProblemError `not-an-image` or `too-large`, worded for the person who chose the file.
 */
export function documentsFrom(root = process.cwd()): (bytes: Uint8Array) => Promise<DocumentRead> {
  let reader: Promise<PdfReader> | null = null
  return async (bytes) => {
    checkBytes(bytes)
    const pages: DocumentRead['pages'] = []
    try {
      const facts = await readDocument(bytes, {
        pdf: () => reader ??= openPdfReaderFrom(root),
        picture: content => decodePage(content, pageSide),
      }, async (pixels) => {
        pages.push(await encodePage(pixels))
      })
      return { facts, pages }
    } catch (error) {
      if (error instanceof DocumentProblem) throw refusalOf(error.reason)
      // An engine that failed in the middle of a file is not asked again.
      if (!(error instanceof ProblemError)) reader = null
      throw error
    }
  }
}
