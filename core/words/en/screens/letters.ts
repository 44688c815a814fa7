export const letters = {
  outbox: 'Letters that went out',
  outboxHelp:
    '{hasMail, select, true {Mail goes out from {from}. The gateway for telephones is simulated: what it was given is read here.} other {The gateway for messages is simulated: what it was given is read here instead of on a telephone.}}',
  sendAgain: 'Send again',
  sentAgain: 'It is on its way again.',
  waitsUntil: 'not before {at}',
  triedInVain: '{tries, plural, one {tried once in vain} other {tried # times in vain}}',
  address: 'Address',
  letter: 'Letter',
  at: 'At',
  state: 'State',
  find: 'Address begins with',
  more: 'Show more',
} as const
