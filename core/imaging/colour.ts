/** CIE 1976 L*a*b* under D65, two-degree observer (CIE 15). */
export interface Lab {
  L: number
  a: number
  b: number
}

const white = { x: 0.3127 / 0.329, y: 1, z: (1 - 0.3127 - 0.329) / 0.329 }

/** L*a*b* of an sRGB colour (IEC 61966-2-1), channels from 0 to 255. */
export function labOf(red: number, green: number, blue: number): Lab {
  const [r, g, b] = [red, green, blue].map((channel) => {
    const c = channel / 255
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  const x = 0.4123908 * r + 0.3575843 * g + 0.1804808 * b
  const y = 0.212639 * r + 0.7151687 * g + 0.0721923 * b
  const z = 0.0193308 * r + 0.1191948 * g + 0.9505322 * b
  const f = (t: number) => t > (6 / 29) ** 3 ? Math.cbrt(t) : t / (3 * (6 / 29) ** 2) + 4 / 29
  const [fx, fy, fz] = [f(x / white.x), f(y / white.y), f(z / white.z)]
  return { L: 116 * fy - 16, a: 500 * (fx - fy), b: 200 * (fy - fz) }
}

const radians = (degrees: number) => degrees * Math.PI / 180
const pow7 = 25 ** 7

/**
 * Colour difference CIEDE2000 with all weights 1 (CIE 142-2001; steps and test pairs as in Sharma, Wu, Dalal, "The CIEDE2000
 * color-difference formula: implementation notes, supplementary test data, and mathematical observations", 2005). About 1 is just seen.
 */
export function deltaE2000(one: Lab, two: Lab): number {
  const chroma = (Math.hypot(one.a, one.b) + Math.hypot(two.a, two.b)) / 2
  const g = 0.5 * (1 - Math.sqrt(chroma ** 7 / (chroma ** 7 + pow7)))
  const [first, second] = [one, two].map(({ L, a, b }) => ({ L, C: Math.hypot((1 + g) * a, b), h: hueOf((1 + g) * a, b) })) as [Lch, Lch]
  const dL = second.L - first.L
  const dC = second.C - first.C
  const dh = hueDifference(first, second)
  const dH = 2 * Math.sqrt(first.C * second.C) * Math.sin(radians(dh / 2))
  const [L, C] = [(first.L + second.L) / 2, (first.C + second.C) / 2]
  const h = meanHue(first, second)
  const t = 1 - 0.17 * Math.cos(radians(h - 30)) + 0.24 * Math.cos(radians(2 * h)) + 0.32 * Math.cos(radians(3 * h + 6))
    - 0.2 * Math.cos(radians(4 * h - 63))
  const sL = 1 + 0.015 * (L - 50) ** 2 / Math.sqrt(20 + (L - 50) ** 2)
  const sC = 1 + 0.045 * C
  const sH = 1 + 0.015 * C * t
  const turn = -Math.sin(radians(60 * Math.exp(-(((h - 275) / 25) ** 2)))) * 2 * Math.sqrt(C ** 7 / (C ** 7 + pow7))
  return Math.sqrt((dL / sL) ** 2 + (dC / sC) ** 2 + (dH / sH) ** 2 + turn * (dC / sC) * (dH / sH))
}

interface Lch {
  L: number
  C: number
  h: number
}

function hueOf(a: number, b: number): number {
  if (a === 0 && b === 0) return 0
  const degrees = Math.atan2(b, a) * 180 / Math.PI
  return degrees < 0 ? degrees + 360 : degrees
}

function hueDifference(first: Lch, second: Lch): number {
  if (first.C * second.C === 0) return 0
  const dh = second.h - first.h
  return dh > 180 ? dh - 360 : dh < -180 ? dh + 360 : dh
}

function meanHue(first: Lch, second: Lch): number {
  const sum = first.h + second.h
  if (first.C * second.C === 0) return sum
  if (Math.abs(first.h - second.h) <= 180) return sum / 2
  return sum < 360 ? (sum + 360) / 2 : (sum - 360) / 2
}
