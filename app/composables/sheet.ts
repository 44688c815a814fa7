import { ProblemError } from '~~/shared/problem'
import type { AnswerDifference, Dossier, SavedSheet, SheetConflict } from '~~/shared/applications'
import { liveSheet, type Answer, type Answers } from '~~/core/application/answers'
import { sheetDoubts, sheetFaults } from '~~/core/application/sheet'
import { evaluatePosts } from '~~/core/eligibility/evaluate'
import { assessFee } from '~~/core/fees/assess'
import { dateInZone } from '~~/core/calendar/zone'
import type { Finding } from '~~/core/finding/finding'

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
  const store = `lucid-unsaved-${id}`
  let revision = 0
  let unsaved: Record<string, Answer> = {}
  let timer: ReturnType<typeof setTimeout> | undefined
  let inFlight: Promise<void> | null = null

  const editable = computed(() => dossier.value?.tracks.form === 'drafting' || dossier.value?.tracks.form === 'correcting')
  const findings = computed<Finding[]>(() => {
    const { notice } = cycle
    if (!notice) return []
    const today = dateInZone(new Date(), notice.body.zone)
    return [...sheetFaults(notice, answers.value, today), ...sheetDoubts(answers.value)]
  })
  const asked = computed(() => new Set(cycle.notice ? liveSheet(cycle.notice, answers.value).asked.map(q => q.id) : []))
  const verdicts = computed(() => cycle.notice ? evaluatePosts(cycle.notice, answers.value) : [])
  const fee = computed(() => dossier.value?.assessed && !editable.value ? dossier.value.assessment : cycle.notice ? assessFee(cycle.notice, answers.value, new Date()) : null)

  async function load(): Promise<void> {
    const got = await callApi<Dossier>(`/api/applications/${id}`)
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
      unsaved = { ...JSON.parse(kept) as Record<string, Answer>, ...unsaved }
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
    if (Object.keys(unsaved).length > 0) localStorage.setItem(store, JSON.stringify(unsaved))
    else localStorage.removeItem(store)
  }
  function plan(milliseconds: number): void {
    if (state.value !== 'conflict') state.value = 'waiting'
    clearTimeout(timer)
    timer = setTimeout(() => { void save() }, milliseconds)
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
      const saved = await callApi<SavedSheet>(`/api/applications/${id}/answers`, { method: 'PATCH', body: { revision, changes: sent } })
      revision = saved.revision
      for (const [question, value] of Object.entries(sent)) if (unsaved[question] === value) Reflect.deleteProperty(unsaved, question)
      savedAt.value = new Date()
      trouble.value = ''
      state.value = Object.keys(unsaved).length > 0 ? 'waiting' : 'saved'
      keep()
    } catch (error) {
      if (error instanceof ProblemError && error.problem.code === 'conflict') return meet(error.problem.data as SheetConflict)
      trouble.value = isOffline(error) ? 'No connection to the office. What you typed is kept in this browser, and sent when the connection is back.' : problemText(error)
      state.value = 'kept here'
      // A refusal will not change by asking again; a missing connection will.
      const lasting = error instanceof ProblemError && ['bad-input', 'not-now', 'not-allowed'].includes(error.problem.code)
      if (!lasting) timer = setTimeout(() => { void save() }, 4000)
    }
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
  async function submit(): Promise<void> {
    if (!await save()) throw new ProblemError('not-now', trouble.value || 'The last answers are not saved yet. Wait a moment and submit again.')
    show(await callApi<Dossier>(`/api/applications/${id}/submit`, { method: 'POST', body: { revision, declared: true } }))
    await cycle.refreshBand()
  }
  /** Reads the application again, leaving what is being typed as it is. */
  async function refresh(): Promise<void> {
    show(await callApi<Dossier>(`/api/applications/${id}`))
  }
  onScopeDispose(() => { void save() })
  return { dossier, answers, state, savedAt, trouble, conflict, editable, asked, findings, verdicts, fee, load, change, save, settle, submit, refresh }
}
export type Sheet = ReturnType<typeof useSheet>
