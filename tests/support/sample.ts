import type { Answers } from '../../core/application/answers'
import { readNotice } from '../../core/notice/check'
import type { Notice } from '../../core/notice/schema'
import { demoNotice } from '../../demo/notice'

/** The day on which tests stand: the demo's notice opened 20 days before it and closes 3 days after. */
export const testNow = new Date('2026-11-24T12:00:00Z')

/** The demo's notice on that day. */
export function sampleNotice(now = testNow): Notice {
  const { notice, faults } = readNotice(demoNotice(now))
  if (!notice) throw new Error(`the demo's notice has faults: ${JSON.stringify(faults)}`)
  return notice
}

/** A complete sheet of somebody who is eligible for every post. */
export const sampleAnswers: Answers = {
  certificateName: 'Tavirel Osk-Anundé', identityName: 'Tavirel Osk-Anundé', bornOn: '2004-06-15', gender: 'woman',
  identityKind: 'seafarers-book', identityNumber: 'SB4471923', mobile: '5550100042', email: 'tavirel@post.example', postalCode: '11042', address: '4 Beacon Street',
  category: 'general', lowIncome: 'no', pwd: 'no',
  qualification: 'year-12', board: 'Northern Isles Board', passedIn: '2022', marksObtained: '412', marksTotal: '500',
  posts: ['pilot-cadet', 'lighthouse-keeper'], cities: ['skarnholm', 'ottrevik', 'belmarrow'],
}
