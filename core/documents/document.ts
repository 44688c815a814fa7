import type { PageMeasures } from './page'

/**
 * What was read of a document: a PDF, or one picture of a paper. Whoever reads it hands in pages one after another, so that a long
 * one never stands in memory whole.
 */
export interface DocumentFacts {
  format: 'pdf' | 'jpeg' | 'png'
  bytes: number
  pages: PageFacts[]
  /** Locked against changes, though anybody may read it. */
  locked: boolean
  /** Its table of contents was broken and was rebuilt from what stands in the file. */
  mended: boolean
  /** Other files inside it, which nobody looks at. */
  attachments: number
}

export interface PageFacts {
  /** Size on paper in millimetres, upright as it is shown; a picture has none. */
  paper: { width: number, height: number } | null
  /** Letters that stand in the file as text, seen or not. */
  characters: number
  /** The largest picture on the page: percent of the page it covers, and its pixels an inch of paper; null where there is none. */
  scan: { share: number, dpi: number } | null
  /** Pixels of the file across one pixel that was measured; below 1 where a page was drawn finer than its scan. */
  zoom: number
  measures: PageMeasures
}

/** What a page is made of. A scan may carry text that a machine read from it: what counts is what people see. */
export type PageContent = 'text' | 'scan' | 'drawing' | 'blank'

export function contentOf({ measures, characters, scan, paper }: PageFacts): PageContent {
  if (measures.blank) return 'blank'
  if (paper === null || isScan(scan)) return 'scan'
  return characters >= 20 ? 'text' : 'drawing'
}

/** Whether a page's largest picture is what the page is. */
export const isScan = (scan: PageFacts['scan']) => scan !== null && scan.share >= 50

/** Longest side, in pixels, of the copy of a page that is measured: A4 at about 170 dots an inch. */
export const pageSide = 2000

/** What is taken at the door; a notice's own limits are findings, this protects whoever reads. */
export const pagesAtMost = 24
