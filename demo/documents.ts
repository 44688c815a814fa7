import sharp, { type Sharp } from 'sharp'
import { assemble } from '../documents/assemble'
import type { PdfReader } from '../documents/pdf'
import { openPdfReaderFrom } from '../pictures/documents'
import { documentOf, mm } from '../server/paper/document'
import { drawLine } from '../server/paper/typeset'
import type { Random } from './random'

/** Faults that scans of the demo may have; `none` for a good one. */
export const scanFaults = ['none', 'blurred', 'from afar', 'askew', 'sideways', 'faint', 'blank page', 'coarse', 'shadow'] as const
export type ScanFault = typeof scanFaults[number]
/** A shadow alone makes nothing hard to read: it is to be taken like a good one. */
export const harmlessScanFaults: readonly ScanFault[] = ['none', 'shadow']

export interface PaperHolder {
  name: string
  number: string
  bornOn: string
}

const sentences = [
  'The holder is entered in the register of this district under the number given above.',
  'This paper is void when it is altered or laminated.',
  'Whoever finds it is asked to hand it to the nearest harbour office.',
  'It was made out on the ground of the records that lay before the office on that day.',
  'The entry was compared with the register of births and found to agree with it.',
  'No fee was taken for making it out.',
]

/** A certificate as text, one page of A4, made up. */
export function drawCertificate(random: Random, title: string, holder: PaperHolder): Promise<Buffer> {
  return documentOf({ title, author: 'District office', at: new Date('2026-05-04T08:00:00Z') }, (doc) => {
    drawLine(doc, random.pick(['District Office of Skarn', 'District Office of Lohn', 'Harbour Office of Veyrane']), mm(25), mm(24), {
      face: 'strong',
      size: 11,
    })
    drawLine(doc, title, mm(25), mm(38), { face: 'serif', size: 20 }, mm(160))
    let y = mm(56)
    for (const [label, value] of [['Name', holder.name], ['Born on', holder.bornOn], ['Number', holder.number]] as const) {
      drawLine(doc, label, mm(25), y, { face: 'sans', size: 11, colour: '#555555' })
      drawLine(doc, value, mm(60), y, { face: 'sans', size: 11 })
      y += mm(8)
    }
    // Whole sentences, one a line: breaking paragraphs would cost more than all the rest of the demo's papers.
    for (let i = 0; i < 18; i += 1) {
      drawLine(doc, random.pick(sentences), mm(25), y += mm(i % 6 === 0 ? 10 : 5.5), { face: 'sans', size: 10.5 }, mm(160))
    }
    doc.circle(mm(150), y + mm(26), mm(14)).lineWidth(1.5).strokeColor('#7a2230').stroke()
    drawLine(doc, `${random.whole(1, 28)} May 2026`, mm(25), y + mm(24), { face: 'sans', size: 11 })
  })
}

/** What a bank gives to whoever has paid in at its counter, A5, made up. */
export function drawDepositPaper(deposit: { branch: string, amount: string, reference: string, on: string, number: string }): Promise<
  Buffer
> {
  return documentOf(
    { title: 'Deposit', author: 'Ilmara Harbour Bank', at: new Date('2026-05-04T08:00:00Z'), size: [mm(148), mm(105)] },
    (doc) => {
      drawLine(doc, 'Ilmara Harbour Bank', mm(12), mm(10), { face: 'strong', size: 13 })
      drawLine(doc, 'Paid in at the counter', mm(12), mm(20), { face: 'serif', size: 16 })
      const rows = [['Branch', deposit.branch], ['Amount', deposit.amount], ['Reference', deposit.reference], ['Day', deposit.on], [
        'Number',
        deposit.number,
      ]] as const
      rows.forEach(([label, value], i) => {
        drawLine(doc, label, mm(12), mm(36 + i * 9), { face: 'sans', size: 10, colour: '#555555' })
        drawLine(doc, value, mm(46), mm(36 + i * 9), { face: 'sans', size: 12 }, mm(96))
      })
      doc.rect(mm(104), mm(66), mm(34), mm(20)).lineWidth(1.5).strokeColor('#2a4f7a').stroke()
      drawLine(doc, 'RECEIVED', mm(107), mm(73), { face: 'strong', size: 13, colour: '#2a4f7a' })
    },
  )
}

/** The page of an identity paper with somebody's photograph, 125 by 88 mm, made up. */
export async function drawIdentityPage(photograph: Uint8Array, title: string, holder: PaperHolder): Promise<Buffer> {
  const portrait = await sharp(photograph).resize(300).jpeg().toBuffer()
  return documentOf({ title, author: 'Ilmara', at: new Date('2024-02-01T08:00:00Z'), size: [mm(125), mm(88)] }, (doc) => {
    doc.rect(0, 0, mm(125), mm(88)).fill('#eef3ee')
    drawLine(doc, 'Federation of Ilmara', mm(6), mm(5), { face: 'strong', size: 9 })
    drawLine(doc, title, mm(6), mm(10), { face: 'serif', size: 13 }, mm(110))
    doc.image(portrait, mm(6), mm(22), { width: mm(34) })
    const rows = [['Name', holder.name], ['Number', holder.number], ['Born on', holder.bornOn], ['Issued by', 'Registry of Persons, Skarn'],
      ['Valid until', '31 December 2031']] as const
    rows.forEach(([label, value], i) => {
      drawLine(doc, label, mm(46), mm(22 + i * 10), { face: 'sans', size: 7.5, colour: '#555555' })
      drawLine(doc, value, mm(46), mm(25.5 + i * 10), { face: 'sans', size: 10.5 }, mm(74))
    })
    sentences.slice(0, 2).forEach((sentence, i) => drawLine(doc, sentence, mm(6), mm(75 + i * 4), { face: 'sans', size: 6.5 }))
  })
}

let reader: Promise<PdfReader> | null = null

/** A page of a PDF as a scanner or a telephone takes it, with a fault; JPEG of `dots` an inch of paper. */
export async function scanPage(random: Random, pdf: Uint8Array, fault: ScanFault, dots = 200): Promise<Buffer> {
  const read = await (reader ??= openPdfReaderFrom())
  const { width, height, data } = read(
    pdf,
    ({ page }) =>
      page(
        0,
        ({ width: w, height: h, draw }) =>
          draw(Math.max(w, h) / 72 * (fault === 'coarse' ? 60 : fault === 'from afar' ? dots * 0.3 : dots)),
      ),
  )
  const blank = fault === 'blank page'
  let page: Raster = { width, height, data: blank ? new Uint8Array(data.length).fill(250) : data }
  if (fault === 'faint') page = await raster(open(page).linear(0.3, 178))
  if (fault === 'blurred') page = await raster(open(page).blur(dots / 200 * random.between(4.5, 6)))
  const lean = fault === 'askew' ? random.between(5, 12) * (random.chance(0.5) ? 1 : -1) : random.between(-0.8, 0.8)
  page = withGrain(page, random, fault === 'shadow')
  const leaning = open(page).rotate(lean, { background: '#f4f3ef' })
  const taken = fault === 'sideways' ? open(await raster(leaning)).rotate(random.pick([90, 270])) : leaning
  if (fault !== 'from afar') return taken.jpeg({ quality: 82 }).toBuffer()
  // The paper lies small on a table.
  const lying = await raster(taken)
  return sharp({ create: { width: Math.round(width * 2.4), height: Math.round(height * 2.4), channels: 3, background: '#b9a68a' } })
    .composite([{ input: Buffer.from(lying.data), raw: { width: lying.width, height: lying.height, channels: 3 } }]).jpeg({ quality: 82 })
    .toBuffer()
}

interface Raster {
  width: number
  height: number
  data: Uint8Array
}
const open = ({ width, height, data }: Raster) => sharp(data, { raw: { width, height, channels: 3 } })

async function raster(image: Sharp): Promise<Raster> {
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data }
}

/** Grain of the paper and the camera, and perhaps a shadow that falls over it from the right. */
function withGrain({ width, height, data }: Raster, random: Random, shadowed: boolean): Raster {
  const made = new Uint8ClampedArray(data.length)
  for (let y = 0, i = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, i += 3) {
      const light = shadowed && x > width * 0.2 ? 1 - 0.45 * (x / width - 0.2) : 1
      const grain = (random.next() + random.next() - 1) * 8 + 3
      made[i] = ((data[i] ?? 0) * 0.97 + grain) * light
      made[i + 1] = ((data[i + 1] ?? 0) * 0.97 + grain) * light
      made[i + 2] = ((data[i + 2] ?? 0) * 0.97 + grain) * light
    }
  }
  return { width, height, data: new Uint8Array(made.buffer) }
}

/** Pages of a PDF as a scanner makes them: one picture a page. */
export async function drawScan(random: Random, pdf: Uint8Array, fault: ScanFault): Promise<Buffer> {
  return Buffer.from(await assemble([{ jpeg: await scanPage(random, pdf, fault) }]))
}
