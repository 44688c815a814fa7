export const records = {
  records: 'Records',
  applicationNumber: 'Application number',
  show: 'Show',
  nothingIsRecorded: 'Nothing is recorded {hasSubject, select, true {about {subject}} other {yet}}.',
  when: 'when',
  who: 'who',
  did: 'did',
  to: 'to',
  whatChanged: 'what changed',
  outsideTheDates: '▲ outside the dates',
  hundredMore: '100 more',
} as const
