import { conditionTest, leafTests, liveAnswers, openQuestion, type Answers } from '../application/answers'
import type { Finding, Verdict } from '../finding/finding'
import { wordOf } from '../application/requests'
import type { Notice, Post, RequestRule } from '../notice/schema'
import type { Rule, RuleOf } from '../notice/rules'
import { ageCheck } from './age'
import { Facts } from './facts'
import { dayCheck, experienceCheck, numberCheck, oneOfCheck } from './stated'
import { percentageCheck, subjectsCheck } from './marks'
import { findingAt, missing, placeOf, type Check, type Place } from './place'
import { qualificationCheck } from './qualification'

/** The verdict on one post: its worst clause, with a finding per clause. */
export interface PostVerdict {
  post: string
  title: string
  verdict: Verdict
  findings: Finding[]
}

type Exception = Extract<RequestRule, { kind: 'exception' }>

interface PreparedPost {
  post: Post
  checks: Check[]
}
const prepared = new WeakMap<Notice, PreparedPost[]>()

/**
 * Every post of the notice judged on the facts of one sheet, asked for or not, so that a refusal can say what else is
 * open. Total: a missing or unusable fact gives `unsure` naming the question that would settle it, never a pass and
 * never a throw. Equal facts give equal results, whatever the order of answers.
 */
export function evaluatePosts(notice: Notice, sheet: Answers): PostVerdict[] {
  const facts = new Facts(notice, liveAnswers(notice, sheet))
  return preparedPosts(notice).map(({ post, checks }) => {
    const findings = checks.map(check => check(facts))
    return { post: post.id, title: post.title, verdict: worstOf(findings), findings }
  })
}

// Rules are made ready once for a notice: dates of birth, norms and titles do not change from sheet to sheet.
function preparedPosts(notice: Notice): PreparedPost[] {
  let posts = prepared.get(notice)
  if (!posts) {
    posts = notice.posts.map(post => ({ post, checks: checksOf(notice, post) }))
    prepared.set(notice, posts)
  }
  return posts
}

/** The clauses of a post, each as a function of the facts. */
export const checksOf = (notice: Notice, post: Post): Check[] =>
  post.clauses.map((clause) => {
    const place = placeOf(notice, post, clause)
    const check = checkOf(place, clause.rule)
    const exceptions = exceptionsFrom(notice, post.id, clause.code)
    return exceptions.length === 0 ? check : exceptedCheck(place, check, exceptions)
  })

/** The requests by which a clause may be passed by. */
export const exceptionsFrom = (notice: Notice, post: string, code: string): Exception[] =>
  notice.requests.filter(rule => rule.kind === 'exception').filter(rule =>
    rule.clauses.some(one => one.post === post && one.clause === code)
  )

// A clause that is not met is passed by where the office has granted an exception, and cannot be told while one is asked for.
function exceptedCheck(place: Place, check: Check, exceptions: readonly Exception[]): Check {
  const tests = exceptions.map(rule => ({ rule, test: conditionTest(rule.when) }))
  return (facts) => {
    const finding = check(facts)
    if (finding.verdict === 'pass') return finding
    const asked = tests.filter(({ test }) => test(facts.live) === true).map(({ rule }) => ({ rule, word: wordOf(facts.answers, rule.id) }))
    const deciding = asked.find(one => one.word === 'granted') ?? asked.find(one => one.word === null)
    if (!deciding) return finding
    const excepted = findingAt(
      place,
      deciding.word === 'granted' ? 'eligibility.excepted' : 'eligibility.exception-asked',
      deciding.word === 'granted' ? 'pass' : 'unsure',
      { title: deciding.rule.title },
    )
    excepted.parts = [finding]
    return excepted
  }
}

function checkOf(place: Place, rule: Rule): Check {
  switch (rule.kind) {
    case 'age':
      return ageCheck(place, rule)
    case 'percentage':
      return percentageCheck(place, rule)
    case 'qualification':
      return qualificationCheck(place, rule)
    case 'subjects':
      return subjectsCheck(place, rule)
    case 'oneOf':
      return oneOfCheck(place, rule)
    case 'number':
      return numberCheck(place, rule)
    case 'day':
      return dayCheck(place, rule)
    case 'experience':
      return experienceCheck(place, rule)
    case 'all':
    case 'any':
      return severalCheck(place, rule)
    case 'not':
      return notCheck(place, rule)
    case 'when':
      return whenCheck(place, rule)
  }
}

function severalCheck(place: Place, rule: RuleOf<'all'> | RuleOf<'any'>): Check {
  const checks = rule.rules.map(inner => checkOf(place, inner))
  const code = `eligibility.${rule.kind}` as const
  return (facts) => {
    const parts = checks.map(check => check(facts))
    const verdict = rule.kind === 'all' ? worstOf(parts) : bestOf(parts)
    const finding = findingAt(place, code, verdict, { ways: parts.length })
    finding.parts = parts
    return finding
  }
}

const worstOf = (findings: Finding[]): Verdict =>
  findings.some(f => f.verdict === 'fail') ? 'fail' : findings.some(f => f.verdict === 'unsure') ? 'unsure' : 'pass'
const bestOf = (findings: Finding[]): Verdict =>
  findings.some(f => f.verdict === 'pass') ? 'pass' : findings.some(f => f.verdict === 'unsure') ? 'unsure' : 'fail'

const opposite: Record<Verdict, Verdict> = { pass: 'fail', fail: 'pass', unsure: 'unsure' }

function notCheck(place: Place, rule: RuleOf<'not'>): Check {
  const check = checkOf(place, rule.rule)
  return (facts) => {
    const inner = check(facts)
    const finding = findingAt(place, 'eligibility.not', opposite[inner.verdict], { title: rule.title })
    finding.parts = [inner]
    return finding
  }
}

// While the condition is open, a verdict stands only if both branches agree on it.
function whenCheck(place: Place, rule: RuleOf<'when'>): Check {
  const [then, otherwise] = [checkOf(place, rule.then), rule.otherwise ? checkOf(place, rule.otherwise) : null]
  const [test, leaves] = [conditionTest(rule.if), leafTests(rule.if)]
  const exempt = () => findingAt(place, 'eligibility.exempt', 'pass', { what: place.clause.code })
  return (facts) => {
    const holds = test(facts.live)
    if (holds === true) return then(facts)
    const other = otherwise ? otherwise(facts) : exempt()
    if (holds === false) return other
    const one = then(facts)
    return one.verdict === other.verdict ? one : missing(place, place.clause.code, openQuestion(leaves, facts.live) ?? '', facts.live)
  }
}
