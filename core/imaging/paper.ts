/** Ink on paper: the paper's level wherever the light falls unevenly, and the pieces that ink falls into. */
const block = 24

/** Level of the paper at every place: the bright end of each block, smoothed over its neighbours and between blocks. */
export function paperLevels(luma: Float32Array, width: number, height: number) {
  const [columns, rows] = [Math.max(1, Math.ceil(width / block)), Math.max(1, Math.ceil(height / block))]
  const bright = Array.from({ length: columns * rows }, (_, i) => brightEnd(luma, width, height, i % columns, Math.floor(i / columns)))
  const smooth = bright.map((_, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)]
    const near: number[] = []
    for (let r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r += 1) for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c += 1) near.push(bright[r * columns + c] ?? 0)
    return median(near)
  })
  const level = (c: number, r: number) => smooth[Math.min(rows - 1, Math.max(0, r)) * columns + Math.min(columns - 1, Math.max(0, c))] ?? 255
  const line = new Float32Array(width)
  let [left, right] = [255, 255]
  /** Levels along one row of pixels, written over each time. */
  const along = (y: number): Float32Array => {
    const v = y / block - 0.5
    const r = Math.floor(v)
    for (let x = 0; x < width; x += 1) {
      const u = x / block - 0.5
      const c = Math.floor(u)
      if (x === 0 || c !== Math.floor((x - 1) / block - 0.5)) {
        left = level(c, r) * (1 - v + r) + level(c, r + 1) * (v - r)
        right = level(c + 1, r) * (1 - v + r) + level(c + 1, r + 1) * (v - r)
      }
      line[x] = left * (1 - u + c) + right * (u - c)
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
  for (let y = 0, i = 0; y < height; y += 1) {
    const paper = along(y)
    for (let x = 0; x < width; x += 1, i += 1) {
      const white = paper[x]!
      const lit = luma[i]! * 235 / (white > 60 ? white : 60)
      even[i] = lit < 255 ? lit : 255
    }
  }
  return { even, level, shade }
}

function brightEnd(luma: Float32Array, width: number, height: number, column: number, row: number): number {
  const levels = new Float32Array((Math.min(width, (column + 1) * block) - column * block) * (Math.min(height, (row + 1) * block) - row * block))
  let n = 0
  for (let y = row * block; y < Math.min(height, (row + 1) * block); y += 1) for (let x = column * block; x < Math.min(width, (column + 1) * block); x += 1) levels[n++] = luma[y * width + x] ?? 0
  levels.sort()
  return levels[Math.floor(levels.length * 0.9)] ?? 255
}

/** The middle one of values, of an even number the upper middle one; 0 of none. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 2)] ?? 0
}

/** One connected piece of ink and the box around it, all ends inclusive. */
export interface Piece { area: number, left: number, right: number, top: number, bottom: number }

/** Connected components with eight neighbours, by flooding each once. */
export function piecesOf(ink: Uint8Array, width: number, height: number): Piece[] {
  const seen = new Uint8Array(ink.length)
  const pieces: Piece[] = []
  const open: number[] = []
  for (let start = 0; start < ink.length; start += 1) {
    if (ink[start] === 0 || seen[start] === 1) continue
    const piece: Piece = { area: 0, left: width, right: -1, top: height, bottom: -1 }
    seen[start] = 1
    open.push(start)
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      const [x, y] = [at % width, Math.floor(at / width)]
      piece.area += 1
      piece.left = Math.min(piece.left, x)
      piece.right = Math.max(piece.right, x)
      piece.top = Math.min(piece.top, y)
      piece.bottom = Math.max(piece.bottom, y)
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny += 1) {
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx += 1) {
          const next = ny * width + nx
          if (ink[next] === 0 || seen[next] === 1) continue
          seen[next] = 1
          open.push(next)
        }
      }
    }
    pieces.push(piece)
  }
  return pieces
}
