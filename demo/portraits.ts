import sharp from 'sharp'
import type { Random } from './random'

/** Faults that portraits of the demo may have; `none` for a good one. */
export const portraitFaults = [
  'none',
  'blurred',
  'dark',
  'uneven background',
  'turned',
  'wrong aspect',
  'over the limit',
  'too small',
  'coloured background',
  'light from one side',
  'grey',
  'upside down',
  'tilted',
  'two faces',
  'small face',
  'off centre',
  'crown cut',
  'sunglasses',
  'eyes closed',
  'red eyes',
  'no portrait',
  'crushed',
  'enlarged',
  'shadow on the wall',
] as const
export type PortraitFault = typeof portraitFaults[number]

const skins = ['#f1d3bd', '#e3b595', '#c98f6a', '#a86b48', '#7d4a30', '#5a3524']
const hairs = ['#1d1612', '#3a2417', '#5b3a21', '#8a5a2b', '#9a948c', '#2b2b2f']
const clothes = ['#33506b', '#5c2f3a', '#2f4b3c', '#4a4458', '#6b5836', '#24303a']
const grounds = ['#eef1f5', '#f3f2ee', '#e8ecee', '#dfe5ea']
const loud = ['#b5482f', '#2f6fb5', '#4c8a3d']

const size = { width: 420, height: 540 }
const sideShadow =
  `<svg xmlns="http://www.w3.org/2000/svg" width="420" height="540"><defs><linearGradient id="s"><stop offset="0.25" stop-color="#fff"/><stop offset="0.6" stop-color="#777"/><stop offset="1" stop-color="#fff"/></linearGradient></defs><rect width="420" height="540" fill="url(#s)"/></svg>`

/** A made-up portrait: a shaded face of ellipses, gradients and soft shadows, as JPEG. No person's picture. */
export async function drawPortrait(random: Random, fault: PortraitFault): Promise<Buffer> {
  const picture = sharp(Buffer.from(fault === 'no portrait' ? coastSvg(random) : portraitSvg(random, fault)), { density: 72 })
  const grain = await noise(random)
  const base = await picture.composite([{ input: grain, blend: 'overlay' }]).png().toBuffer()
  return spoil(base, fault)
}

/** Faults of camera, light and file, which lie over the finished picture. */
async function spoil(base: Buffer, fault: PortraitFault): Promise<Buffer> {
  const made = sharp(base)
  switch (fault) {
    case 'blurred':
      return made.blur(5).jpeg({ quality: 96, chromaSubsampling: '4:4:4' }).toBuffer()
    case 'dark':
      return made.modulate({ brightness: 0.3 }).jpeg({ quality: 96 }).toBuffer()
    case 'grey':
      return made.greyscale().jpeg({ quality: 86 }).toBuffer()
    case 'light from one side':
      return made.composite([{ input: Buffer.from(sideShadow), blend: 'multiply' }]).jpeg({ quality: 90 }).toBuffer()
    case 'turned':
      return made.rotate(90).resize({ width: 470, height: 600, fit: 'fill' }).jpeg({ quality: 86 }).toBuffer()
    case 'upside down':
      return made.rotate(180).jpeg({ quality: 86 }).toBuffer()
    case 'wrong aspect':
      return made.resize({ width: 560, height: 540, fit: 'fill' }).jpeg({ quality: 86 }).toBuffer()
    case 'over the limit':
      return made.resize({ width: 880, height: 1131, fit: 'fill' }).jpeg({ quality: 100, chromaSubsampling: '4:4:4' }).toBuffer()
    case 'too small':
      return made.resize({ width: 210, height: 270 }).jpeg({ quality: 97, chromaSubsampling: '4:4:4' }).toBuffer()
    case 'crushed':
      return made.jpeg({ quality: 6 }).toBuffer()
    case 'enlarged':
      return sharp(await made.resize({ width: 84 }).png().toBuffer()).resize({ width: 420, height: 540, fit: 'fill', kernel: 'cubic' })
        .jpeg({ quality: 96 }).toBuffer()
    default:
      return made.jpeg({ quality: 86 }).toBuffer()
  }
}

async function noise(random: Random): Promise<Buffer> {
  const data = Buffer.alloc(size.width * size.height)
  for (let i = 0; i < data.length; i += 1) data[i] = 118 + Math.floor(random.next() * 20)
  return sharp(data, { raw: { width: size.width, height: size.height, channels: 1 } }).png().toBuffer()
}

/** Where the person stands in the frame; the head's middle lies near 210, 250 before. */
function stance(random: Random, fault: PortraitFault): string {
  switch (fault) {
    case 'tilted':
      return `rotate(${random.pick([-1, 1]) * random.between(13, 22)} 210 330)`
    case 'small face':
      return 'translate(130 300) scale(0.38)'
    case 'off centre':
      return `translate(${random.pick([-1, 1]) * random.between(72, 100)} 0)`
    case 'crown cut':
      return `translate(0 ${-random.between(150, 175)})`
    case 'two faces':
      return 'translate(-42 130) scale(0.68)'
    default:
      return ''
  }
}

function portraitSvg(random: Random, fault: PortraitFault): string {
  const ground = fault === 'uneven background'
    ? 'url(#stripes)'
    : fault === 'coloured background'
    ? random.pick(loud)
    : random.pick(grounds)
  // A quarter of a person's width beside them, as a lamp from the other side throws it.
  const cast = fault === 'shadow on the wall'
    ? '<g transform="translate(90 26)" opacity="0.7" filter="url(#wide)"><ellipse cx="210" cy="240" rx="118" ry="150" fill="#4c4c52"/><rect x="60" y="400" width="330" height="160" fill="#4c4c52"/></g>'
    : ''
  const second = fault === 'two faces' ? `<g transform="translate(176 130) scale(0.68)">${bust(random, 'none', 'b')}</g>` : ''
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}"><defs>
    <pattern id="stripes" width="52" height="52" patternUnits="userSpaceOnUse" patternTransform="rotate(24)"><rect width="52" height="52" fill="#c9a26a"/><rect width="24" height="52" fill="#2f6f74"/></pattern>
    <filter id="soft"><feGaussianBlur stdDeviation="7"/></filter><filter id="fine"><feGaussianBlur stdDeviation="1.6"/></filter><filter id="wide"><feGaussianBlur stdDeviation="10"/></filter>
  </defs><rect width="100%" height="100%" fill="${ground}"/>${cast}<g transform="${stance(random, fault)}">${
    bust(random, fault, 'a')
  }</g>${second}</svg>`
}

/** Head and shoulders of one invented person. */
function bust(random: Random, fault: PortraitFault, id: string): string {
  const skin = random.pick(skins)
  const hair = random.pick(hairs)
  const [rx, ry] = [random.between(82, 100), random.between(114, 132)]
  const [cx, cy] = [210 + random.between(-6, 6), 250 + random.between(-10, 8)]
  const eyeY = cy - random.between(2, 10)
  const [iris, lids] = [fault === 'red eyes' ? '#d3201c' : random.pick(['#4a2f1b', '#3d5a4a', '#34506b', '#2a1d14']),
    random.between(8, 10.5)]
  const gap = rx * random.between(0.41, 0.48)
  const eyes = fault === 'eyes closed'
    ? [cx - gap, cx + gap].map(x => closedEye(x, eyeY, hair, skin))
    : [cx - gap, cx + gap].map(x => eye(iris, lids, x, eyeY, hair, fault === 'red eyes'))
  return `<defs><radialGradient id="face-${id}" cx="${random.between(0.38, 0.62)}" cy="0.38" r="0.75">
      <stop offset="0" stop-color="${skin}"/><stop offset="0.7" stop-color="${skin}"/><stop offset="1" stop-color="${
    shade(skin, 0.68)
  }"/></radialGradient>
    <linearGradient id="neck-${id}" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${
    shade(skin, 0.62)
  }"/><stop offset="0.6" stop-color="${shade(skin, 0.9)}"/></linearGradient>
    <linearGradient id="cloth-${id}" x1="0" y1="0" x2="1" y2="1"><stop offset="0" stop-color="${
    random.pick(clothes)
  }"/><stop offset="1" stop-color="#1e2730"/></linearGradient></defs>
  <path d="M ${cx - 190} 760 C ${cx - 180} 440 ${cx - 110} 432 ${cx - 48} 412 L ${cx + 48} 412 C ${cx + 110} 432 ${cx + 180} 440 ${
    cx + 190
  } 760 Z" fill="url(#cloth-${id})"/>
  <path d="M ${cx - 46} ${cy + 70} L ${cx - 50} 428 Q ${cx} 460 ${cx + 50} 428 L ${cx + 46} ${cy + 70} Z" fill="url(#neck-${id})"/>
  ${collar(random, cx)}${hairBehind(random, hair, cx, cy, rx, ry)}
  <ellipse cx="${cx - rx}" cy="${cy + 8}" rx="13" ry="25" fill="${shade(skin, 0.85)}"/><ellipse cx="${cx + rx}" cy="${
    cy + 8
  }" rx="13" ry="25" fill="${shade(skin, 0.85)}"/>
  <ellipse cx="${cx}" cy="${cy}" rx="${rx}" ry="${ry}" fill="url(#face-${id})"/>
  <ellipse cx="${cx - gap}" cy="${cy + 42}" rx="26" ry="18" fill="${shade(skin, 1.1)}" opacity="0.35" filter="url(#soft)"/>
  <ellipse cx="${cx + gap}" cy="${cy + 42}" rx="26" ry="18" fill="${shade(skin, 1.1)}" opacity="0.35" filter="url(#soft)"/>
  ${eyes.join('')}
  <path d="M ${cx - 5} ${eyeY + 8} Q ${cx - 15} ${cy + 44} ${cx - 15} ${cy + 46} Q ${cx} ${cy + 58} ${cx + 15} ${
    cy + 46
  }" fill="none" stroke="${shade(skin, 0.6)}" stroke-width="3" filter="url(#fine)"/>
  <ellipse cx="${cx - 7}" cy="${cy + 48}" rx="4" ry="2.4" fill="${shade(skin, 0.4)}"/><ellipse cx="${cx + 7}" cy="${
    cy + 48
  }" rx="4" ry="2.4" fill="${shade(skin, 0.4)}"/>
  ${beard(random, hair, cx, cy)}${mouth(random, cx, cy + 80, skin)}
  ${hairFront(random, hair, cx, cy, rx, ry)}
  ${fault === 'sunglasses' ? glasses(cx, eyeY, gap, '#101214', 0.97) : random.chance(0.15) ? glasses(cx, eyeY, gap, 'none', 0) : ''}`
}

function eye(iris: string, open: number, x: number, y: number, hair: string, red: boolean): string {
  return `<ellipse cx="${x}" cy="${y}" rx="21" ry="${open + 5}" fill="#000" opacity="0.13" filter="url(#fine)"/>
  <ellipse cx="${x}" cy="${y}" rx="18" ry="${open}" fill="#f6f3ee"/><circle cx="${x}" cy="${y}" r="8.4" fill="${iris}"/>
  <circle cx="${x}" cy="${y}" r="${red ? 6 : 4}" fill="${red ? '#ff2a22' : '#0b0b0b'}"/><circle cx="${x + 2.6}" cy="${
    y - 2.8
  }" r="1.7" fill="#fff"/>
  <path d="M ${x - 20} ${y - 2} Q ${x} ${y - open * 1.9} ${x + 20} ${y - 2}" fill="none" stroke="#1b1411" stroke-width="3.2"/>${
    brow(x, y, hair)
  }`
}

function closedEye(x: number, y: number, hair: string, skin: string): string {
  return `<ellipse cx="${x}" cy="${y}" rx="20" ry="10" fill="${shade(skin, 0.88)}" filter="url(#fine)"/>
  <path d="M ${x - 19} ${y + 3} Q ${x} ${y + 11} ${x + 19} ${y + 3}" fill="none" stroke="#1b1411" stroke-width="3.4"/>${brow(x, y, hair)}`
}

const brow = (x: number, y: number, hair: string) =>
  `<path d="M ${x - 24} ${y - 22} Q ${x} ${y - 33} ${x + 24} ${
    y - 22
  }" fill="none" stroke="${hair}" stroke-width="6.5" stroke-linecap="round"/>`

function glasses(cx: number, y: number, gap: number, fill: string, opacity: number): string {
  const [half, rim] = [fill === 'none' ? 29 : 38, fill === 'none' ? 2.6 : 5]
  return [cx - gap, cx + gap].map(x =>
    `<rect x="${x - half}" y="${y - half * 0.62}" width="${2 * half}" height="${half * 1.3}" rx="${
      half * 0.5
    }" fill="${fill}" fill-opacity="${opacity}" stroke="#22252b" stroke-width="${rim}"/>`
  ).join('')
    + `<path d="M ${cx - gap + half} ${y} L ${cx + gap - half} ${y}" stroke="#22252b" stroke-width="${rim}"/>`
}

function collar(random: Random, cx: number): string {
  if (!random.chance(0.5)) return ''
  const colour = random.pick(['#e9e6df', '#c9d4dc', '#3a3f47', '#7b2f35'])
  return `<path d="M ${cx - 62} 420 L ${cx} 520 L ${cx + 62} 420 L ${cx + 92} 446 L ${cx} 600 L ${cx - 92} 446 Z" fill="${colour}"/>`
}

function beard(random: Random, hair: string, cx: number, cy: number): string {
  if (!random.chance(0.22)) return ''
  const deep = random.between(104, 118)
  return `<path d="M ${cx - 66} ${cy + 52} Q ${cx - 58} ${cy + deep + 22} ${cx} ${cy + deep + 16} Q ${cx + 58} ${cy + deep + 22} ${
    cx + 66
  } ${cy + 52} Q ${cx + 40} ${cy + 66} ${cx} ${cy + 62} Q ${cx - 40} ${cy + 66} ${cx - 66} ${
    cy + 52
  } Z" fill="${hair}" opacity="0.82" filter="url(#fine)"/>`
}

function mouth(random: Random, x: number, y: number, skin: string): string {
  const wide = random.between(26, 34)
  const bow = random.between(2, 7)
  return `<path d="M ${x - wide} ${y} Q ${x - 10} ${y - 9} ${x} ${y - 5} Q ${x + 10} ${y - 9} ${x + wide} ${y} Q ${x} ${y + 15 + bow} ${
    x - wide
  } ${y}" fill="#a8554f" opacity="0.85"/>
  <path d="M ${x - wide} ${y} Q ${x} ${y + bow} ${x + wide} ${y}" fill="none" stroke="#5a2624" stroke-width="2.4"/>
  <ellipse cx="${x}" cy="${y + 26}" rx="20" ry="6" fill="${shade(skin, 0.75)}" opacity="0.6" filter="url(#soft)"/>`
}

function hairBehind(random: Random, hair: string, cx: number, cy: number, rx: number, ry: number): string {
  if (!random.chance(0.45)) return ''
  const long = random.between(60, 150)
  return `<path d="M ${cx - rx - 18} ${cy - 20} Q ${cx - rx - 34} ${cy + long} ${cx - rx + 10} ${cy + long + 10} L ${cx + rx - 10} ${
    cy + long + 10
  } Q ${cx + rx + 34} ${cy + long} ${cx + rx + 18} ${cy - 20} Q ${cx} ${cy - ry * 1.7} ${cx - rx - 18} ${cy - 20}" fill="${
    shade(hair, 0.85)
  }"/>`
}

function hairFront(random: Random, hair: string, cx: number, cy: number, rx: number, ry: number): string {
  const line = cy - ry * random.between(0.5, 0.62)
  // A cubic curve reaches three quarters of the way to its handles: they lie so that the hair covers the crown.
  const top = cy + 6 - (ry + random.between(8, 20)) / 0.75
  const part = random.between(-40, 40)
  return `<path d="M ${cx - rx - 7} ${cy - 18} C ${cx - rx - 12} ${top} ${cx + rx + 12} ${top} ${cx + rx + 7} ${cy - 18} C ${
    cx + rx - 4
  } ${line} ${cx + part + 30} ${line - 12} ${cx + part} ${line} C ${cx + part - 30} ${line - 4} ${cx - rx + 6} ${line + 4} ${cx - rx - 7} ${
    cy - 18
  } Z" fill="${hair}"/>`
}

/** Sea, shore and a lighthouse: a picture, but of nobody. */
function coastSvg(random: Random): string {
  const [shore, tower] = [random.between(300, 400), random.between(90, 330)]
  const boats = Array.from({ length: random.whole(1, 4) }, () => [random.between(20, 400), random.between(shore - 70, shore - 20)] as const)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}"><rect width="420" height="540" fill="${
    random.pick(['#dfe9ef', '#cfdde6', '#f0e6d4'])
  }"/>
  <rect y="${shore - 90}" width="420" height="150" fill="${random.pick(['#3f6f86', '#2e5a70', '#5b8a8f'])}"/>
  ${
    boats.map(([x, y]) =>
      `<path d="M ${x - 14} ${y} L ${x + 14} ${y} L ${x + 8} ${y + 8} L ${x - 8} ${y + 8} Z M ${x} ${y - 26} L ${x + 12} ${y - 4} L ${x} ${
        y - 4
      } Z" fill="#f4f1ea"/>`
    ).join('')
  }
  <path d="M 0 ${shore} Q 140 ${shore - 40} 420 ${shore + 20} L 420 540 L 0 540 Z" fill="${
    random.pick(['#7d8b5a', '#a08a62', '#6d7466'])
  }"/>
  <path d="M ${tower - 22} ${shore + 20} L ${tower - 13} ${shore - 190} L ${tower + 13} ${shore - 190} L ${tower + 22} ${
    shore + 20
  } Z" fill="#efece5"/>
  ${[0, 1, 2].map(i => `<rect x="${tower - 17}" y="${shore - 150 + i * 60}" width="34" height="26" fill="#a63d33"/>`).join('')}
  <rect x="${tower - 15}" y="${shore - 214}" width="30" height="24" fill="#2b3440"/></svg>`
}

function shade(colour: string, factor: number): string {
  const parts = [1, 3, 5].map(i => Math.min(255, Math.round(Number.parseInt(colour.slice(i, i + 2), 16) * factor)))
  return `#${parts.map(part => part.toString(16).padStart(2, '0')).join('')}`
}
