import type { Point, RgbPixels } from './pixels'
import type { Turn } from './upright'

/** Where the new picture is cut from the old: its middle, size and angle in pixels of the old one, already turned. */
export interface Frame {
  turn: Turn
  centre: Point
  width: number
  height: number
  /** Clockwise, degrees. */
  angle: number
}

/** Size of the picture to be made. */
export interface Size {
  width: number
  height: number
}

/** Where places of the (turned) picture come to lie on what is cut out of it, and the way back. */
export function throughFrame(
  { centre, width, height, angle }: Frame,
  size: Size,
): { onto: (place: Point) => Point, back: (place: Point) => Point, /** Size there of what is one pixel here. */ times: number } {
  const [cos, sin] = [Math.cos(angle * Math.PI / 180), Math.sin(angle * Math.PI / 180)]
  const [timesX, timesY] = [size.width / width, size.height / height]
  return {
    times: timesX,
    onto: ({ x, y }) => {
      const [u, v] = [x - centre.x, y - centre.y]
      return { x: (u * cos + v * sin) * timesX + size.width / 2, y: (v * cos - u * sin) * timesY + size.height / 2 }
    },
    back: ({ x, y }) => {
      const [u, v] = [(x - size.width / 2) / timesX, (y - size.height / 2) / timesY]
      return { x: centre.x + u * cos - v * sin, y: centre.y + u * sin + v * cos }
    },
  }
}

/** The same frame in pixels of the picture before it was turned. */
function asItLay(frame: Frame, { width, height }: Size): Frame {
  const { x, y } = frame.centre
  const centre = frame.turn === 90
    ? { x: y, y: height - x }
    : frame.turn === 180
    ? { x: width - x, y: height - y }
    : frame.turn === 270
    ? { x: width - y, y: x }
    : frame.centre
  return { ...frame, centre, angle: frame.angle - frame.turn, turn: 0 }
}

/** The frame on a picture `times` as large. */
export const enlarged = (frame: Frame, times: number): Frame => ({
  ...frame,
  centre: { x: frame.centre.x * times, y: frame.centre.y * times },
  width: frame.width * times,
  height: frame.height * times,
})

/**
 * Cuts the frame out of the turned picture and brings it to a size. Each new pixel is the mean of the old ones that it covers, so
 * that a much larger picture loses nothing but size. Beyond the edge the nearest pixel of the edge is continued.
 */
export function cut(pixels: RgbPixels, turnedFrame: Frame, size: Size): RgbPixels {
  const { width, height, data } = pixels
  const frame = asItLay(turnedFrame, pixels)
  const made = new Uint8Array(size.width * size.height * 3)
  const [stepX, stepY] = [frame.width / size.width, frame.height / size.height]
  // As many samples across a new pixel as it covers old ones, one at least.
  const [across, down] = [Math.max(1, Math.min(16, Math.round(stepX))), Math.max(1, Math.min(16, Math.round(stepY)))]
  const [cos, sin] = [Math.cos(frame.angle * Math.PI / 180), Math.sin(frame.angle * Math.PI / 180)]
  const sum = new Float64Array(3)
  for (let y = 0; y < size.height; y += 1) {
    for (let x = 0; x < size.width; x += 1) {
      sum.fill(0)
      for (let j = 0; j < down; j += 1) {
        for (let i = 0; i < across; i += 1) {
          const u = (x + (i + 0.5) / across) * stepX - frame.width / 2
          const v = (y + (j + 0.5) / down) * stepY - frame.height / 2
          addSample(data, width, height, frame.centre.x + u * cos - v * sin - 0.5, frame.centre.y + u * sin + v * cos - 0.5, sum)
        }
      }
      const to = (y * size.width + x) * 3
      for (let c = 0; c < 3; c += 1) made[to + c] = Math.round((sum[c] ?? 0) / (across * down))
    }
  }
  return { width: size.width, height: size.height, data: made }
}

/** Adds the colour at a place between pixels, by the four around it. */
function addSample(data: Uint8Array, width: number, height: number, x: number, y: number, sum: Float64Array): void {
  const [cx, cy] = [Math.min(width - 1, Math.max(0, x)), Math.min(height - 1, Math.max(0, y))]
  const [left, top] = [Math.floor(cx), Math.floor(cy)]
  const [right, bottom] = [Math.min(width - 1, left + 1), Math.min(height - 1, top + 1)]
  const [u, v] = [cx - left, cy - top]
  for (let c = 0; c < 3; c += 1) {
    const upper = data[(top * width + left) * 3 + c]! * (1 - u) + data[(top * width + right) * 3 + c]! * u
    const lower = data[(bottom * width + left) * 3 + c]! * (1 - u) + data[(bottom * width + right) * 3 + c]! * u
    sum[c]! += upper * (1 - v) + lower * v
  }
}

/** The picture turned clockwise. */
export function turned(pixels: RgbPixels, turn: Turn): RgbPixels {
  if (turn === 0) return pixels
  const { width, height, data } = pixels
  const [w, h] = turn === 180 ? [width, height] : [height, width]
  const made = new Uint8Array(data.length)
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const [tx, ty] = turn === 90 ? [height - 1 - y, x] : turn === 180 ? [width - 1 - x, height - 1 - y] : [y, width - 1 - x]
      const [from, to] = [(y * width + x) * 3, (ty * w + tx) * 3]
      made[to] = data[from] ?? 0
      made[to + 1] = data[from + 1] ?? 0
      made[to + 2] = data[from + 2] ?? 0
    }
  }
  return { width: w, height: h, data: made }
}
