/**
 * Where an application stands: five tracks that move independently, and the headline derived from them. Every screen,
 * count and export uses `headline`, so no two can disagree.
 */
export const formStates = ['drafting', 'submitted', 'correcting', 'withdrawn', 'lapsed'] as const
export const feeStates = ['not assessed', 'nothing due', 'due', 'confirming', 'settled', 'refund due'] as const
export const scrutinyStates = ['not started', 'waiting', 'returned', 'accepted', 'refused'] as const
export const placementStates = ['unplaced', 'placed', 'published', 'moved'] as const
export const cardStates = ['not issued', 'withheld', 'issued', 'replaced'] as const

export interface Tracks {
  form: typeof formStates[number]
  fee: typeof feeStates[number]
  scrutiny: typeof scrutinyStates[number]
  placement: typeof placementStates[number]
  card: typeof cardStates[number]
}

/** The points of the flow in their order; the band shows the count of applications at each. */
export const bandPoints = [
  'drafting',
  'fee due',
  'in scrutiny',
  'returned',
  'accepted',
  'placed',
  'card issued',
] as const
export const closedPoints = ['refused', 'withdrawn', 'lapsed'] as const
export type Headline = typeof bandPoints[number] | typeof closedPoints[number]
export const headlines: readonly Headline[] = [...bandPoints, ...closedPoints]

/** The one word that stands for all five tracks. Total: every combination has exactly one headline. */
export function headline(tracks: Tracks): Headline {
  if (tracks.form === 'withdrawn' || tracks.form === 'lapsed') return tracks.form
  if (tracks.scrutiny === 'refused') return 'refused'
  if (tracks.form === 'drafting') return 'drafting'
  if (tracks.scrutiny === 'returned' || tracks.form === 'correcting') return 'returned'
  if (tracks.card === 'issued' || tracks.card === 'replaced') return 'card issued'
  if (tracks.placement === 'published' || tracks.placement === 'moved') return 'placed'
  if (tracks.scrutiny === 'accepted') return 'accepted'
  return isFeeClear(tracks.fee) ? 'in scrutiny' : 'fee due'
}

/** Whether the fee no longer keeps an application from moving on. */
export function isFeeClear(fee: Tracks['fee']): boolean {
  return fee === 'settled' || fee === 'nothing due' || fee === 'refund due'
}

export const newTracks: Tracks = {
  form: 'drafting',
  fee: 'not assessed',
  scrutiny: 'not started',
  placement: 'unplaced',
  card: 'not issued',
}
