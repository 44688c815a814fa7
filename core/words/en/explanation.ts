import { proofWords } from './conditions'
import type { Answers } from '../../application/answers'
import { answersThatCount, heldClaims } from '../../eligibility/claims'
import { smallestChange, type SmallestChange } from '../../eligibility/change'
import { evaluatePosts, type PostVerdict } from '../../eligibility/evaluate'
import type { Finding } from '../../finding/finding'
import type { Notice } from '../../notice/schema'
import { spellAnswer } from './answers'
import { workingWords } from './eligibility'
import { findingWords } from './form-findings'
import { counted } from './counted'
import { verdictShapes } from './work'

export const postVerdictWords = { pass: 'open', fail: 'not open', unsure: 'not settled yet' } as const

/** The sentence for a smallest change. */
export function changeWords(notice: Notice, change: SmallestChange): string {
  const question = notice.sections.flatMap(s => s.questions).find(q => q.id === change.question)
  const label = question?.label ?? change.question
  const amount = counted(change.by, change.unit)
  if (question?.kind === 'table') return `${amount} more in “${label}” would open it.`
  const answer = spellAnswer(notice, change.question, change.answer)
  return change.unit === 'answer'
    ? `“${label}: ${answer}” would open it.`
    : `${amount} ${change.by === '1' ? 'makes' : 'make'} the difference: with “${label}: ${answer}” it would be open.`
}

/** Everything there is to say on one person's eligibility as plain text: findings, workings, claims, near misses. */
export function explanation(notice: Notice, number: string, answers: Answers, foundFalse: readonly string[] = []): string {
  const counted = answersThatCount(notice, answers, foundFalse)
  const claims = heldClaims(notice, counted)
  const lines = [`${number}: eligibility under ${notice.title}`]
  for (const verdict of evaluatePosts(notice, counted)) lines.push('', ...postLines(notice, counted, verdict))
  if (claims.length > 0) {
    lines.push(
      '',
      'Claims made, and the proof each needs:',
      ...claims.map(c => `  ${c.title}: ${proofWords(notice, c)}`),
    )
  }
  return lines.join('\n')
}

function postLines(notice: Notice, answers: Answers, verdict: PostVerdict): string[] {
  const change = verdict.verdict === 'fail' ? smallestChange(notice, answers, verdict) : null
  return [
    `${verdictShapes[verdict.verdict]} ${verdict.title}: ${postVerdictWords[verdict.verdict]}`,
    ...verdict.findings.flatMap(finding => findingLines(notice, finding, '  ')),
    ...(change ? [`  → ${changeWords(notice, change)}`] : []),
  ]
}

function findingLines(notice: Notice, finding: Finding, indent: string): string[] {
  const words = findingWords(finding)
  const subject = (id: string) => notice.subjects.find(s => s.id === id)?.title ?? id
  return [
    `${indent}${verdictShapes[finding.verdict]} ${indent === '  ' && finding.origin ? `${finding.origin.clause} ` : ''}${
      [words.title, [words.value, words.bound && `(${words.bound})`].filter(Boolean).join(' '), words.advice].filter(Boolean).join(': ')
    }`,
    ...(finding.working ?? []).map((line) => {
      const { label, value } = workingWords(line, subject)
      return `${indent}    ${label}: ${value}`
    }),
    ...(finding.parts ?? []).flatMap(part => findingLines(notice, part, `${indent}  `)),
  ]
}
