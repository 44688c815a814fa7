/** What a part of a paper is (ISO 32000-1, section 14.8.4), as far as our papers have it. */
export type Tag = 'Document' | 'Sect' | 'H1' | 'H2' | 'P' | 'Table' | 'TR' | 'TH' | 'TD' | 'L' | 'LI' | 'Lbl' | 'LBody' | 'Figure'

interface About {
  /** What a picture shows, in words. */ alt?: string /** Where it lies, in points from the top left: left, top, right, bottom. */
  bbox?: [number, number, number, number]
  scope?: 'Row' | 'Column'
}

/** What is drawn, by what it is. */
export interface Marks {
  group: <T>(tag: Tag, draw: () => T) => T
  part: <T>(tag: Tag, draw: () => T, about?: About) => T
  ornament: (draw: () => void) => void
}

/** Of papers for the printer alone: a structure of ten thousand cards would not fit into memory. */
export const untagged: Marks = { group: (_, draw) => draw(), part: (_, draw) => draw(), ornament: draw => draw() }

/**
 * Says of a tagged paper what each of its parts is, in the order of reading, as ISO 14289-1 wants it: all that is drawn is either part of
 * the structure or an ornament.
 */
export class Tags implements Marks {
  private parent: PDFKit.PDFStructureElement

  constructor(private readonly doc: PDFKit.PDFDocument) {
    this.parent = doc.struct('Document')
    doc.addStructure(this.parent)
  }

  /** A part made of parts. */
  group<T>(tag: Tag, draw: () => T): T {
    const [outer, own] = [this.parent, this.doc.struct(tag)]
    outer.add(own)
    this.parent = own
    const result = draw()
    own.end()
    this.parent = outer
    return result
  }

  /** A part that is drawn: a text or a picture. */
  part<T>(tag: Tag, draw: () => T, about: About = {}): T {
    let result: T | undefined
    this.parent.add(this.doc.struct(tag, about, [() => {
      result = draw()
    }]))
    return result as T
  }

  /** Lines and frames that say nothing. */
  ornament(draw: () => void): void {
    this.doc.markContent('Artifact', { type: 'Layout' })
    draw()
    this.doc.endMarkedContent()
  }

  end(): void {
    this.parent.end()
  }
}
