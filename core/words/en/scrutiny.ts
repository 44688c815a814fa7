import type { Desk } from '../../application/open-matters'
import type { Tracks } from '../../application/tracks'
import type { PairReason } from '../../identity/likely-pair'
import type { Doubt, Lane } from '../../scrutiny/doubts'

/** What makes a case doubtful, as a mark beside it. */
export const doubtWords: Record<Doubt, string> = {
  duplicate: 'likely applied before or barred',
  answered: 'came back',
  rules: 'eligibility',
  person: 'name or person',
  files: 'pictures or papers',
  requests: 'asks for something',
  claims: 'claims to judge',
}

/** The queues of scrutiny, and what is in each. */
export const laneWords: Record<Lane, { title: string, says: string }> = {
  'second look': { title: 'Second look', says: 'Somebody has decided; another person confirms.' },
  'duplicate': { title: 'Likely applied before or barred', says: 'Another application, or somebody barred, is likely the same person.' },
  'answered': { title: 'Came back', says: 'Returned or taken back before; old stands beside new.' },
  'rules': { title: 'Eligibility', says: 'A post that was chosen is in doubt.' },
  'person': { title: 'Name or person', says: 'Names or other facts about the person do not agree.' },
  'files': { title: 'Pictures or papers', says: 'A picture or paper breaks a rule, or cannot be told.' },
  'requests': { title: 'Requests', says: 'A scribe, more time or an exception is asked for.' },
  'claims': { title: 'Claims', says: 'Nothing is in doubt but a claim that needs its proof looked at.' },
  'plain': { title: 'Plain', says: 'The machine has found nothing to doubt.' },
  'elsewhere': { title: 'With a desk', says: 'A desk was asked; the case comes back with the answer.' },
}

export const deskWords: Record<Desk, string> = { officer: 'Registration officer', accounts: 'Accounts', scrutineer: 'Another scrutineer' }

/** What speaks for one person, or against it. */
export const pairReasonWords: Record<PairReason['code'], string> = {
  'number': 'the same number of a paper',
  'number-near': 'numbers of papers that differ in one sign',
  'number-other': 'other numbers of papers',
  'name': 'the same name',
  'name-near': 'names alike',
  'name-other': 'other names',
  'born': 'the same birth date',
  'born-near': 'birth dates that differ in one sign',
  'born-other': 'other birth dates',
  'mobile': 'the same telephone',
  'email': 'the same e-mail address',
}

export const readingWords: Record<'agrees' | 'differs' | 'cannot be read', string> = {
  'agrees': 'agrees',
  'differs': 'differs',
  'cannot be read': 'cannot be read',
}

export const formWords: Record<Tracks['form'], string> = {
  drafting: 'drafting',
  submitted: 'submitted',
  correcting: 'correcting',
  withdrawn: 'withdrawn',
  lapsed: 'lapsed',
}
export const scrutinyStateWords: Record<Tracks['scrutiny'], string> = {
  'not started': 'not started',
  'waiting': 'waiting',
  'returned': 'returned',
  'accepted': 'accepted',
  'refused': 'refused',
}
export const placementWords: Record<Tracks['placement'], string> = {
  unplaced: 'unplaced',
  placed: 'placed',
  published: 'published',
  moved: 'moved',
}
export const cardWords: Record<Tracks['card'], string> = {
  'not issued': 'not issued',
  'withheld': 'withheld',
  'issued': 'issued',
  'replaced': 'replaced',
}
export const senderWords: Record<'candidate' | 'institution' | 'office', string> = {
  candidate: 'candidate',
  institution: 'institution',
  office: 'office',
}
