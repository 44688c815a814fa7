import { canSit, testPapersOf } from '../../application/timetable'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'

/** Test papers that name no session, posts without one, and choices that the notice forces and nobody can sit. */
export function testPaperFindings(notice: Notice): NoticeFinding[] {
  const { testPapers, sessions, posts } = notice
  const known = new Set(testPapers.map(paper => paper.id))
  const unknown = posts.flatMap((post, p) =>
    post.testPapers.flatMap((value, i) =>
      known.has(value) ? [] : [found('member.unknown', pointer('posts', p, 'testPapers', i), { value, of: 'testPapers' })]
    )
  )
  if (testPapers.length === 0) return unknown
  return [
    ...unknown,
    ...testPapers.flatMap((paper, i) =>
      testPapers.findIndex(one => one.id === paper.id) < i ? [found('id.twice', pointer('testPapers', i, 'id'), { id: paper.id })] : []
    ),
    ...testPapers.flatMap((paper, i) =>
      paper.sessions.flatMap((value, k) =>
        sessions.some(session => session.id === value)
          ? []
          : [found('member.unknown', pointer('testPapers', i, 'sessions', k), { value, of: 'sessions' })]
      )
    ),
    ...testPapers.flatMap((paper, i) =>
      posts.some(post => post.testPapers.includes(paper.id))
        ? []
        : [found('test-papers.unused', pointer('testPapers', i), { paper: paper.title })]
    ),
    ...posts.flatMap((post, p) =>
      post.testPapers.length === 0 ? [found('test-papers.none', pointer('posts', p), { post: post.title })] : []
    ),
    ...posts.flatMap((post, p) =>
      canSit(notice, [post.id])
        ? []
        : [
          found('test-papers.collide', pointer('posts', p, 'testPapers'), {
            post: post.title,
            papers: testPapersOf(notice, [post.id]).map(paper => paper.title).join(', '),
          }),
        ]
    ),
    ...forcedFindings(notice),
  ]
}

/** Posts of which so many have to be chosen, and no so many can be sat together. */
function forcedFindings(notice: Notice): NoticeFinding[] {
  return notice.sections.flatMap((section, s) =>
    section.questions.flatMap((question, q) => {
      if (question.kind !== 'posts') return []
      const at = pointer('sections', s, 'questions', q)
      const all = { posts: notice.posts.map(post => post.id), min: question.min, at: `${at}/min` }
      const bounds = [all, ...question.groups.map((group, g) => ({ ...group, at: `${at}/groups/${g}/min` }))]
      return bounds.flatMap(({ posts, min, at: place }) =>
        min < 2 || min > posts.length || someCanSit(notice, posts, min) ? [] : [found('test-papers.forced', place, { min })]
      )
    })
  )
}

/** How many sets are looked at before it is taken that one of them can be sat: a notice is checked while it is typed. */
const mostTried = 5000

function someCanSit(notice: Notice, posts: readonly string[], wanted: number): boolean {
  let tried = 0
  const go = (from: number, chosen: readonly string[]): boolean => {
    if (chosen.length === wanted || tried > mostTried) return true
    for (let i = from; i <= posts.length - (wanted - chosen.length); i += 1) {
      const next = [...chosen, posts[i] ?? '']
      tried += 1
      if (canSit(notice, next) && go(i + 1, next)) return true
    }
    return false
  }
  return go(0, [])
}
