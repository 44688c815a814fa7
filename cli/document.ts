import { isPdf } from '../core/documents/container'
import { contentOf, type DocumentFacts } from '../core/documents/document'
import { measureDocument } from '../core/documents/measure'
import type { Finding } from '../core/finding/finding'
import type { Edit } from '../core/imaging/fit'
import type { Mark } from '../core/imaging/image-finding'
import type { DocumentRule } from '../core/notice/file-rules'
import type { Notice } from '../core/notice/schema'
import { makeDocument, type Draft } from '../documents/make'
import { decodePage, encodeJpeg } from '../pictures/decode'
import { documentsFrom, openPdfReaderFrom } from '../pictures/documents'
import { InputError, readBytes } from './input'

/** What was found on one file. */
export interface Look {
  facts: object
  findings: Finding[]
  marks?: Mark[]
}
/** What was found on all files, and what was made of them where that was asked for. */
export interface Examination {
  looks: (Look & { file: string })[]
  made: { bytes: Uint8Array, edits: Edit[], look: Look } | null
}

/** Looks at documents and, where `fix` is given, makes one PDF of them and looks at it, too. */
export async function examineDocuments(files: readonly string[], rule: DocumentRule, fix: boolean, root: string): Promise<Examination> {
  const read = documentsFrom(root)
  const look = async (bytes: Uint8Array): Promise<Look & { facts: DocumentFacts }> => {
    const { facts } = await read(bytes)
    return { facts, findings: measureDocument(facts, rule) }
  }
  const looks: Examination['looks'] = []
  const drafts: Draft[] = []
  for (const file of files) {
    const bytes = readBytes(file)
    const found = await look(bytes)
    looks.push({ file, ...found })
    // Blank pages are left out of what is made.
    found.facts.pages.forEach((page, i) => {
      if (contentOf(page) !== 'blank') {
        drafts.push(isPdf(bytes) ? { kind: 'pdf', source: bytes, page: i } : { kind: 'picture', source: bytes })
      }
    })
  }
  if (!fix) return { looks, made: null }
  if (drafts.length === 0) throw new InputError('every page is blank: there is nothing to make a document of. Nothing was written.')
  const made = await makeDocument(drafts, rule, {
    picture: async (bytes, side) => (await decodePage(bytes, side)).pixels,
    encode: encodeJpeg,
    pdf: () => openPdfReaderFrom(root),
  })
  if (!made) {
    throw new InputError(`even small and strongly compressed the pages are over ${
      (rule.bytes.max ?? 0) / 1024
    } KB together. Nothing was written.`)
  }
  return { looks, made: { ...made, look: await look(made.bytes) } }
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
