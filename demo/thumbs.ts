import sharp from 'sharp'
import type { Random } from './random'

/** Faults that thumb impressions of the demo may have; `none` for a good one. */
export const thumbFaults = ['none', 'blank', 'smudged', 'no ridges', 'corner only'] as const
export type ThumbFault = typeof thumbFaults[number]

/** A made-up thumb impression: lines that bend round a core, on paper, as JPEG. No person's print. */
export async function drawThumb(random: Random, fault: ThumbFault): Promise<Buffer> {
  const ink = random.pick(['#26282e', '#2b2f63', '#3d3138'])
  const [cx, cy] = [150 + random.between(-12, 12), 205 + random.between(-15, 15)]
  const lean = random.between(-14, 14)
  const lines: string[] = []
  for (let r = 6; r < 150; r += random.between(7.6, 8.6)) {
    const bend = random.between(0.9, 1.1)
    lines
      .push(`<path d="M ${cx - r} ${cy + r * 1.5} C ${cx - r * 1.1} ${cy - r * 0.9 * bend} ${cx + r * 1.1} ${cy - r * 0.9 / bend} ${
        cx + r
      } ${cy + r * 1.5}" fill="none" stroke="${ink}" stroke-width="${random.between(3.4, 4.4)}"/>`)
  }
  const pad = `<clipPath id="pad"><ellipse cx="150" cy="200" rx="112" ry="150"/></clipPath>`
  const print = fault === 'blank' ? '' : fault === 'no ridges'
    ? `<ellipse cx="150" cy="200" rx="108" ry="146" fill="${ink}" opacity="0.5" filter="url(#grain)"/>`
    : `<g clip-path="url(#pad)" transform="rotate(${lean} 150 200)${fault === 'corner only' ? ' translate(16 20) scale(0.16)' : ''}">${
      lines.join('')
    }</g>`
  const slip = fault === 'smudged'
    ? `<ellipse cx="${150 + random.between(-10, 10)}" cy="215" rx="96" ry="112" fill="${ink}" opacity="0.93"/>`
    : ''
  const svg =
    `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="400"><defs>${pad}<filter id="grain"><feTurbulence type="turbulence" baseFrequency="0.6" seed="${
      random.whole(1, 99)
    }"/><feComposite in2="SourceGraphic" operator="in"/></filter></defs>
  <rect width="100%" height="100%" fill="#f8f6f0"/>${print}${slip}</svg>`
  return sharp(Buffer.from(svg)).jpeg({ quality: 90 }).toBuffer()
}
