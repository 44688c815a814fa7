import { readFileSync, writeFileSync } from 'node:fs'
import { pageShapes } from '../core/documents/page'
import { turnedCells, type Shape } from '../core/documents/shapes'
import { Random } from '../demo/random'
import { decodePage } from '../pictures/decode'
import { drawMadePage, pageKinds, takeMadePage, type Face } from './made-pages'

/**
 * Learns which way up letters lie: `npx tsx bench/train-letters.ts FACES.json [pages] [seed]` writes core/documents/shape-weights.ts.
 * FACES.json lists script and file of each face. Softmax over the four turns of a shape, cross entropy, Adam (D. Kingma, J. Ba, 2015; from
 * memory).
 */
const faces = JSON.parse(readFileSync(process.argv[2] ?? '', 'utf8')) as Face[]
const [pages, seed] = [Number(process.argv[3] ?? 600), Number(process.argv[4] ?? 1)]
const [side, hidden, rounds] = [12, 24, 6]
const cells = side * side
const shapes: Shape[] = []
const random = new Random(seed)
const started = performance.now()
for (let i = 0; i < pages; i += 1) {
  const face = faces[i % faces.length]
  if (!face) throw new Error('no faces')
  const kind = random.pick(pageKinds)
  const page = await takeMadePage(random, await drawMadePage(random, kind, face), 0)
  const found = pageShapes((await decodePage(page, 2000)).pixels)
  // Every page counts about as much as another.
  for (let k = 0; k < 200 && found.length > 0; k += 1) shapes.push(random.pick(found))
  if (i % 50 === 49) console.log(`${i + 1} pages, ${shapes.length} shapes, ${((performance.now() - started) / 1000).toFixed(0)} s`)
}

const weights = Float32Array.from({ length: hidden * cells }, () => (random.next() - 0.5) * 0.3)
const biases = new Float32Array(hidden).fill(0.01)
const output = Float32Array.from({ length: hidden + 1 }, () => (random.next() - 0.5) * 0.5)
const parts = [weights, biases, output]
const first = parts.map(part => new Float32Array(part.length))
const second = parts.map(part => new Float32Array(part.length))
const slopes = parts.map(part => new Float32Array(part.length))
const batch = 64
let step = 0
const held = 20_000
const order = Uint32Array.from(shapes.keys())
for (let i = order.length - 1; i > 0; i -= 1) {
  const k = Math.floor(random.next() * (i + 1))
  ;[order[i], order[k]] = [order[k] ?? 0, order[i] ?? 0]
}
const learnt = order.length - Math.min(held, order.length >> 2)
const sums = Array.from({ length: 4 }, () => new Float32Array(hidden))
for (let round = 0; round < rounds; round += 1) {
  let [loss, right] = [0, 0]
  for (let at = 0; at < learnt; at += 1) {
    const result = forward(shapes[order[at] ?? 0] ?? new Float32Array(cells))
    loss -= Math.log(result[0] ?? 1)
    right += result[0] === Math.max(...result) ? 1 : 0
    backward(shapes[order[at] ?? 0] ?? new Float32Array(cells), result)
    if (at % batch === batch - 1) adam(0.003 * 0.6 ** round)
  }
  let [heldLoss, heldRight] = [0, 0]
  for (let at = learnt; at < order.length; at += 1) {
    const result = forward(shapes[order[at] ?? 0] ?? new Float32Array(cells))
    heldLoss -= Math.log(result[0] ?? 1)
    heldRight += result[0] === Math.max(...result) ? 1 : 0
  }
  const n = order.length - learnt
  console
    .log(`round ${round + 1}: loss ${(loss / learnt).toFixed(3)}, right ${(100 * right / learnt).toFixed(1)} %; kept apart ${
      (heldLoss / n).toFixed(3)
    }, ${(100 * heldRight / n).toFixed(1)} %`)
}
const scale = Math.max(...weights.map(Math.abs)) / 127
const bytes = Buffer.from(Int8Array.from(weights, weight => Math.round(weight / scale)).buffer).toString('base64')
const text = (bytes.match(/.{1,120}/g) ?? []).map(part => `  '${part}',`).join('\n')
const list = (values: Float32Array) => [...values].map(value => value.toFixed(3)).join(', ').replaceAll(/(.{1,110}), /g, '$1,\n  ')
writeFileSync(
  'core/documents/shape-weights.ts',
  `/** Made by bench/train-letters.ts; not written by hand. Cells along a side of a shape's square, and units of the hidden layer. */
export const side = ${side}
export const hidden = ${hidden}
/** Weights of each hidden unit for each cell, as signed bytes. */
const bytes = [
${text}
].join('')
export const weights = Float32Array.from(atob(bytes), letter => (letter.charCodeAt(0) << 24 >> 24) * ${scale.toPrecision(6)})
export const biases = Float32Array.of(
  ${list(biases)},
)
/** Of each hidden unit, and last the bias. */
export const output = Float32Array.of(
  ${list(output)},
)
`,
)

/** Shares of the four turns. */
function forward(shape: Shape): number[] {
  const scores = turnedCells.map((from, turn) => {
    let score = output[hidden] ?? 0
    for (let unit = 0; unit < hidden; unit += 1) {
      let sum = biases[unit]!
      for (let i = 0, at = unit * cells; i < cells; i += 1, at += 1) sum += weights[at]! * shape[from[i]!]!
      sums[turn]![unit] = sum
      if (sum > 0) score += sum * output[unit]!
    }
    return score
  })
  const most = Math.max(...scores)
  const shares = scores.map(score => Math.exp(score - most))
  const all = shares.reduce((sum, share) => sum + share, 0)
  return shares.map(share => share / all)
}

function backward(shape: Shape, shares: number[]): void {
  shares.forEach((share, turn) => {
    const error = share - (turn === 0 ? 1 : 0)
    const from = turnedCells[turn]!
    slopes[2]![hidden]! += error
    for (let unit = 0; unit < hidden; unit += 1) {
      const sum = sums[turn]![unit]!
      if (sum <= 0) continue
      slopes[2]![unit]! += error * sum
      const back = error * output[unit]!
      slopes[1]![unit]! += back
      for (let i = 0, at = unit * cells; i < cells; i += 1, at += 1) slopes[0]![at]! += back * shape[from[i]!]!
    }
  })
}

function adam(rate: number): void {
  step += 1
  parts.forEach((part, p) => {
    for (let i = 0; i < part.length; i += 1) {
      const slope = slopes[p]![i]! / batch + (p === 0 ? 1e-4 * part[i]! : 0)
      first[p]![i] = 0.9 * first[p]![i]! + 0.1 * slope
      second[p]![i] = 0.999 * second[p]![i]! + 0.001 * slope * slope
      part[i]! -= rate * (first[p]![i]! / (1 - 0.9 ** step)) / (Math.sqrt(second[p]![i]! / (1 - 0.999 ** step)) + 1e-8)
      slopes[p]![i] = 0
    }
  })
}
