import type { RefusalReason } from '../refusal/codes'
import { takenAtMost } from './picture'

/** Bounds that protect the office, not the notice's: why a file of this many bytes is not taken. */
export function tooManyBytes(bytes: number): RefusalReason {
  return {
    code: 'picture.bytes',
    parameters: {
      megabytes: (bytes / 1024 / 1024).toFixed(1),
      bytes: bytes.toLocaleString('en-GB'),
      most: takenAtMost.bytes / 1024 / 1024,
    },
  }
}

/** Why a picture of this size is not taken. */
export function tooManyPixels(width: number, height: number): RefusalReason {
  return {
    code: 'picture.pixels',
    parameters: { width, height, millions: (width * height / 1e6).toFixed(0), most: takenAtMost.pixels / 1e6 },
  }
}
