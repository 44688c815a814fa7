import type { ContainerFacts } from './container'
import type { FacesSeen } from './face'
import type { RgbPixels } from './pixels'

/** Facts of the container; width and height are those after the orientation flag has been applied. */
export type ImageFacts = ContainerFacts

/** A decoded picture, ready to be measured. */
export interface Picture {
  facts: ImageFacts
  /** Upright by its flag, longest side at most `measuredSide`. */
  pixels: RgbPixels
  /** Native pixels from the middle, `detailSide` wide and high or less, cut on the grid of blocks; absent where they were not read. */
  detail?: RgbPixels
  /** What a face detector saw on `pixels`; absent while none was asked. */
  seen?: FacesSeen
}

/** What is taken at the door, by browser and office alike; a notice's own limits are findings, these protect whoever decodes. */
export const takenAtMost = { bytes: 20 * 1024 * 1024, pixels: 40_000_000 }

/** Longest side up to which native pixels are read besides: a larger picture is shrunk before anybody sees it. */
export const detailLimit = 1600

/** Longest side, in pixels, of the copy that is measured. Bounds of sharpness in a notice refer to this size. */
export const measuredSide = 512
