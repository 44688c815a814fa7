import type { Answers } from '../../core/application/answers'
import { readNotice } from '../../core/notice/check'
import type { Rule } from '../../core/notice/rules'
import type { Notice } from '../../core/notice/schema'
import { demoNotice } from '../../demo/notice'

/** The day on which tests stand: the demo's notice opened 20 days before it and closes 3 days after. */
export const testNow = new Date('2026-11-24T12:00:00Z')

/** The demo's notice on that day. */
export function sampleNotice(now = testNow): Notice {
  const { notice, findings } = readNotice(demoNotice(now))
  if (!notice) throw new Error(`the demo's notice has faults: ${JSON.stringify(findings)}`)
  return notice
}

/** A complete sheet of somebody who is eligible for every post but the technician's. */
export const sampleAnswers: Answers = {
  certificateName: 'Tavirel Osk-Anundé',
  identityName: 'Tavirel Osk-Anundé',
  bornOn: '2004-06-15',
  gender: 'woman',
  identityKind: 'seafarers-book',
  identityNumber: 'SB4471923',
  mobile: '5550100042',
  email: 'tavirel@post.example',
  postalCode: '11042',
  address: '4 Beacon Street',
  nationality: 'ilmaran',
  residence: 'birth',
  category: 'general',
  lowIncome: 'no',
  pwd: 'no',
  qualification: 'year-12',
  resultAwaited: 'no',
  board: 'northern-isles',
  passedIn: '2022',
  resultForm: 'total',
  marksObtained: '412',
  marksTotal: '500',
  worked: 'no',
  attempts: '0',
  posts: ['pilot-cadet', 'lighthouse-keeper'],
  cities: ['skarnholm', 'ottrevik', 'belmarrow'],
}

/** A rule as a notice's file would hold it: read and checked before it is used. */
export type RuleInput = { readonly kind: Rule['kind'], readonly [part: string]: unknown }

/** The demo's notice with one post of one clause, and anything else changed; read and checked like any other. */
export function noticeWithRule(rule: RuleInput, change: Partial<Notice> = {}): Notice {
  const posts = [{ id: 'trial', title: 'Trial post', clauses: [{ code: 'trial', clause: '9.9', text: 'As tried here.', rule }] }]
  const sections = sampleNotice().sections.map(s => ({ ...s, questions: s.questions.map(q => q.kind === 'posts' ? { ...q, max: 1 } : q) }))
  const { notice, findings } = readNotice({ ...sampleNotice(), requests: [], sections, posts, ...change })
  if (!notice) throw new Error(`the notice of the test has faults: ${JSON.stringify(findings)}`)
  return notice
}
