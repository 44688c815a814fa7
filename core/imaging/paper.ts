/** Ink on paper: the paper's level wherever the light falls unevenly, and the pieces that ink falls into. */
const block = 24

/** Level of the paper at every place: the bright end of each block, smoothed over its neighbours and between blocks. */
export function paperLevels(luma: Float32Array, width: number, height: number) {
  const [columns, rows] = [Math.max(1, Math.ceil(width / block)), Math.max(1, Math.ceil(height / block))]
  const bright = Array.from({ length: columns * rows }, (_, i) => brightEnd(luma, width, height, i % columns, Math.floor(i / columns)))
  const smooth = bright.map((_, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)]
    const near: number[] = []
    for (let r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r += 1) {
      for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c += 1) {
        near.push(bright[r * columns + c] ?? 0)
      }
    }
    return median(near)
  })
  const level = (c: number, r: number) =>
    smooth[Math.min(rows - 1, Math.max(0, r)) * columns + Math.min(columns - 1, Math.max(0, c))] ?? 255
  const line = new Float32Array(width)
  /** Levels along one row of pixels, written over each time. */
  const along = (y: number): Float32Array => {
    const v = y / block - 0.5
    const r = Math.floor(v)
    const middle = (c: number) => level(c, r) * (1 - v + r) + level(c, r + 1) * (v - r)
    // From the middle of one block to the middle of the next the level is a straight line.
    let from = middle(-1)
    for (let c = 0, x = 0; x < width; c += 1) {
      const [to, end] = [middle(c), Math.min(width, c * block + block / 2)]
      ramp(line, x, end, from + (to - from) * (x / block + 0.5 - c), (to - from) / block)
      x = end
      from = to
    }
    return line
  }
  const [least, most] = [Math.min(...smooth), Math.max(...smooth)]
  return { along, level: median(smooth), shade: 100 * (most - least) / Math.max(1, most) }
}

/** Luma as on paper that is equally light everywhere: white at 235, 0 to 255. With it what the paper was like. */
export function evenedLuma(luma: Float32Array, width: number, height: number): { even: Float32Array, level: number, shade: number } {
  const { along, level, shade } = paperLevels(luma, width, height)
  const even = new Float32Array(luma.length)
  for (let y = 0; y < height; y += 1) {
    evenRow(luma.subarray(y * width, (y + 1) * width), even.subarray(y * width, (y + 1) * width), along(y))
  }
  return { even, level, shade }
}

// Loops over single pixels stand in functions of their own, over nothing but arrays of numbers: so they run two to three times as fast.
function ramp(line: Float32Array, start: number, end: number, from: number, step: number): void {
  for (let x = start, level = from; x < end; x += 1, level += step) line[x] = level
}

function evenRow(luma: Float32Array, even: Float32Array, paper: Float32Array): void {
  for (let x = 0; x < even.length; x += 1) {
    const white = paper[x]!
    const lit = luma[x]! * 235 / (white > 60 ? white : 60)
    even[x] = lit < 255 ? lit : 255
  }
}

/** Levels are told apart to a quarter: finer than the grain of any paper. */
const steps = 4

/** The level that nine in ten pixels of a block do not pass. */
function brightEnd(luma: Float32Array, width: number, height: number, column: number, row: number): number {
  const [right, bottom] = [Math.min(width, (column + 1) * block), Math.min(height, (row + 1) * block)]
  const histogram = new Uint16Array(256 * steps)
  for (let y = row * block; y < bottom; y += 1) {
    for (let i = y * width + column * block; i < y * width + right; i += 1) histogram[(luma[i]! * steps + 0.5) | 0]! += 1
  }
  let above = Math.ceil((right - column * block) * (bottom - row * block) * 0.1)
  let bin = histogram.length - 1
  for (; bin > 0 && (above -= histogram[bin]!) > 0; bin -= 1);
  return bin / steps
}

/** The middle one of values, of an even number the upper middle one; 0 of none. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 2)] ?? 0
}

/** One connected piece of ink and the box around it, all ends inclusive. */
export interface Piece {
  area: number
  left: number
  right: number
  top: number
  bottom: number
}

/** Connected components with eight neighbours, by flooding each once. */
export function piecesOf(ink: Uint8Array, width: number, height: number): Piece[] {
  // One byte a pixel: ink that no piece has taken yet. Without the edge of nothing around it each neighbour would need to be asked for.
  const wide = width + 2
  const free = new Uint8Array(wide * (height + 2))
  for (let y = 0; y < height; y += 1) free.set(ink.subarray(y * width, (y + 1) * width), (y + 1) * wide + 1)
  const around = [-wide - 1, -wide, -wide + 1, -1, 1, wide - 1, wide, wide + 1]
  const pieces: Piece[] = []
  const open: number[] = []
  for (let start = free.indexOf(1); start !== -1; start = free.indexOf(1, start + 1)) {
    const piece: Piece = { area: 0, left: width, right: -1, top: height, bottom: -1 }
    free[start] = 0
    open.push(start)
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      const [x, y] = [at % wide - 1, Math.floor(at / wide) - 1]
      piece.area += 1
      if (x < piece.left) piece.left = x
      if (x > piece.right) piece.right = x
      if (y < piece.top) piece.top = y
      if (y > piece.bottom) piece.bottom = y
      for (const step of around) {
        if (free[at + step] !== 1) continue
        free[at + step] = 0
        open.push(at + step)
      }
    }
    pieces.push(piece)
  }
  return pieces
}
