import type { Notice } from '../notice/schema'

/**
 * Whether an acceptance is one of those that a second person sees, by the notice's share of a hundred. It follows from the application's
 * own id, which nobody chooses, so that asking again gives the same answer.
 */
export function isSeenTwice(notice: Pick<Notice, 'scrutiny'>, applicationId: string): boolean {
  const share = notice.scrutiny?.acceptancesSeenTwice ?? 0
  return share > 0 && parseInt(applicationId.replaceAll('-', '').slice(-8), 16) % 100 < share
}
