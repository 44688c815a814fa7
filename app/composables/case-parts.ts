import { listAnswer, liveSheet } from '~~/core/application/answers'
import { withDecisions } from '~~/core/application/requests'
import { slotsOf } from '~~/core/application/slots'
import { identityQuestion } from '~~/core/identity/identity-question'
import type { Dossier } from '~~/shared/applications'

/** The parts of a case as scrutiny looks at them: its files, its answers by section, what failed, and the papers to read. */
export function useCaseParts(dossier: Ref<Dossier | null>) {
  const cycle = useCycleStore()
  const slots = computed(() =>
    cycle.notice && dossier.value
      ? slotsOf(cycle.notice, withDecisions(cycle.notice, dossier.value.answers, dossier.value.decided)).map(slot => ({
        ...slot,
        file: dossier.value?.files[slot.id],
      })).filter(({ required, file }) => required || file)
      : []
  )
  /** What tells who somebody is. */
  const telling = computed(() => slots.value.filter(slot => slot.as === 'image' || slot.rule.identity))
  const chosen = computed(() => dossier.value ? listAnswer(dossier.value.answers, 'posts') : [])
  const failed = computed(() =>
    dossier.value
      ? [
        ...slots.value.flatMap(({ file }) => file?.findings ?? []),
        ...dossier.value.verdicts.filter(v => chosen.value.includes(v.post)).flatMap(v => v.findings),
      ].filter(f => f.verdict === 'fail')
      : []
  )
  const sections = computed(() => {
    const { notice } = cycle
    const answers = dossier.value?.answers
    if (!notice || !answers) return []
    const asked = new Set(liveSheet(notice, answers).asked.map(q => q.id))
    return notice.sections.map(s => ({ ...s, questions: s.questions.filter(q => asked.has(q.id)) }))
  })
  const items = computed(
    () => [...slots.value.map(({ id: slot, title }) => ({ id: slot, title })),
      ...sections.value.flatMap(s => s.questions).map(q => ({ id: q.id, title: q.label }))]
  )
  const papers = computed(() =>
    slots.value.flatMap(({ id: slot, as, title, file }) =>
      as === 'document' && file?.measured ? [{ id: slot, title, image: file.id, pages: file.pages }] : []
    )
  )
  const toRead = computed(() =>
    cycle.notice
      ? [...new Set(['certificateName', 'identityName', 'bornOn', identityQuestion(cycle.notice)])].filter(question =>
        dossier.value?.answers[question]
      )
      : []
  )
  return { slots, telling, chosen, failed, sections, items, papers, toRead }
}

type CaseParts = ReturnType<typeof useCaseParts>
/** One picture or paper of a case. */
export type CaseSlot = CaseParts['slots']['value'][number]
/** One section of the answers of a case. */
export type CaseSection = CaseParts['sections']['value'][number]
