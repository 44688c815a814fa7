import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { isPdf } from '../core/documents/container'
import { contentOf, type DocumentFacts } from '../core/documents/document'
import { measureDocument } from '../core/documents/measure'
import type { Finding } from '../core/finding/finding'
import type { Edit } from '../core/imaging/fit'
import type { DocumentRule, Notice } from '../core/notice/schema'
import { makeDocument, type Draft } from '../documents/make'
import { decodePage, encodeJpeg } from '../pictures/decode'
import { documentsFrom, openPdfReaderFrom } from '../pictures/documents'
import { InputError, readBytes } from './input'

/** What is asked about a document: one file to be measured, or several to be put together in their order. */
export interface DocumentTask { files: string[], rule: DocumentRule, fix?: string }

/** What one file is, by its content. */
export interface DocumentLook { facts: DocumentFacts, findings: Finding[] }

const root = resolve(import.meta.dirname, '..')

/** Measures documents and, with `fix`, makes one PDF of them and measures it, too. */
export async function examine({ files, rule, fix }: DocumentTask): Promise<{ looks: { file: string, look: DocumentLook }[], fixed: { file: string, edits: Edit[], look: DocumentLook } | null }> {
  const read = documentsFrom(root)
  const lookAt = async (bytes: Uint8Array): Promise<DocumentLook> => {
    const { facts } = await read(bytes)
    return { facts, findings: measureDocument(facts, rule) }
  }
  const looks: { file: string, look: DocumentLook }[] = []
  const drafts: Draft[] = []
  for (const file of files) {
    const bytes = readBytes(file)
    const look = await lookAt(bytes)
    looks.push({ file, look })
    // Blank pages are left out of what is made, as long as any page is not.
    look.facts.pages.forEach((page, i) => {
      if (contentOf(page) !== 'blank') drafts.push(isPdf(bytes) ? { kind: 'pdf', source: bytes, page: i } : { kind: 'picture', source: bytes })
    })
  }
  if (!fix) return { looks, fixed: null }
  if (drafts.length === 0) throw new InputError(`every page is blank: there is nothing to make a document of. Nothing was written.`)
  const made = await makeDocument(drafts, rule, { picture: async (bytes, side) => (await decodePage(bytes, side)).pixels, encode: encodeJpeg, pdf: () => openPdfReaderFrom(root) })
  if (!made) throw new InputError(`even small and strongly compressed the pages are over ${(rule.bytes.max ?? 0) / 1024} KB together. Nothing was written.`)
  writeFileSync(fix, made.bytes)
  return { looks, fixed: { file: fix, edits: made.edits, look: await lookAt(made.bytes) } }
}

/** The document of a notice by its id; where the notice asks for one only, it need not be named. */
export function documentRule(notice: Notice, id: string | undefined): DocumentRule {
  const all = notice.documents.map(document => document.id).join(', ')
  if (notice.documents.length === 0) throw new InputError(`the notice ${notice.code} asks for no documents`)
  if (id === undefined && notice.documents.length > 1) throw new InputError(`--document must name one of ${all}`)
  const rule = id === undefined ? notice.documents[0] : notice.documents.find(document => document.id === id)
  if (!rule) throw new InputError(`--document "${id}" is not asked for by the notice ${notice.code}; there are ${all}`)
  return rule
}
