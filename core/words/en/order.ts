import { listAnswer, type Answers } from '../../application/answers'
import { spellInstant } from '../../calendar/zone'
import { evaluatePosts, type PostVerdict } from '../../eligibility/evaluate'
import { smallestChange } from '../../eligibility/change'
import type { Finding } from '../../finding/finding'
import type { Notice } from '../../notice/schema'
import { changeWords } from './explanation'
import { workingWords } from './eligibility'
import { findingWords } from './form-findings'

/** What the order rests on: the sheet as it counts, and what scrutiny decided. */
export interface RefusedCase {
  number: string
  name: string
  answers: Answers
  decision: { reasons: { item: string, reason: string }[], by: string, at: string }
  /** Claims found false: the title and why. */
  falseClaims: { title: string, reason: string }[]
}

/** A reasoned order as sections of paragraphs, ready for paper. */
export interface OrderText {
  title: string
  opening: string
  sections: { heading: string, paragraphs: string[] }[]
}

/** The order that refuses an application: each ground with the clause it rests on, what was found, and what is still open. */
export function refusalOrder(notice: Notice, refused: RefusedCase): OrderText {
  const verdicts = evaluatePosts(notice, refused.answers)
  const chosen = listAnswer(refused.answers, 'posts')
  const shut = verdicts.filter(v => chosen.includes(v.post) && v.verdict !== 'pass')
  const open = verdicts.filter(v => !chosen.includes(v.post) && v.verdict === 'pass')
  const item = (id: string) =>
    notice.sections.flatMap(s => s.questions).find(q => q.id === id)?.label ?? notice.posts.find(p => p.id === id)?.title ?? id
  const sections: OrderText['sections'] = [
    { heading: 'Grounds', paragraphs: refused.decision.reasons.map(r => `${item(r.item)}: ${r.reason}`) },
    ...(refused.falseClaims.length > 0
      ? [{ heading: 'Claims found false', paragraphs: refused.falseClaims.map(c => `${c.title}: ${c.reason}`) }]
      : []),
    ...shut.map(verdict => ({
      heading: `${verdict.title} is ${verdict.verdict === 'fail' ? 'not open' : 'not settled'}`,
      paragraphs: groundsOf(notice, refused.answers, verdict),
    })),
    {
      heading: 'What is still open',
      paragraphs: [open.length > 0
        ? `On the facts stated, these posts are open: ${open.map(v => v.title).join(', ')}.`
        : 'On the facts stated, no other post of this notice is open.'],
    },
    {
      heading: 'If a fact is wrong',
      paragraphs: [
        'Whoever holds a fact in this order to be wrong writes to the Board with the proof and the application number. The Board decides anew on it and answers in writing.',
      ],
    },
  ]
  return {
    title: 'Order of refusal',
    opening: `Application ${refused.number} of ${refused.name} for ${
      chosen.map(item).join(' and ')
    } under the notice “${notice.title}” is refused. Decided by ${refused.decision.by} on ${
      spellInstant(refused.decision.at, notice.body.zone)
    }.`,
    sections,
  }
}

/** For each clause that does not pass: its words, then what was found and how far it is from the bound. */
function groundsOf(notice: Notice, answers: Answers, verdict: PostVerdict): string[] {
  const clauses = notice.posts.find(p => p.id === verdict.post)?.clauses ?? []
  const change = verdict.verdict === 'fail' ? smallestChange(notice, answers, verdict) : null
  return [
    ...verdict.findings.filter(f => f.verdict !== 'pass').flatMap((finding) => {
      const clause = clauses.find(c => c.code === finding.origin?.rule)
      return [...(clause ? [`Clause ${clause.clause}: “${clause.text}”`] : []), ...found(notice, finding)]
    }),
    ...(change ? [changeWords(notice, change)] : []),
  ]
}

function found(notice: Notice, finding: Finding): string[] {
  const words = findingWords(finding)
  const subject = (id: string) => notice.subjects.find(s => s.id === id)?.title ?? id
  const measured = [words.value, words.bound && `against ${words.bound}`].filter(Boolean).join(' ')
  return [
    `Found: ${words.title}${measured ? `: ${measured}` : ''}. ${words.advice}`.trim(),
    ...(finding.working ?? []).map((line) => {
      const { label, value } = workingWords(line, subject)
      return `– ${label}: ${value}`
    }),
    ...(finding.parts ?? []).filter(part => part.verdict !== 'pass').flatMap(part => found(notice, part)),
  ]
}
