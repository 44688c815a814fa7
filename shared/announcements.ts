import { z } from 'zod'
import { unknownPlaceholders } from '../core/application/announcement'
import { rosterFilterSchema } from './applications'

const text = (most: number) =>
  z.string().trim().min(1).max(most).refine(value => unknownPlaceholders(value).length === 0, {
    error: 'only {name}, {number} and {examination} in braces',
  })
/**
 * A letter to everybody who matches a question to the roster: tried, which tells whom it would reach, or sent. Its id is made once, so that
 * a letter sent again reaches nobody twice.
 */
export const announcementSchema = z.strictObject({
  id: z.uuid(),
  filter: rosterFilterSchema,
  subject: text(120),
  text: text(4000),
  mode: z.enum(['try', 'do']),
})
export type AnnouncementInput = z.infer<typeof announcementSchema>

/**
 * A letter that went to many; `reached` and `without` (an address) are counted once all are written down. `unread`: applications whose
 * people have not opened it here.
 */
export interface AnnouncementView {
  id: string
  subject: string
  text: string
  by: string
  at: string
  reached: number
  without: number
  isWhole: boolean
  unsent: number
  unread: number
}
