import { endorsementsLacking, endorsementsWanted } from '~~/core/application/endorsements'
import { requestsMade } from '~~/core/application/requests'
import { emptySlots, mayFollow, slotsOf } from '~~/core/application/slots'
import { isFeeClear } from '~~/core/application/tracks'
import { heldClaims } from '~~/core/eligibility/claims'
import { conditionLeaves } from '~~/core/notice/conditions'

/**
 * What a sheet wants besides its answers, as they are typed: files, proof, the word of others, the fee; and what of it is
 * missing.
 */
export function useWanted(sheet: ReturnType<typeof useSheet>) {
  const cycle = useCycleStore()
  const notice = computed(() => cycle.notice)
  const { dossier, answers, findings, decided } = sheet
  /** The claims that the sheet makes by an answer: what proof they need is said where they are made. */
  const claimsAt = (question: string) =>
    notice.value ? heldClaims(notice.value, answers.value).filter(claim => conditionLeaves(claim.when)[0]?.question === question) : []
  /** The same for what it asks for. */
  const requestsAt = (question: string) =>
    notice.value
      ? requestsMade(notice.value, answers.value).map(({ rule }) => rule).filter(rule =>
        conditionLeaves(rule.when)[0]?.question === question
      )
      : []
  const gaps = computed(() => findings.value.filter(f => f.verdict === 'fail' && !sheet.waits(f.about)))
  /** The fee comes before the form, and is not paid. */
  const feeFirst = computed(() => sheet.unpaidFirst.value !== null && !isFeeClear(sheet.unpaidFirst.value))
  /** What is wanted follows the answers as they are typed. */
  const slots = computed(() => notice.value ? slotsOf(notice.value, decided.value) : [])
  const groups = computed(() =>
    [
      { title: say('sheet.photographAndSignature'), words: '', slots: slots.value.filter(slot => slot.as === 'image') },
      {
        title: say('sheet.documents'),
        words: say('sheet.whatIsWantedHereFollowsFrom'),
        slots: slots.value.filter(slot => slot.as === 'document'),
      },
    ].filter(group => group.slots.length > 0)
  )
  const lacking = computed(() =>
    notice.value
      ? emptySlots(notice.value, decided.value, dossier.value?.files ?? {}, new Date()).filter(slot => !sheet.waits(slot.id))
      : []
  )
  /** What others have to say, and what of it has to be there with the form. */
  const hasEndorsements = computed(() =>
    notice.value ? endorsementsWanted(notice.value, decided.value, dossier.value?.endorsed ?? {}).length > 0 : false
  )
  const awaited = computed(() =>
    notice.value ? endorsementsLacking(notice.value, decided.value, dossier.value?.endorsed ?? {}, 'submission') : []
  )
  const { findingWords } = useWords().findings
  /** All of it, by where it stands on the sheet. */
  const missing = computed(() => [
    ...gaps.value.map(finding => ({ id: finding.about, title: findingWords(finding).title })),
    ...lacking.value.map(({ id, title }) => ({ id, title: say('sheet.isMissing', { title }) })),
    ...awaited.value.map(({ rule }) => ({ id: `endorsement-${rule.id}`, title: rule.title })),
  ])
  /** A slot is open with the form, or while its paper may still follow. */
  const isSlotOpen = (id: string) =>
    sheet.isOpen(id) || (canAct(dossier.value, 'add-late-file') && slots.value.some(slot => slot.id === id && mayFollow(slot, new Date())))
  return { claimsAt, requestsAt, gaps, feeFirst, slots, groups, hasEndorsements, missing, isSlotOpen }
}
