import { z } from 'zod'
import type { Answers } from '../core/application/answers'

/** A form that the same account has handed in before, with what of it may stand in the draft that is being written. */
export interface EarlierForm {
  id: string
  number: string
  name: string
  /** The examination. */
  title: string
  submittedAt: string
  answers: Answers
  /** The slots whose files this examination asks for as well. */
  files: string[]
}

/** A file of an earlier form that is to be used again. */
export const earlierFileSchema = z.strictObject({ from: z.uuid(), slot: z.string().min(1).max(60) })
export type EarlierFile = z.infer<typeof earlierFileSchema>
