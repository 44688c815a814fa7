import type { ActStanding } from '~~/core/application/acts/judge'
import { isOpened } from '~~/core/application/acts/opened'
import { ProblemError } from '~~/shared/problem'
import type { Permit } from './act'
import type { TextRead } from '~~/shared/acts'
import type { AnswerDifference, Dossier, SavedSheet, SheetConflict } from '~~/shared/applications'
import { liveSheet, type Answer, type Answers } from '~~/core/application/answers'
import { withDecisions } from '~~/core/application/requests'
import { sheetDoubts, sheetFaults } from '~~/core/application/sheet'
import { evaluatePosts } from '~~/core/eligibility/evaluate'
import { assessFee } from '~~/core/fees/assess'
import { isPaidFirst, waitsForFee } from '~~/core/fees/order'
import { dateInZone } from '~~/core/calendar/zone'
import type { Finding } from '~~/core/finding/finding'

/** Nothing has to be said before. */
const isFree = (standing: ActStanding | undefined) => standing !== undefined && standing.outsideDates === null && !standing.needsReason

export type SavingState = 'saved' | 'waiting' | 'saving' | 'kept here' | 'conflict'

/**
 * One application on the screen. Answers are saved a moment after they are typed; until the office has confirmed them
 * they also stand in this browser's storage, so that neither a closed page nor a broken connection loses anything.
 */
export function useSheet(id: string) {
  const cycle = useCycleStore()
  const dossier = shallowRef<Dossier | null>(null)
  const answers = ref<Answers>({})
  const state = ref<SavingState>('saved')
  const savedAt = ref<Date | null>(null)
  const trouble = ref('')
  const conflict = shallowRef<AnswerDifference[] | null>(null)
  /** Questions that somebody else has changed on this sheet, merged without a word being lost. */
  const merged = shallowRef<string[]>([])
  const store = `lucid-unsaved-${id}`
  let revision = 0
  let unsaved: Record<string, Answer> = {}
  let timer: ReturnType<typeof setTimeout> | undefined
  let inFlight: Promise<void> | null = null

  /** Why an officer acts outside the dates of the notice, once they have said so. */
  const permit = shallowRef<Permit | null>(null)
  const editable = computed(() => dossier.value?.tracks.form === 'drafting' || dossier.value?.tracks.form === 'correcting')
  /** Whether answers can be saved now: the form is open, the reader may, and nothing has to be said first, or was. */
  const writable = computed(() =>
    canAct(dossier.value, 'save-answers') && !dossier.value?.hasTextsFirst
    && (permit.value !== null || isFree(standingOf(dossier.value, 'save-answers')))
  )
  /** Whether one question or slot may be changed: a correction opens what was named. */
  const isOpen = (item: string) =>
    writable.value && cycle.notice !== null
    && (dossier.value?.tracks.form !== 'correcting' || isOpened(cycle.notice, dossier.value.openedItems, item)) && !waits(item)
  /** Whether a question or slot opens only once the fee is paid. */
  const waits = (item: string) => cycle.notice !== null && dossier.value !== null && waitsForFee(cycle.notice, dossier.value.tracks, item)
  const findings = computed<Finding[]>(() => {
    const { notice } = cycle
    if (!notice) return []
    const today = dateInZone(new Date(), notice.body.zone)
    return [...sheetFaults(notice, decided.value, today), ...sheetDoubts(answers.value)]
  })
  /** Where the fee is paid before the form is handed in: how it stands, while the form is being filled in. */
  const unpaidFirst = computed(() =>
    cycle.notice && isPaidFirst(cycle.notice) && dossier.value?.tracks.form === 'drafting' ? dossier.value.tracks.fee : null
  )
  const asked = computed(() => new Set(cycle.notice ? liveSheet(cycle.notice, answers.value).asked.map(q => q.id) : []))
  /** What is typed, with the office's word on what was asked for. */
  const decided = computed(() => cycle.notice ? withDecisions(cycle.notice, answers.value, dossier.value?.decided ?? {}) : answers.value)
  const verdicts = computed(() => cycle.notice ? evaluatePosts(cycle.notice, decided.value) : [])
  const fee = computed(() =>
    dossier.value?.assessed && (!editable.value || unpaidFirst.value !== null)
      ? dossier.value.assessment
      : cycle.notice
      ? assessFee(cycle.notice, answers.value, new Date())
      : null
  )

  async function load(): Promise<void> {
    // The cycle of the last visit is most likely this one's: its notice is asked for at once, and not after the application.
    const [got] = await Promise.all([callApi<Dossier>(`/api/applications/${id}`), cycle.recall()])
    // A link may lead to an application of another cycle: the work goes over to it.
    if (got.cycle !== cycle.code) await cycle.choose(got.cycle)
    show(got)
    recover()
  }
  function show(got: Dossier): void {
    dossier.value = got
    revision = got.revision
    answers.value = { ...got.answers, ...unsaved }
  }
  // What an earlier visit could not send.
  function recover(): void {
    const kept = localStorage.getItem(store)
    if (!kept || !editable.value) return
    try {
      const held = JSON.parse(kept) as { revision: number, unsaved: Record<string, Answer> }
      unsaved = { ...held.unsaved, ...unsaved }
      // Against what they were typed on: what somebody else has saved of the same question since is asked about, not overwritten.
      revision = Math.min(revision, held.revision)
    } catch {
      localStorage.removeItem(store)
      return
    }
    answers.value = { ...answers.value, ...unsaved }
    plan(0)
  }
  function change(question: string, answer: Answer): void {
    answers.value = { ...answers.value, [question]: answer }
    unsaved[question] = answer
    keep()
    plan(700)
  }
  function keep(): void {
    if (Object.keys(unsaved).length > 0) localStorage.setItem(store, JSON.stringify({ revision, unsaved }))
    else localStorage.removeItem(store)
  }
  function plan(milliseconds: number): void {
    if (state.value !== 'conflict') state.value = 'waiting'
    clearTimeout(timer)
    timer = setTimeout(() => {
      void save()
    }, milliseconds)
  }
  /** Sends what is not saved yet; whether all of it is saved now. */
  async function save(): Promise<boolean> {
    clearTimeout(timer)
    if (inFlight) await inFlight
    if (state.value === 'conflict') return false
    if (Object.keys(unsaved).length === 0) return true
    inFlight = send()
    await inFlight
    inFlight = null
    return Object.keys(unsaved).length === 0
  }
  async function send(): Promise<void> {
    const sent = { ...unsaved }
    state.value = 'saving'
    try {
      const saved = await callApi<SavedSheet>(`/api/applications/${id}/answers`, {
        method: 'PATCH',
        body: { revision, changes: sent, ...permit.value },
      })
      revision = saved.revision
      takeOthers(saved, sent)
      for (const [question, value] of Object.entries(sent)) if (unsaved[question] === value) Reflect.deleteProperty(unsaved, question)
      savedAt.value = new Date()
      trouble.value = ''
      state.value = Object.keys(unsaved).length > 0 ? 'waiting' : 'saved'
      keep()
      if (unpaidFirst.value !== null && unpaidFirst.value !== 'not assessed' && Object.keys(unsaved).length === 0) await refresh()
    } catch (error) {
      if (error instanceof ProblemError && error.problem.code === 'sheet.conflict') return meet(error.problem.data as SheetConflict)
      trouble.value = isOffline(error) ? say('sheet.noConnectionToTheOfficeWhat') : problemText(error)
      state.value = 'kept here'
      // A refusal will not change by asking again; a missing connection will.
      const lasting = error instanceof ProblemError && ['bad-input', 'not-now', 'not-allowed'].includes(error.problem.kind)
      if (!lasting) {
        timer = setTimeout(() => {
          void save()
        }, 4000)
      }
    }
  }
  /** What somebody else has saved of other questions meanwhile comes along with the answer. */
  function takeOthers(saved: SavedSheet, sent: Record<string, Answer>): void {
    const theirs = Object.entries(saved.answers).filter(([question, value]) =>
      !(question in sent) && !(question in unsaved) && JSON.stringify(answers.value[question] ?? '') !== JSON.stringify(value)
    )
    if (theirs.length === 0) return
    answers.value = { ...answers.value, ...Object.fromEntries(theirs) }
    merged.value = theirs.map(([question]) => question)
  }
  function meet(other: SheetConflict): void {
    revision = other.revision
    answers.value = { ...other.answers, ...unsaved }
    conflict.value = other.differences.map(d => ({ ...d, yours: unsaved[d.question] ?? null }))
    state.value = 'conflict'
  }
  /** Ends a conflict: `mine` names the questions whose own answer is kept; for the others the other person's stands. */
  async function settle(mine: Set<string>): Promise<void> {
    for (const difference of conflict.value ?? []) {
      if (mine.has(difference.question)) continue
      Reflect.deleteProperty(unsaved, difference.question)
      answers.value = { ...answers.value, [difference.question]: difference.theirs }
    }
    conflict.value = null
    state.value = 'saved'
    keep()
    await save()
  }
  const acts = useAct(id, (got) => {
    show(got)
    cycle.refreshBand().catch(() => undefined)
  })
  /** Submits the form or hands the correction in; whether it went well. */
  async function submit(texts: readonly TextRead[]): Promise<boolean> {
    return await attempt(async () => {
      if (!await save()) throw pageRefusal({ code: 'sheet.not-saved', parameters: {} })
    }) && acts.perform('submit', { revision, declared: true, texts, ...permit.value })
  }
  /** Reads the application again, leaving what is being typed as it is. */
  async function refresh(): Promise<void> {
    show(await callApi<Dossier>(`/api/applications/${id}`))
  }
  onScopeDispose(() => {
    void save()
  })
  return {
    dossier,
    answers,
    state,
    savedAt,
    trouble,
    conflict,
    merged,
    permit,
    editable,
    writable,
    isOpen,
    waits,
    unpaidFirst,
    busy: acts.busy,
    show,
    asked,
    findings,
    decided,
    verdicts,
    fee,
    load,
    change,
    save,
    settle,
    submit,
    refresh,
  }
}
export type Sheet = ReturnType<typeof useSheet>
