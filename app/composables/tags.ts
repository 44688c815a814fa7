import { facetOf } from '~~/shared/applications'

/** A thing that the roster can be filtered by: its facet, and what it is called. */
export interface Facet {
  facet: string
  title: string
}

/** The values of each facet in words; those of questions are answers, and spelled like them. */
function valueWords(cycle: ReturnType<typeof useCycleStore>, words: ReturnType<typeof useWords>): Record<string, (of: string) => string> {
  const { states, scrutiny, work, findings } = words
  const known = (list: Readonly<Record<string, string>>) => (value: string) => list[value] ?? value
  const pair = (of: string, cut: string): [string, string] => [of.split(cut)[0] ?? '', of.split(cut)[1] ?? '']
  return {
    'at:': known(states.headlineWords),
    'fee:': known(states.feeStateWords),
    'form:': known(scrutiny.formWords),
    'scrutiny:': known(scrutiny.scrutinyStateWords),
    'placement:': known(scrutiny.placementWords),
    'card:': known(scrutiny.cardWords),
    'from:': known(scrutiny.senderWords),
    'doubt:': known(scrutiny.doubtWords),
    'lane:': of => (scrutiny.laneWords as Record<string, { title: string }>)[of]?.title ?? of,
    'matter:': (of) => {
      const [kind, owner] = pair(of, '|')
      return `${known(work.matterLines)(kind)} · ${known(work.ownerWords)(owner)}`
    },
    'unread:': of => of === 'no-account' ? say('roster.noAccount') : known(words.log.logWords)(of),
    'false:': of => cycle.notice?.claims.find(claim => claim.id === of)?.title ?? of,
    'asked:': (of) => {
      const [id, word] = pair(of, '=')
      return say('roster.requestWord', { title: cycle.notice?.requests.find(rule => rule.id === id)?.title ?? of, word })
    },
    'found:': (of) => {
      const [id, verdict] = pair(of, '=')
      return say('roster.findingVerdict', { title: findings.findingTitle(id), verdict: known(work.verdictWords)(verdict) })
    },
  }
}

/** Words for tags of the roster and for what can be filtered by. */
export function useTags() {
  const cycle = useCycleStore()
  const spelling = useSpelling()
  const words = useWords()

  const questions = computed(() =>
    (cycle.notice?.sections ?? []).flatMap(section => section.questions).filter(q =>
      q.kind === 'choice' || q.kind === 'posts' || q.kind === 'cities'
    )
  )
  const facets = computed((): Facet[] => [
    { facet: 'at', title: say('roster.standsAt') },
    { facet: 'matter', title: say('roster.matter') },
    { facet: 'unread', title: say('roster.unread') },
    { facet: 'lane', title: say('roster.lane') },
    { facet: 'doubt', title: say('roster.doubt') },
    { facet: 'found', title: say('roster.found') },
    ...questions.value.map(question => ({ facet: `q:${question.id}`, title: question.label })),
    ...questions.value.filter(question => question.kind === 'cities').map(question => ({
      facet: `first:${question.id}`,
      title: say('roster.firstChoice', { question: question.label }),
    })),
    { facet: 'form', title: say('roster.form') },
    { facet: 'fee', title: say('roster.fee') },
    { facet: 'scrutiny', title: say('roster.scrutiny') },
    { facet: 'placement', title: say('roster.placement') },
    { facet: 'card', title: say('roster.card') },
    { facet: 'from', title: say('roster.from') },
    { facet: 'by', title: say('roster.by') },
    { facet: 'false', title: say('roster.falseClaim') },
    { facet: 'asked', title: say('roster.askedFor') },
  ])
  const isList = (facet: string) => questions.value.some(question => facet === `q:${question.id}=` && question.kind !== 'choice')
  const said = valueWords(cycle, words)
  /** The value of a tag in words. */
  function value(tag: string): string {
    const facet = facetOf(tag)
    const of = tag.slice(facet.length)
    return said[facet]?.(of)
      ?? spelling.answer(facet.slice(facet.indexOf(':') + 1, -1), facet.startsWith('first:') || isList(facet) ? [of] : of)
  }
  /** What a tag is about, in words. */
  const title = (tag: string) => facets.value.find(one => tag.startsWith(`${one.facet}:`) || tag.startsWith(`${one.facet}=`))?.title ?? tag
  return { facets, value, title }
}
