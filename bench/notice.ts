import { demoNotice } from '../demo/notice'
import { readNotice } from '../core/notice/check'
import { noticeFileSchema, type Condition, type Notice } from '../core/notice/schema'

/**
 * Checking a large notice while it is typed: 60 posts, 40 relaxations, base fees that hang on 12 questions at once. The measure is the
 * whole of what the browser's worker does (reading included), beside reading alone.
 */
const demo = ((): Notice => {
  const { notice } = readNotice(demoNotice(new Date('2026-11-24T12:00:00Z')))
  if (!notice) throw new Error('the demo has errors')
  return notice
})()

const dimensions = Array.from({ length: 12 }, (_, i) => `dimension${i + 1}`)
const asked = dimensions.map((id, i) => ({
  id,
  kind: 'choice' as const,
  label: `Dimension ${i + 1}`,
  required: true,
  options: ['a', 'b', 'c'].map(option => ({ id: option, title: option })),
}))
const is = (i: number, option: string): Condition => ({ question: dimensions[i] ?? '', in: [option] })

/** Rows that share out the whole space: row n holds where the first n dimensions say "a" and the next one does not. */
function feeRows(category: string): Notice['fees']['base'] {
  const before = (n: number) => Array.from({ length: n }, (_, i) => is(i, 'a'))
  const rows = dimensions.flatMap((_, n) =>
    ['b', 'c'].map((option, k) => ({ category, amount: 1000 + n * 10 + k, when: { all: [...before(n), is(n, option)] } }))
  )
  return [...rows, { category, amount: 5000, when: { all: before(12) } }]
}

function large(): Notice {
  const eased = (clause: Notice['posts'][number]['clauses'][number]) =>
    clause.rule.kind !== 'age' ? clause : {
      ...clause,
      text: 'As the rule says.',
      rule: {
        ...clause.rule,
        relaxations: Array.from(
          { length: 40 },
          (_, r) => ({
            title: `Relaxation ${r}`,
            when: { all: [is(r % 12, 'abc'[r % 3] ?? 'a'), is((r + 5) % 12, 'b')] },
            by: String(1 + r % 9),
          }),
        ),
      },
    }
  const posts = Array.from(
    { length: 15 },
    (_, n) => demo.posts.map(post => ({ ...post, id: `${post.id}-${n}`, title: `${post.title} ${n}`, clauses: post.clauses.map(eased) })),
  ).flat()
  const sections = [...demo.sections.slice(0, -1), { id: 'dimensions', title: 'Dimensions', questions: asked }, ...demo.sections.slice(-1)]
  return { ...demo, sections, posts, fees: { ...demo.fees, base: demo.categories.flatMap(c => feeRows(c.id)) } }
}

const json: unknown = JSON.parse(JSON.stringify(large()))
const median = (act: () => void): number => {
  const times = Array.from({ length: 15 }, () => {
    const from = performance.now()
    act()
    return performance.now() - from
  }).sort((a, b) => a - b)
  return times[7] ?? 0
}
const { findings } = readNotice(json)
const [whole, reading] = [median(() => void readNotice(json)), median(() => void noticeFileSchema.safeParse(json))]
console.log(`60 posts, 40 relaxations each, ${large().fees.base.length} rows of fees on 12 questions: ${findings.length} findings`)
console
  .log(`reading and checking ${whole.toFixed(0)} ms, reading alone ${reading.toFixed(0)} ms, ratio ${
    (whole / reading).toFixed(1)
  } (medians of fifteen)`)
for (const finding of findings.slice(0, 8)) console.log(`  ${finding.severity} ${finding.at} ${finding.code}`)
