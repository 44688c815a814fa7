import type { Finding, Verdict } from '../finding/finding'

/** What keeps a case from being plain, the heaviest first. `answered`: it came back after a return or correction. */
export const doubts = ['duplicate', 'answered', 'rules', 'person', 'files', 'requests', 'claims'] as const
export type Doubt = typeof doubts[number]

/**
 * The queues of scrutiny in the order in which they are shown and handed out; `second look` holds what somebody has decided and another has
 * to confirm; `elsewhere` what waits for the answer of a desk, and is handed to nobody. */
export const lanes = ['second look', ...doubts, 'plain', 'elsewhere'] as const
export type Lane = typeof lanes[number]

/** What the machine has found about one case. */
export interface CaseFacts {
  /** Verdicts on the posts that it is for. */
  verdicts: readonly Verdict[]
  /** On all files that count. */
  fileFindings: readonly Finding[]
  personDoubts: number
  /** Claims that nobody has ruled on. */
  openClaims: number
  /** Requests that nobody has decided on. */
  openRequests: number
  openPairs: number
  /** It was decided on before, and waits again. */
  isBack: boolean
  /** A desk was asked and has not answered. */
  isElsewhere: boolean
}

/** Everything that is doubtful about a case, the heaviest first; a plain case has none. */
export function doubtsOf({ verdicts, fileFindings, personDoubts, openClaims, openRequests, openPairs, isBack }: Omit<
  CaseFacts,
  'isElsewhere'
>): Doubt[] {
  const holds: Record<Doubt, boolean> = {
    duplicate: openPairs > 0,
    answered: isBack,
    rules: verdicts.some(v => v !== 'pass'),
    person: personDoubts > 0,
    files: fileFindings.some(f => f.verdict !== 'pass'),
    requests: openRequests > 0,
    claims: openClaims > 0,
  }
  return doubts.filter(doubt => holds[doubt])
}

/** The queue that a case stands in: that of its heaviest doubt. */
export const laneOf = (found: readonly Doubt[], { isElsewhere }: Pick<CaseFacts, 'isElsewhere'>): Exclude<Lane, 'second look'> =>
  isElsewhere ? 'elsewhere' : found[0] ?? 'plain'
