import sharp from 'sharp'
import type { Random } from './random'

/** Faults that pictures of the demo may have; `none` for a good one. */
export const portraitFaults = ['none', 'blurred', 'dark', 'uneven background', 'turned', 'wrong aspect', 'over the limit', 'too small', 'coloured background', 'light from one side', 'grey'] as const
export type PortraitFault = typeof portraitFaults[number]
export const signatureFaults = ['none', 'blank', 'faint', 'scribbled block', 'tiny', 'cut off', 'print', 'portrait'] as const
export type SignatureFault = typeof signatureFaults[number]

const skins = ['#f1d3bd', '#e3b595', '#c98f6a', '#a86b48', '#7d4a30', '#5a3524']
const hairs = ['#1d1612', '#3a2417', '#5b3a21', '#8a5a2b', '#9a948c', '#2b2b2f']
const clothes = ['#33506b', '#5c2f3a', '#2f4b3c', '#4a4458', '#6b5836', '#24303a']
const grounds = ['#eef1f5', '#f3f2ee', '#e8ecee', '#dfe5ea']

const size = { width: 420, height: 540 }
const sideShadow = `<svg xmlns="http://www.w3.org/2000/svg" width="420" height="540"><defs><linearGradient id="s"><stop offset="0.25" stop-color="#fff"/><stop offset="0.6" stop-color="#777"/><stop offset="1" stop-color="#fff"/></linearGradient></defs><rect width="420" height="540" fill="url(#s)"/></svg>`

/** A made-up portrait: a shaded face of ellipses, gradients and soft shadows, as JPEG. No person's picture. */
export async function drawPortrait(random: Random, fault: PortraitFault): Promise<Buffer> {
  const picture = sharp(Buffer.from(portraitSvg(random, fault)), { density: 72 })
  const grain = await noise(random)
  const base = await picture.composite([{ input: grain, blend: 'overlay' }]).png().toBuffer()
  const made = sharp(base)
  switch (fault) {
    case 'blurred': return made.blur(5).jpeg({ quality: 96, chromaSubsampling: '4:4:4' }).toBuffer()
    case 'dark': return made.modulate({ brightness: 0.3 }).jpeg({ quality: 96 }).toBuffer()
    case 'grey': return made.greyscale().jpeg({ quality: 86 }).toBuffer()
    case 'light from one side': return made.composite([{ input: Buffer.from(sideShadow), blend: 'multiply' }]).jpeg({ quality: 90 }).toBuffer()
    case 'turned': return made.rotate(90).resize({ width: 470, height: 600, fit: 'fill' }).jpeg({ quality: 86 }).toBuffer()
    case 'wrong aspect': return made.resize({ width: 560, height: 540, fit: 'fill' }).jpeg({ quality: 86 }).toBuffer()
    case 'over the limit': return made.resize({ width: 880, height: 1131, fit: 'fill' }).jpeg({ quality: 100, chromaSubsampling: '4:4:4' }).toBuffer()
    case 'too small': return made.resize({ width: 210, height: 270 }).jpeg({ quality: 97, chromaSubsampling: '4:4:4' }).toBuffer()
    default: return made.jpeg({ quality: 86 }).toBuffer()
  }
}

async function noise(random: Random): Promise<Buffer> {
  const data = Buffer.alloc(size.width * size.height)
  for (let i = 0; i < data.length; i += 1) data[i] = 118 + Math.floor(random.next() * 20)
  return sharp(data, { raw: { width: size.width, height: size.height, channels: 1 } }).png().toBuffer()
}

function portraitSvg(random: Random, fault: PortraitFault): string {
  const skin = random.pick(skins)
  const hair = random.pick(hairs)
  const ground = fault === 'uneven background' ? 'url(#stripes)' : fault === 'coloured background' ? random.pick(['#b5482f', '#2f6fb5', '#4c8a3d']) : random.pick(grounds)
  const [rx, ry] = [random.between(84, 98), random.between(116, 130)]
  const [cx, cy] = [210 + random.between(-6, 6), 250 + random.between(-10, 8)]
  const eyeY = cy - 6
  const [iris, lids] = [random.pick(['#4a2f1b', '#3d5a4a', '#34506b', '#2a1d14']), random.between(8, 10.5)]
  const gap = rx * random.between(0.42, 0.48)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}">
  <defs>
    <radialGradient id="face" cx="${random.between(0.38, 0.62)}" cy="0.38" r="0.75">
      <stop offset="0" stop-color="${skin}"/><stop offset="0.7" stop-color="${skin}"/><stop offset="1" stop-color="${shade(skin, 0.68)}"/></radialGradient>
    <linearGradient id="neck" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${shade(skin, 0.62)}"/><stop offset="0.6" stop-color="${shade(skin, 0.9)}"/></linearGradient>
    <linearGradient id="cloth" x1="0" y1="0" x2="1" y2="1"><stop offset="0" stop-color="${random.pick(clothes)}"/><stop offset="1" stop-color="#1e2730"/></linearGradient>
    <pattern id="stripes" width="52" height="52" patternUnits="userSpaceOnUse" patternTransform="rotate(24)"><rect width="52" height="52" fill="#c9a26a"/><rect width="24" height="52" fill="#2f6f74"/></pattern>
    <filter id="soft"><feGaussianBlur stdDeviation="7"/></filter><filter id="fine"><feGaussianBlur stdDeviation="1.6"/></filter>
  </defs>
  <rect width="100%" height="100%" fill="${ground}"/>
  <path d="M ${cx - 190} 560 C ${cx - 180} 440 ${cx - 110} 432 ${cx - 48} 412 L ${cx + 48} 412 C ${cx + 110} 432 ${cx + 180} 440 ${cx + 190} 560 Z" fill="url(#cloth)"/>
  <path d="M ${cx - 46} ${cy + 70} L ${cx - 50} 428 Q ${cx} 460 ${cx + 50} 428 L ${cx + 46} ${cy + 70} Z" fill="url(#neck)"/>
  ${hairBehind(random, hair, cx, cy, rx, ry)}
  <ellipse cx="${cx - rx}" cy="${cy + 8}" rx="13" ry="25" fill="${shade(skin, 0.85)}"/><ellipse cx="${cx + rx}" cy="${cy + 8}" rx="13" ry="25" fill="${shade(skin, 0.85)}"/>
  <ellipse cx="${cx}" cy="${cy}" rx="${rx}" ry="${ry}" fill="url(#face)"/>
  <ellipse cx="${cx - gap}" cy="${cy + 42}" rx="26" ry="18" fill="${shade(skin, 1.1)}" opacity="0.35" filter="url(#soft)"/>
  <ellipse cx="${cx + gap}" cy="${cy + 42}" rx="26" ry="18" fill="${shade(skin, 1.1)}" opacity="0.35" filter="url(#soft)"/>
  ${eye(iris, lids, cx - gap, eyeY, hair)}${eye(iris, lids, cx + gap, eyeY, hair)}
  <path d="M ${cx - 5} ${eyeY + 8} Q ${cx - 15} ${cy + 44} ${cx - 15} ${cy + 46} Q ${cx} ${cy + 58} ${cx + 15} ${cy + 46}" fill="none" stroke="${shade(skin, 0.6)}" stroke-width="3" filter="url(#fine)"/>
  <ellipse cx="${cx - 7}" cy="${cy + 48}" rx="4" ry="2.4" fill="${shade(skin, 0.4)}"/><ellipse cx="${cx + 7}" cy="${cy + 48}" rx="4" ry="2.4" fill="${shade(skin, 0.4)}"/>
  ${mouth(random, cx, cy + 80, skin)}
  ${hairFront(random, hair, cx, cy, rx, ry)}
  </svg>`
}

function eye(iris: string, open: number, x: number, y: number, hair: string): string {
  return `<ellipse cx="${x}" cy="${y}" rx="21" ry="${open + 5}" fill="#000" opacity="0.13" filter="url(#fine)"/>
  <ellipse cx="${x}" cy="${y}" rx="18" ry="${open}" fill="#f6f3ee"/><circle cx="${x}" cy="${y}" r="8.4" fill="${iris}"/>
  <circle cx="${x}" cy="${y}" r="4" fill="#0b0b0b"/><circle cx="${x + 2.6}" cy="${y - 2.8}" r="1.7" fill="#fff"/>
  <path d="M ${x - 20} ${y - 2} Q ${x} ${y - open * 1.9} ${x + 20} ${y - 2}" fill="none" stroke="#1b1411" stroke-width="3.2"/>
  <path d="M ${x - 24} ${y - 22} Q ${x} ${y - 33} ${x + 24} ${y - 22}" fill="none" stroke="${hair}" stroke-width="6.5" stroke-linecap="round"/>`
}

function mouth(random: Random, x: number, y: number, skin: string): string {
  const wide = random.between(26, 34)
  const bow = random.between(2, 7)
  return `<path d="M ${x - wide} ${y} Q ${x - 10} ${y - 9} ${x} ${y - 5} Q ${x + 10} ${y - 9} ${x + wide} ${y} Q ${x} ${y + 15 + bow} ${x - wide} ${y}" fill="#a8554f" opacity="0.85"/>
  <path d="M ${x - wide} ${y} Q ${x} ${y + bow} ${x + wide} ${y}" fill="none" stroke="#5a2624" stroke-width="2.4"/>
  <ellipse cx="${x}" cy="${y + 26}" rx="20" ry="6" fill="${shade(skin, 0.75)}" opacity="0.6" filter="url(#soft)"/>`
}

function hairBehind(random: Random, hair: string, cx: number, cy: number, rx: number, ry: number): string {
  if (!random.chance(0.45)) return ''
  const long = random.between(60, 150)
  return `<path d="M ${cx - rx - 18} ${cy - 20} Q ${cx - rx - 34} ${cy + long} ${cx - rx + 10} ${cy + long + 10} L ${cx + rx - 10} ${cy + long + 10} Q ${cx + rx + 34} ${cy + long} ${cx + rx + 18} ${cy - 20} Q ${cx} ${cy - ry * 1.7} ${cx - rx - 18} ${cy - 20}" fill="${shade(hair, 0.85)}"/>`
}

function hairFront(random: Random, hair: string, cx: number, cy: number, rx: number, ry: number): string {
  const line = cy - ry * random.between(0.5, 0.62)
  // A cubic curve reaches three quarters of the way to its handles: they lie so that the hair covers the crown.
  const top = cy + 6 - (ry + random.between(8, 20)) / 0.75
  const part = random.between(-40, 40)
  return `<path d="M ${cx - rx - 7} ${cy - 18} C ${cx - rx - 12} ${top} ${cx + rx + 12} ${top} ${cx + rx + 7} ${cy - 18} C ${cx + rx - 4} ${line} ${cx + part + 30} ${line - 12} ${cx + part} ${line} C ${cx + part - 30} ${line - 4} ${cx - rx + 6} ${line + 4} ${cx - rx - 7} ${cy - 18} Z" fill="${hair}"/>`
}

function shade(colour: string, factor: number): string {
  const parts = [1, 3, 5].map(i => Math.min(255, Math.round(Number.parseInt(colour.slice(i, i + 2), 16) * factor)))
  return `#${parts.map(part => part.toString(16).padStart(2, '0')).join('')}`
}

/** A made-up signature of pen strokes on paper, as JPEG. */
export async function drawSignature(random: Random, fault: SignatureFault): Promise<Buffer> {
  if (fault === 'portrait') return sharp(await drawPortrait(random, 'none')).resize(420, 150, { fit: 'cover' }).jpeg({ quality: 90 }).toBuffer()
  const ink = fault === 'faint' ? '#cfcfd4' : random.pick(['#16203a', '#101418', '#1c2f6b'])
  const strokes = fault === 'blank' ? '' : fault === 'scribbled block' ? block(random, ink) : fault === 'print' ? print(random, ink) : pen(random, ink, fault === 'tiny' ? 0.14 : 1, fault === 'cut off' ? -120 : 0)
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="420" height="150"><rect width="100%" height="100%" fill="#fcfbf8"/>${strokes}</svg>`
  return sharp(Buffer.from(svg)).jpeg({ quality: 90 }).toBuffer()
}

/** Lines of small marks, as a page of text looks from afar. */
function print(random: Random, ink: string): string {
  const marks: string[] = []
  for (let y = 18; y < 140; y += 17) for (let x = 20; x < 400; x += 9) if (random.chance(0.85)) marks.push(`<rect x="${x}" y="${y - random.whole(0, 3)}" width="${random.whole(3, 6)}" height="${random.whole(6, 9)}" fill="${ink}"/>`)
  return marks.join('')
}

function pen(random: Random, ink: string, scale: number, shift = 0): string {
  const [loops, width] = [random.whole(5, 9), random.between(2.6, 4.2)]
  const step = 320 / loops
  let path = `M 45 ${random.between(70, 110)}`
  for (let i = 0; i < loops; i += 1) {
    const x = 45 + step * (i + 1)
    path += ` C ${x - step} ${random.between(10, 60)} ${x - step * 0.2} ${random.between(20, 60)} ${x - step * 0.4} ${random.between(80, 125)} S ${x - step * 0.1} ${random.between(60, 110)} ${x} ${random.between(55, 100)}`
  }
  const under = random.chance(0.5) ? `<path d="M 70 128 Q 200 ${random.between(112, 140)} 340 ${random.between(112, 126)}" fill="none" stroke="${ink}" stroke-width="${width * 0.8}"/>` : ''
  // Lower than it is wide: the loops swing beyond their ends, and the whole must lie on the paper.
  return `<g transform="translate(${(scale < 1 ? 20 : 0) + shift} ${scale < 1 ? 20 : 16}) scale(${scale} ${scale * 0.7})"><path d="${path}" fill="none" stroke="${ink}" stroke-width="${width}" stroke-linecap="round"/>${under}</g>`
}

function block(random: Random, ink: string): string {
  return Array.from({ length: 60 }, () => `<path d="M ${random.between(40, 380)} ${random.between(15, 135)} L ${random.between(40, 380)} ${random.between(15, 135)}" stroke="${ink}" stroke-width="8"/>`).join('')
}
