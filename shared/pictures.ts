import { z } from 'zod'
import { pagesAtMost } from '../core/documents/document'

const percent = z.number().min(0).max(1000)
const count = z.int().min(1).max(pagesAtMost)
const pixels = z.int().min(1).max(40_000)

/** What was done to a picture before it was sent; the types are those of core's `Edit`. */
export const editSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('turned'), degrees: z.literal([90, 180, 270]) }),
  z.strictObject({ kind: z.literal('straightened'), degrees: z.number().min(-180).max(180) }),
  z.strictObject({ kind: z.literal('cropped'), kept: percent }),
  z.strictObject({ kind: z.literal('wall continued'), share: percent }),
  z.strictObject({ kind: z.literal('scaled'), width: pixels, height: pixels }),
  z.strictObject({ kind: z.literal('wall evened'), share: percent, most: percent }),
  z.strictObject({ kind: z.literal('paper whitened'), most: percent }),
  z.strictObject({ kind: z.literal('put together'), pages: count, files: count }),
  z.strictObject({ kind: z.literal('page turned'), page: count, degrees: z.literal([90, 180, 270]) }),
  z.strictObject({ kind: z.literal('page straightened'), page: count, degrees: z.number().min(-45).max(45) }),
  z.strictObject({ kind: z.literal('pages redrawn'), pages: count }),
  z.strictObject({ kind: z.literal('given up'), rules: z.int().min(1).max(60) }),
  z.strictObject({ kind: z.literal('compressed'), quality: z.int().min(1).max(100), bytes: z.int().min(0) }),
])

/** What a browser says of the picture that it sends: what was done to it, and what it found, by code. */
export const uploadNoteSchema = z.strictObject({
  edits: z.array(editSchema).max(60),
  verdicts: z.record(z.string().max(60), z.enum(['pass', 'fail', 'unsure'])),
  /** Of somebody who acts outside the dates of the notice: why. */
  given: z.strictObject({ reason: z.string().trim().max(1000), outsideDates: z.literal(true).optional() }).optional(),
})
export type UploadNote = z.infer<typeof uploadNoteSchema>
