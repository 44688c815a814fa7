import { postsOutOfTime } from '~~/core/application/acts/dates'
import { listAnswer } from '~~/core/application/answers'
import type { RefusalReason } from '~~/core/refusal/codes'
import type { Permit } from './act'
import type { Sheet } from './sheet'

/** What of the notice's dates stands against a sheet, and how an officer goes on all the same, with a reason. */
export function useBeyondDates(sheet: Sheet) {
  const cycle = useCycleStore()
  const session = useSessionStore()
  const spelling = useSpelling()
  const asking = ref(false)
  const standing = computed(() =>
    sheet.editable.value && canAct(sheet.dossier.value, 'save-answers') ? standingOf(sheet.dossier.value, 'save-answers') ?? null : null
  )

  /** A post that was chosen and cannot be now, or not yet. */
  const postOutOfTime = computed((): RefusalReason | null => {
    if (!cycle.notice || sheet.permit.value || sheet.dossier.value?.tracks.form !== 'drafting' || !session.may('dates.override')) {
      return null
    }
    const [first] = postsOutOfTime(cycle.notice, listAnswer(sheet.answers.value, 'posts'), new Date())
    if (!first) return null
    const { post, when } = first
    return when === 'not yet'
      ? { code: 'sheet.post-early', parameters: { post: post.title, opens: spelling.instant(post.opens ?? '') } }
      : { code: 'sheet.post-closed', parameters: { post: post.title, closes: spelling.instant(post.closes ?? '') } }
  })
  /** The form is open, and only the dates stand against it, or against a post. */
  const closedByDate = computed(() => {
    // Texts are accepted first, whatever the dates say.
    if (sheet.dossier.value?.hasTextsFirst) return null
    if (!standing.value || !sheet.writable.value) return standing.value
    return postOutOfTime.value ? { ...standing.value, outsideDates: postOutOfTime.value } : null
  })
  const closedFor = computed(() =>
    sheet.editable.value && !canAct(sheet.dossier.value, 'save-answers') ? whyNot(standingOf(sheet.dossier.value, 'save-answers')) : ''
  )
  function allow(given: Permit) {
    sheet.permit.value = given
    asking.value = false
  }
  return { closedByDate, closedFor, asking, allow }
}
