import { PDFDocument, PDFName, PDFString, type PDFRef } from 'pdf-lib'
import PdfKit from 'pdfkit'
import { deflateSync } from 'node:zlib'

function pngChunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
  const ends = Buffer.alloc(8)
  ends.writeUInt32BE(data.length, 0)
  ends.writeUInt32BE(crcOf(body), 4)
  return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)])
}

/** CRC-32 as PNG uses it. */
function crcOf(data: Buffer): number {
  const table = Array.from({ length: 256 }, (_, n) => {
    let c = n
    for (let k = 0; k < 8; k += 1) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
    return c >>> 0
  })
  return (data.reduce((c, byte) => (table[(c ^ byte) & 255] ?? 0) ^ (c >>> 8), 0xffffffff) ^ 0xffffffff) >>> 0
}

/** A PNG of one colour that claims any size: its head says so, its data are a few bytes. */
export function hugePng(side: number): Buffer {
  const head = Buffer.alloc(13)
  head.writeUInt32BE(side, 0)
  head.writeUInt32BE(side, 4)
  head.set([8, 2, 0, 0, 0], 8)
  return Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), pngChunk('IHDR', head),
    pngChunk('IDAT', deflateSync(Buffer.alloc(1000))), pngChunk('IEND', Buffer.alloc(0))])
}

/** A PNG that says of itself, before its pixels, that it moves. */
export function movingPng(still: Buffer): Buffer {
  const control = Buffer.alloc(8)
  control.writeUInt32BE(3, 0)
  return Buffer.concat([still.subarray(0, 33), pngChunk('acTL', control), still.subarray(33)])
}

/** A one-page PDF made by a public library, with what is asked for: a password, a lock, a program in one of the ways such files hide it. */
export async function oddPdf(kind:
  | 'plain'
  | 'secret'
  | 'locked'
  | 'script'
  | 'script of a page'
  | 'script on opening'
  | 'script in a packed object'
  | 'script under an escaped name'
  | 'launch'
  | 'attachment'
  | 'no pages'
  | 'not a PDF inside'): Promise<Buffer> {
  if (kind === 'not a PDF inside') return Buffer.from('%PDF-1.7\nnothing of the kind\n%%EOF\n')
  if (kind === 'no pages') return Buffer.from(emptyPdf, 'latin1')
  if (kind === 'plain' || kind === 'secret' || kind === 'locked') {
    const made = new PdfKit({
      size: 'A5',
      pdfVersion: '1.7',
      ...kind === 'secret'
        ? { userPassword: 'lighthouse' }
        : kind === 'locked'
        ? { ownerPassword: 'keeper', permissions: { printing: 'lowResolution' as const } }
        : {},
    })
    const parts: Buffer[] = []
    made.on('data', (part: Buffer) => parts.push(part))
    const ended = new Promise(done => made.on('end', done))
    made.fontSize(11).text('The holder is entered in the register of this district. '.repeat(12))
    made.end()
    await ended
    return Buffer.concat(parts)
  }
  const file = await PDFDocument.load(await oddPdf('plain'))
  const { context, catalog } = file
  const action = (entries: Record<string, string | PDFString | PDFName>) => context.register(context.obj({ Type: 'Action', ...entries }))
  const script = { S: 'JavaScript', JS: PDFString.of('app.alert("hello")') }
  if (kind === 'script' || kind === 'script in a packed object' || kind === 'script under an escaped name') {
    file.addJavaScript('main', 'app.alert("hello")')
  }
  if (kind === 'script of a page') file.getPage(0).node.set(PDFName.of('AA'), context.obj({ O: action(script) }))
  if (kind === 'script on opening') catalog.set(PDFName.of('OpenAction'), action(script))
  if (kind === 'launch') catalog.set(PDFName.of('OpenAction'), action({ S: 'Launch', F: PDFString.of('program.exe') }))
  if (kind === 'attachment') await file.attach(Buffer.from('hello'), 'more.txt')
  const saved = Buffer.from(await file.save({ useObjectStreams: kind === 'script in a packed object' }))
  // The same length, so that every place in the file's table stays true.
  return kind === 'script under an escaped name'
    ? Buffer.from(saved.toString('latin1').replace(/\/S \/JavaScript/g, '/S /Jav#61Script').replace(/\/JS /g, '/J#53 '), 'latin1')
    : saved
}

const emptyPdf = ['%PDF-1.4', '1 0 obj <</Type/Catalog/Pages 2 0 R>> endobj', '2 0 obj <</Type/Pages/Kids[]/Count 0>> endobj', 'xref',
  '0 3', '0000000000 65535 f ', '0000000009 00000 n ', '0000000054 00000 n ', 'trailer <</Size 3/Root 1 0 R>>', 'startxref', '100', '%%EOF',
  ''].join('\n')

/** A PDF with a field of a form that somebody filled. */
export async function filledForm(text: string): Promise<Buffer> {
  const file = await PDFDocument.load(await oddPdf('plain'))
  const field = file.getForm().createTextField('name')
  field.setText(text)
  field.addToPage(file.getPage(0), { x: 60, y: 60, width: 300, height: 50 })
  return Buffer.from(await file.save())
}

/** PDFs that cost far more to draw than they weigh. */
export async function costlyPdf(kind:
  | 'a page that draws itself'
  | 'forms in a ring'
  | 'forms that call ten others each'
  | 'three million curves'
  | 'glyphs that draw their font'
  | 'a picture of four thousand million points'
  | 'content that unpacks to 80 MB'
  | 'sends a form'
  | 'opens another file'): Promise<Buffer> {
  const file = await PDFDocument.create()
  const page = file.addPage([300, 300])
  const { context } = file
  const form = (content: string, forms: Record<string, PDFRef> = {}, packed = false) =>
    context.register((packed ? context.flateStream : context.stream).call(context, content, {
      Type: 'XObject',
      Subtype: 'Form',
      BBox: [0, 0, 300, 300],
      Resources: { XObject: forms },
    }))
  const draw = (ref: PDFRef) => {
    page.node.setXObject(PDFName.of('F'), ref)
    page.node.set(PDFName.of('Contents'), context.register(context.stream('/F Do')))
  }
  const action = (entries: Record<string, string | PDFString>) => file.catalog.set(PDFName.of('OpenAction'), context.obj(entries))
  const own = context.nextRef()
  switch (kind) {
    case 'a page that draws itself':
      context.assign(
        own,
        context.stream('/Fm Do', { Type: 'XObject', Subtype: 'Form', BBox: [0, 0, 300, 300], Resources: { XObject: { Fm: own } } }),
      )
      page.node.setXObject(PDFName.of('Fm'), own)
      page.node.set(PDFName.of('Contents'), own)
      break
    case 'forms in a ring':
      context.assign(
        own,
        context.stream('/B Do', {
          Type: 'XObject',
          Subtype: 'Form',
          BBox: [0, 0, 300, 300],
          Resources: { XObject: { B: form('/A Do', { A: own }) } },
        }),
      )
      draw(own)
      break
    case 'forms that call ten others each': {
      let inner = form('0 0 10 10 re f')
      for (let level = 0; level < 9; level += 1) inner = form('/I Do '.repeat(10), { I: inner })
      draw(inner)
      break
    }
    case 'three million curves':
      draw(form('0 0 m ' + '9 9 1 2 3 4 c '.repeat(3_000_000) + 'S', {}, true))
      break
    case 'glyphs that draw their font':
      page.node.setFontDictionary(PDFName.of('T'), own)
      context.assign(
        own,
        context.obj({
          Type: 'Font',
          Subtype: 'Type3',
          FontBBox: [0, 0, 9, 9],
          FontMatrix: [1, 0, 0, 1, 0, 0],
          FirstChar: 97,
          LastChar: 97,
          Widths: [9],
          Encoding: { Differences: [97, 'a'] },
          CharProcs: { a: context.register(context.stream('BT /T 9 Tf (a) Tj ET', { Resources: { Font: { T: own } } })) },
        }),
      )
      page.node.set(PDFName.of('Contents'), context.register(context.stream('BT /T 9 Tf (aaa) Tj ET')))
      break
    case 'a picture of four thousand million points':
      draw(context.register(context.flateStream(Buffer.alloc(1000), {
        Type: 'XObject',
        Subtype: 'Image',
        Width: 64_000,
        Height: 64_000,
        ColorSpace: 'DeviceGray',
        BitsPerComponent: 1,
      })))
      break
    case 'content that unpacks to 80 MB':
      draw(form(' '.repeat(80 * 1024 * 1024), {}, true))
      break
    case 'sends a form':
      action({ S: 'SubmitForm', F: PDFString.of('http://127.0.0.1/take') })
      break
    case 'opens another file':
      action({ S: 'GoToR', F: PDFString.of('//127.0.0.1/share/other.pdf') })
      break
  }
  return Buffer.from(await file.save({ useObjectStreams: false }))
}
