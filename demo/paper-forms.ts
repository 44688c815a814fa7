import { randomUUID } from 'node:crypto'
import type { Answers } from '../core/application/answers'
import type { KeyingState } from '../core/application/keying'
import type { Principal } from '../core/access/principal'
import type { Notice } from '../core/notice/schema'
import { performAct } from '../server/services/acts/named'
import { saveAnswers } from '../server/services/applications/answers'
import { registerApplication } from '../server/services/applications/begin'
import { saveSecondKeying } from '../server/services/keying/second'
import type { Caller } from '../server/services/context'
import { makePerson } from './people'
import { Random } from './random'

/** Forms that came on paper, and how far two people have keyed them. */
const forms: [KeyingState, number][] = [['first', 2], ['second', 5], ['differing', 3], ['agreed', 3]]

/** What a finger does wrong: two digits or letters change places, one is left out. */
const slips: Record<string, (text: string) => string> = {
  mobile: text => text.replace(/(\d)(\d)(\d\d)$/u, '$2$1$3'),
  certificateName: text => text.replace(/(.)(.)$/u, '$2$1'),
  identityNumber: text => text.replace(/\d(?=\d\d$)/u, digit => String((Number(digit) + 1) % 10)),
  marksObtained: text => text.replace(/^(.)(.)/u, '$2$1'),
  address: text => text.replace(/\s/u, ''),
}

/** Paper forms of the demo: `by` says who acts and when, some hours before now. */
export async function loadPaperForms(
  notice: Notice,
  by: (who: Principal, hoursAgo: number) => Caller,
  first: Principal,
  second: Principal,
): Promise<void> {
  let index = 0
  for (const state of forms.flatMap(([one, n]) => Array.from({ length: n }, () => one))) {
    index += 1
    const { answers } = makePerson(new Random(3571 * index), notice, 800 + index)
    await loadForm(notice, by, state === 'differing' && index % 2 === 0 ? [second, first] : [first, second], state, answers, index)
  }
}

async function loadForm(
  notice: Notice,
  by: (who: Principal, hoursAgo: number) => Caller,
  [one, other]: [Principal, Principal],
  state: KeyingState,
  answers: Answers,
  index: number,
): Promise<void> {
  const id = randomUUID()
  const receivedAt = by(one, 80 - index).now().toISOString()
  await registerApplication(by(one, 40 - index), notice.code, id, {}, { receivedAt, reference: `Box ${1 + index % 3}, ${100 + index}` })
  if (state === 'first') {
    return void await saveAnswers(by(one, 39 - index), id, {
      revision: 0,
      changes: Object.fromEntries(Object.entries(answers).slice(0, 6 * index)),
    })
  }
  await saveAnswers(by(one, 39 - index), id, { revision: 0, changes: answers })
  await performAct(by(one, 38 - index), 'finish-keying', id, {})
  if (state === 'second') return
  const slipped = Object.entries(slips).filter((_, i) => state === 'differing' && (i + index) % 3 !== 0)
  await saveSecondKeying(by(other, 20 - index), id, {
    ...answers,
    ...Object.fromEntries(slipped.flatMap(([question, slip]) =>
      typeof answers[question] === 'string' ? [[question, slip(answers[question])]] : []
    )),
  })
  await performAct(by(other, 19 - index), 'finish-second-keying', id, {})
}
