import { readFileSync } from 'node:fs'
import * as fontkit from 'fontkit'
import sharp from 'sharp'
import type { Random } from '../demo/random'

/** Signatures of many hands with one known fault each, made up to try the checks; `none` for a good one. */
export const madeFaults = ['none', 'ruled', 'squared', 'boxed', 'red', 'green', 'magenta', 'finger', 'two', 'drawing', 'sideways'] as const
export type MadeFault = typeof madeFaults[number]

const names = ['Ilena Vask', 'T. Osk-Anundé', 'Marel Quindro', 'S. Berlothay', 'Juno Arvelde', 'Kasimir Lohn', 'A. Thorvaldis',
  'Pemalle Q.', 'Orsolo Fenn', 'R. Maudriskel']
const inks = {
  dark: ['#14181f', '#16203a', '#1c2f8b', '#0f1b5c', '#222222', '#2b3a9a'],
  red: ['#b01722', '#d0202a'],
  green: ['#157a35', '#1f8f4d'],
  magenta: ['#b3128a', '#c21d78'],
}

/** As a telephone or a scanner takes it: JPEG, of a size between 420 and 1400 pixels across. `fonts`: files of faces like handwriting. */
export async function makeSignature(random: Random, fault: MadeFault, fonts: readonly string[]): Promise<Buffer> {
  const [width, height] = [1000, random.whole(330, 420)]
  const ink = random.pick(fault === 'red' || fault === 'green' || fault === 'magenta' ? inks[fault] : inks.dark)
  const hand = () => fonts.length > 0 && random.chance(0.45) ? written(random, random.pick(fonts), ink) : strokes(random, ink)
  const at = (mark: string, x: number, y: number, times: number) =>
    `<g transform="translate(${x} ${y}) scale(${times}) rotate(${random.between(-6, 4)})">${mark}</g>`
  let marks = at(hand(), random.between(90, 160), height * random.between(0.5, 0.62), random.between(0.8, 1.05))
  if (fault === 'two') {
    marks = random.chance(0.5)
      ? at(hand(), 120, height * 0.26, 0.5) + at(hand(), random.between(100, 200), height * 0.78, 0.5)
      : at(hand(), 50, height * 0.55, 0.5) + at(hand(), 560, height * 0.55, 0.5)
  }
  if (fault === 'drawing') marks = drawing(random, ink, width, height)
  const paper = random.pick(['#fcfbf8', '#ffffff', '#f6f1e4', '#eef1f4'])
  const svg =
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="${paper}"/>${
      lines(random, fault, width, height)
    }${marks}${fault === 'finger' ? finger(random, width, height) : ''}</svg>`
  const drawn = await sharp(Buffer.from(svg)).removeAlpha().raw().toBuffer()
  const [fall, tilt, noise] = [random.chance(0.4) ? random.between(0.1, 0.3) : 0, random.between(0, Math.PI * 2), random.between(2, 7)]
  const warm = random.between(0.94, 1.03)
  const data = new Uint8Array(drawn.length)
  for (let i = 0, p = 0; i < drawn.length; i += 3, p += 1) {
    const light = 1 - fall * (0.5 + 0.5 * (Math.cos(tilt) * ((p % width) / width * 2 - 1) + Math.sin(tilt) * (p / width / height * 2 - 1)))
    const grain = (random.next() + random.next() - 1) * noise
    for (let c = 0; c < 3; c += 1) data[i + c] = Math.max(0, Math.min(255, ((drawn[i + c] ?? 0) * light + grain) * (c === 2 ? warm : 1)))
  }
  const turned = sharp(data, { raw: { width, height, channels: 3 } }).blur(random.between(0.4, 1.4)).resize(random.whole(420, 1400))
  const taken = fault === 'sideways' ? sharp(await turned.png().toBuffer()).rotate(random.pick([90, 270])) : turned
  return taken.jpeg({ quality: random.whole(72, 92) }).toBuffer()
}

/** Loops and a flourish, about 700 wide, on a base line at 0. */
function strokes(random: Random, ink: string): string {
  const wide = random.between(5, 9)
  let path = `M 0 ${random.between(-20, 20)}`
  let x = 0
  for (let i = 0; i < random.whole(4, 11); i += 1) {
    const [step, rise] = [random.between(45, 110), i === 0 || random.chance(0.2) ? random.between(110, 170) : random.between(25, 70)]
    const lean = random.between(0.1, 0.5)
    path += ` C ${x + step * lean} ${-rise} ${x + step * (lean + 0.6)} ${-rise * random.between(0.7, 1.1)} ${x + step * 0.5} ${
      random.between(-5, 12)
    } S ${x + step * 0.7} ${random.between(-30, 40)} ${x + step} ${random.between(-15, 10)}`
    x += step
  }
  const under = random.chance(0.35)
    ? `<path d="M ${x * 0.1} ${random.between(45, 60)} Q ${x * 0.5} ${random.between(25, 75)} ${x * random.between(0.75, 1)} ${
      random.between(35, 60)
    }" fill="none" stroke="${ink}" stroke-width="${wide * 0.8}"/>`
    : ''
  const dot = random.chance(0.4) ? `<circle cx="${x * 0.6}" cy="-95" r="${wide * 0.8}" fill="${ink}"/>` : ''
  return `<g transform="scale(${
    Math.min(1, 720 / x)
  } 1)"><path d="${path}" fill="none" stroke="${ink}" stroke-width="${wide}" stroke-linecap="round" stroke-linejoin="round"/>${under}${dot}</g>`
}

/** A name in a face like handwriting. */
function written(random: Random, file: string, ink: string): string {
  const font = fontkit.create(readFileSync(file))
  if (!('layout' in font)) throw new Error(`${file} is no single face`)
  const run = font.layout(random.pick(names))
  const times = Math.min(0.26, 700 / Math.max(1, run.advanceWidth))
  let x = 0
  const paths = run.glyphs.map((glyph, i) => {
    const path = `<path transform="translate(${x} 0)" d="${glyph.path.toSVG()}"/>`
    x += run.positions[i]?.xAdvance ?? 0
    return path
  })
  return `<g fill="${ink}" stroke="${ink}" stroke-width="${random.between(4, 22)}" transform="scale(${times} ${-times})">${
    paths.join('')
  }</g>`
}

function lines(random: Random, fault: MadeFault, width: number, height: number): string {
  const rule = random.pick(['#b9cbe0', '#c8d4dd', '#d4c3c6', '#9fb4cf', '#c9d6c6'])
  const line = (x1: number, y1: number, x2: number, y2: number) =>
    `<line x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}" stroke="${rule}" stroke-width="${random.between(1.6, 2.8)}"/>`
  const lean = random.between(-12, 12)
  const ruled = (gap: number) =>
    Array.from({ length: Math.ceil(height / gap) + 1 }, (_, i) => line(0, i * gap - 7, width, i * gap - 7 + lean)).join('')
  if (fault === 'ruled') return random.chance(0.3) ? line(0, height * 0.68, width, height * 0.68 + lean) : ruled(random.between(60, 110))
  if (fault === 'squared') return ruled(50) + Array.from({ length: 21 }, (_, i) => line(i * 50, 0, i * 50 - lean * 0.4, height)).join('')
  if (fault === 'boxed') {
    return `<rect x="25" y="22" width="${width - 50}" height="${height - 44}" fill="none" stroke="#555555" stroke-width="2.5"/>`
  }
  return ''
}

function finger(random: Random, width: number, height: number): string {
  const [skin, shade] = random
    .pick([['#d9a182', '#b97c5c'], ['#e8bfa3', '#c99674'], ['#8c5a3c', '#6d4129'], ['#c58c66', '#a06a47']] as const)
  const [x, y] = [random.pick([30, width - 30]), random.pick([15, height - 15])]
  return `<g transform="translate(${x} ${y}) rotate(${random.between(20, 70)})"><rect x="-60" y="-${
    random.whole(60, 110)
  }" width="110" height="230" rx="55" fill="${skin}" stroke="${shade}" stroke-width="4"/><rect x="-35" y="-70" width="60" height="60" rx="24" fill="${shade}" opacity="0.35"/></g>`
}

/** A house, a face, a flower, a boat. */
function drawing(random: Random, ink: string, width: number, height: number): string {
  const [x, y, s] = [width * random.between(0.3, 0.6), height * 0.5, height * random.between(0.28, 0.38)]
  const pen = `fill="none" stroke="${ink}" stroke-width="${random.between(4, 7)}"`
  const petals = Array.from(
    { length: 6 },
    (_, i) =>
      `<circle cx="${x + Math.cos(i * Math.PI / 3) * s * 0.55}" cy="${y + Math.sin(i * Math.PI / 3) * s * 0.55}" r="${s * 0.32}" ${pen}/>`,
  ).join('')
  return random.pick([
    `<path d="M ${x - s} ${y} L ${x} ${y - s} L ${x + s} ${y} M ${x - s * 0.8} ${y} V ${y + s} H ${x + s * 0.8} V ${y} M ${x - s * 0.2} ${
      y + s
    } V ${y + s * 0.4} H ${x + s * 0.2} V ${y + s}" ${pen}/>`,
    `<circle cx="${x}" cy="${y}" r="${s}" ${pen}/><circle cx="${x - s * 0.35}" cy="${y - s * 0.3}" r="${s * 0.1}" ${pen}/><circle cx="${
      x + s * 0.35
    }" cy="${y - s * 0.3}" r="${s * 0.1}" ${pen}/><path d="M ${x - s * 0.5} ${y + s * 0.3} Q ${x} ${y + s * 0.8} ${x + s * 0.5} ${
      y + s * 0.3
    }" ${pen}/>`,
    `${petals}<circle cx="${x}" cy="${y}" r="${s * 0.25}" ${pen}/>`,
    `<path d="M ${x - s} ${y + s * 0.5} L ${x + s} ${y + s * 0.5} L ${x + s * 0.6} ${y + s} L ${x - s * 0.6} ${y + s} Z M ${x} ${
      y + s * 0.5
    } V ${y - s} L ${x + s * 0.8} ${y + s * 0.3} Z" ${pen}/>`,
  ])
}
