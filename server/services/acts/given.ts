/** What somebody says who asks for an act, besides what the act itself needs. */
export interface Given {
  /** Why, in words; some acts need it. */
  reason?: string
  /** The person knows that the notice's dates stand against it, and gives the reason for going on. */
  outsideDates?: boolean
  /** What the act was asked with, kept for the second person who confirms it. */
  input?: Record<string, unknown>
  /** What a request that is sent again is answered, where it says so by its number. */
  again?: { result: unknown }
  /** Set when a second person confirms. */
  confirmed?: { proposal: string, by: string }
}
