import { unless, all, holdsSeat, withoutCard, isPlaceable, underWay, nothing } from './guards'
import type { ActId, ActRule } from './rule'

/** The acts of seats and cards. */
export const seatActs = {
  'place': {
    permission: 'centres.run',
    refuse: unless(f => isPlaceable(f.tracks), 'place.not-placeable'),
    change: ({ tracks }) => tracks.placement === 'unplaced' ? { placement: 'placed' } : {},
  },
  'place-by-hand': {
    permission: 'centres.run',
    needsReason: true,
    takenBackBy: 'release-by-hand',
    refuse: unless(f => isPlaceable(f.tracks), 'place.not-placeable'),
  },
  'release-by-hand': { permission: 'centres.run', needsReason: true, refuse: nothing },
  'publish-seat': {
    permission: 'centres.publish',
    period: 'publication',
    takenBackBy: 'take-seat-back',
    isFinal: true,
    tells: true,
    refuse: unless(f => isPlaceable(f.tracks), 'place.not-placeable'),
    change: ({ tracks }) => ({ placement: holdsSeat(tracks) ? 'moved' : 'published', card: withoutCard(tracks) }),
  },
  'take-seat-back': {
    permission: 'centres.run',
    needsReason: true,
    tells: true,
    isFinal: true,
    refuse: unless(f => holdsSeat(f.tracks), 'act.no-seat'),
    change: ({ tracks }) => ({ placement: 'unplaced', card: withoutCard(tracks) }),
  },
  // Another chair in the same city and session, or the same chair at another hour: what was printed does not hold.
  'change-seat': {
    permission: 'centres.publish',
    isFinal: true,
    tells: true,
    refuse: unless(f => holdsSeat(f.tracks), 'act.no-seat'),
    change: ({ tracks }) => ({ placement: 'moved', card: withoutCard(tracks) }),
  },
  'issue-card': {
    permission: 'cards.issue',
    period: 'cards',
    takenBackBy: 'void-card',
    isFinal: true,
    tells: true,
    refuse: all(unless(f => holdsSeat(f.tracks), 'act.no-seat'), unless(f => !f.hasCard, 'act.card-held')),
    change: () => ({ card: 'issued' }),
  },
  'replace-card': {
    permission: 'cards.issue',
    period: 'cards',
    needsReason: true,
    takenBackBy: 'void-card',
    isFinal: true,
    tells: true,
    refuse: all(unless(f => f.hasCard, 'act.no-card'), unless(f => f.tracks.card !== 'withheld', 'act.card-held')),
    change: () => ({ card: 'replaced' }),
  },
  'void-card': {
    permission: 'cards.issue',
    needsReason: true,
    isFinal: true,
    tells: true,
    refuse: unless(f => f.hasCard, 'act.no-card'),
    change: () => ({ card: 'not issued' }),
  },
  'withhold-card': {
    permission: 'cards.issue',
    needsReason: true,
    takenBackBy: 'let-card-go',
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.card !== 'withheld', 'act.card-held')),
    change: () => ({ card: 'withheld' }),
  },
  'let-card-go': {
    permission: 'cards.issue',
    needsReason: true,
    tells: true,
    refuse: unless(f => f.tracks.card === 'withheld', 'act.not-withheld'),
    change: ({ hasCard }) => ({ card: hasCard ? 'issued' : 'not issued' }),
  },
} satisfies Partial<Record<ActId, ActRule>>
