import { facetOf } from '~~/shared/applications'

/** A thing that the roster can be filtered by: its facet, and what it is called. */
export interface Facet {
  facet: string
  title: string
}

/** Words for tags of the roster and for what can be filtered by. */
export function useTags() {
  const cycle = useCycleStore()
  const spelling = useSpelling()
  const words = useWords()
  const { states, scrutiny, work, findings } = words

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
  const known = (list: Readonly<Record<string, string>>, value: string) => list[value] ?? value

  /** The value of a tag in words. */
  function value(tag: string): string {
    const facet = facetOf(tag)
    const of = tag.slice(facet.length)
    switch (facet) {
      case 'at:':
        return known(states.headlineWords, of)
      case 'fee:':
        return known(states.feeStateWords, of)
      case 'form:':
        return known(scrutiny.formWords, of)
      case 'scrutiny:':
        return known(scrutiny.scrutinyStateWords, of)
      case 'placement:':
        return known(scrutiny.placementWords, of)
      case 'card:':
        return known(scrutiny.cardWords, of)
      case 'from:':
        return known(scrutiny.senderWords, of)
      case 'doubt:':
        return known(scrutiny.doubtWords, of)
      case 'lane:':
        return (scrutiny.laneWords as Record<string, { title: string }>)[of]?.title ?? of
      case 'matter:':
        return `${known(work.matterLines, of.split('|')[0] ?? '')} · ${known(work.ownerWords, of.split('|')[1] ?? '')}`
      case 'unread:':
        return of === 'no-account' ? say('roster.noAccount') : known(words.log.logWords, of)
      case 'false:':
        return cycle.notice?.claims.find(claim => claim.id === of)?.title ?? of
      case 'asked:':
        return say('roster.requestWord', {
          title: cycle.notice?.requests.find(rule => rule.id === of.split('=')[0])?.title ?? of,
          word: of.split('=')[1] ?? '',
        })
      case 'found:':
        return say('roster.findingVerdict', {
          title: findings.findingTitle(of.split('=')[0] ?? ''),
          verdict: known(work.verdictWords, of.split('=')[1] ?? ''),
        })
      default:
        return spelling.answer(facet.slice(facet.indexOf(':') + 1, -1), facet.startsWith('first:') || isList(facet) ? [of] : of)
    }
  }
  const isList = (facet: string) => questions.value.some(question => facet === `q:${question.id}=` && question.kind !== 'choice')
  /** What a tag is about, in words. */
  const title = (tag: string) => facets.value.find(one => tag.startsWith(`${one.facet}:`) || tag.startsWith(`${one.facet}=`))?.title ?? tag
  return { facets, value, title }
}
