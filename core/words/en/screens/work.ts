export const work = {
  proveTheCounts: 'Prove the counts',
  provesCounts: 'Band, desk and lists read counts that are kept; this holds them against a full count and puts right what differs.',
  waitsForAFreeWorker: 'waits for a free worker',
  of: '{done} of {total}',
  stop: 'Stop',
  ended: '{what} ended: {error}',
  stoppedAfter:
    '{what}: stopped after {done}{hasPercent, select, true { %} other {}}; {hasUndone, select, true {nothing was changed} other {what was done stays done}}.',
  work: 'Work',
  workInTheBackground: 'Work in the background',
  aServerThatDiesLeavesNothing: 'A server that dies leaves nothing undone: another takes its work up within half a minute.',
  nothingWasStartedInThisCycle:
    'Nothing was started in this cycle yet. Runs of the allocation, publishing, reviews and the issue of cards appear here.',
  what: 'what',
  state: 'state',
  howFar: 'how far',
  begunBy: 'begun by',
  begun: 'begun',
  lastHeardOf: 'last heard of',
  stopColumn: 'stop',
  computing: 'computing',
} as const
