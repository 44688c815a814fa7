import { z } from 'zod'
import { permit } from './acts'

/** A question to the office; `about` is a part of the form, or empty for the whole. */
export const askSchema = z.strictObject({ ...permit, about: z.string().max(60).default(''), text: z.string().trim().min(5).max(2000) })
export const answerQuestionSchema = z.strictObject({ ...permit, text: z.string().trim().min(2).max(4000) })
export const questionListSchema = z.object({ which: z.enum(['all', 'mine', 'free']).default('all'), after: z.string().max(100).optional() })

/** A question with its answer, null while nobody has answered. `by` is the name of whoever asked. */
export interface QuestionView {
  id: string
  about: string
  text: string
  by: string
  at: string
  dueAt: string
  answer: { text: string, by: string, at: string } | null
}
/** The same for the desk: whose it is, and who has it in hand. */
export interface WaitingQuestion extends QuestionView {
  applicationId: string
  number: string
  name: string
  holder: string | null
  isMine: boolean
}
export interface QuestionPage {
  rows: WaitingQuestion[]
  next: string | null
}
