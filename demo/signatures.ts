import sharp from 'sharp'
import { drawPortrait } from './portraits'
import type { Random } from './random'

/** Faults that signatures of the demo may have; `none` for a good one. */
export const signatureFaults = ['none', 'blank', 'faint', 'scribbled block', 'tiny', 'cut off', 'print', 'portrait'] as const
export type SignatureFault = typeof signatureFaults[number]

/** A made-up signature of pen strokes on paper, as JPEG. */
export async function drawSignature(random: Random, fault: SignatureFault): Promise<Buffer> {
  if (fault === 'portrait') {
    return sharp(await drawPortrait(random, 'none')).resize(420, 150, { fit: 'cover' }).jpeg({ quality: 90 }).toBuffer()
  }
  const ink = fault === 'faint' ? '#cfcfd4' : random.pick(['#16203a', '#101418', '#1c2f6b'])
  const strokes = fault === 'blank'
    ? ''
    : fault === 'scribbled block'
    ? block(random, ink)
    : fault === 'print'
    ? print(random, ink)
    : pen(random, ink, fault === 'tiny' ? 0.14 : 1, fault === 'cut off' ? -120 : 0)
  const svg =
    `<svg xmlns="http://www.w3.org/2000/svg" width="420" height="150"><rect width="100%" height="100%" fill="#fcfbf8"/>${strokes}</svg>`
  return sharp(Buffer.from(svg)).jpeg({ quality: 90 }).toBuffer()
}

/** Lines of small marks, as a page of text looks from afar. */
function print(random: Random, ink: string): string {
  const marks: string[] = []
  for (let y = 18; y < 140; y += 17) {
    for (let x = 20; x < 400; x += 9) {
      if (random.chance(0.85)) {
        marks
          .push(`<rect x="${x}" y="${y - random.whole(0, 3)}" width="${random.whole(3, 6)}" height="${random.whole(6, 9)}" fill="${ink}"/>`)
      }
    }
  }
  return marks.join('')
}

function pen(random: Random, ink: string, scale: number, shift = 0): string {
  const [loops, width] = [random.whole(5, 9), random.between(2.6, 4.2)]
  const step = 320 / loops
  let path = `M 45 ${random.between(70, 110)}`
  for (let i = 0; i < loops; i += 1) {
    const x = 45 + step * (i + 1)
    path += ` C ${x - step} ${random.between(10, 60)} ${x - step * 0.2} ${random.between(20, 60)} ${x - step * 0.4} ${
      random.between(80, 125)
    } S ${x - step * 0.1} ${random.between(60, 110)} ${x} ${random.between(55, 100)}`
  }
  const under = random.chance(0.5)
    ? `<path d="M 70 128 Q 200 ${random.between(112, 140)} 340 ${random.between(112, 126)}" fill="none" stroke="${ink}" stroke-width="${
      width * 0.8
    }"/>`
    : ''
  // Lower than it is wide: the loops swing beyond their ends, and the whole must lie on the paper.
  return `<g transform="translate(${(scale < 1 ? 20 : 0) + shift} ${scale < 1 ? 20 : 16}) scale(${scale} ${
    scale * 0.7
  })"><path d="${path}" fill="none" stroke="${ink}" stroke-width="${width}" stroke-linecap="round"/>${under}</g>`
}

function block(random: Random, ink: string): string {
  return Array.from(
    { length: 60 },
    () =>
      `<path d="M ${random.between(40, 380)} ${random.between(15, 135)} L ${random.between(40, 380)} ${
        random.between(15, 135)
      }" stroke="${ink}" stroke-width="8"/>`,
  ).join('')
}
