import type { ActStanding } from '~~/core/application/acts/judge'
import { isOpened } from '~~/core/application/acts/opened'
import { ProblemError } from '~~/shared/problem'
import type { Permit } from './act'
import type { TextRead } from '~~/shared/acts'
import type { Dossier, SavedSheet, SheetConflict } from '~~/shared/applications'
import { liveSheet, placeOfPostalCode, type Answer, type Answers } from '~~/core/application/answers'
import { Saving, type SavingState } from '~~/core/application/saving'
import { withDecisions } from '~~/core/application/requests'
import { sheetDoubts, sheetFaults } from '~~/core/application/sheet'
import { evaluatePosts } from '~~/core/eligibility/evaluate'
import { assessFee } from '~~/core/fees/assess'
import { isPaidFirst, waitsForFee } from '~~/core/fees/order'
import { dateInZone } from '~~/core/calendar/zone'
import type { Finding } from '~~/core/finding/finding'
import type { Notice } from '~~/core/notice/schema'

const isEditable = (dossier: Dossier | null) => dossier?.tracks.form === 'drafting' || dossier?.tracks.form === 'correcting'
/** Nothing has to be said before. */
const isFree = (standing: ActStanding | undefined) => standing !== undefined && standing.outsideDates === null && !standing.needsReason

/** Why something could not be sent, in words: without a connection it is kept in this browser. */
export const sendingTrouble = (error: unknown) => isOffline(error) ? say('sheet.noConnectionToTheOfficeWhat') : problemText(error)

/** How far saving is, in words. */
const stateText = (state: SavingState, at: Date | null) =>
  ({
    'saved': at ? say('sheet.answersSavedAt', { time: at.toTimeString().slice(0, 8) }) : say('sheet.answersSaved'),
    'waiting': say('sheet.typing'),
    'saving': say('sheet.saving'),
    'kept here': say('sheet.keptInThisBrowserNotAt'),
    'conflict': say('sheet.somebodyElseSavedMeanwhile'),
  })[state]

/** What a page keeps of one sheet for its next visit, in this browser. */
function sheetStore(id: string, saving: Saving) {
  const place = `lucid-unsaved-${id}`
  return {
    keep(): void {
      const text = saving.toKeep()
      if (text === null) localStorage.removeItem(place)
      else localStorage.setItem(place, text)
    },
    /** Whether there was something. */
    recover(): boolean {
      const kept = localStorage.getItem(place)
      if (kept === null) return false
      try {
        saving.recover(kept)
        return true
      } catch {
        localStorage.removeItem(place)
        return false
      }
    },
  }
}

/**
 * How the answers of a sheet are sent: a moment after they were typed, and kept in this browser until the office has confirmed them.
 *
 * @param told what is read anew once all is saved, and when a text has to be accepted before anything is.
 */
function useSaving(id: string, permit: Ref<Permit | null>, told: { saved: () => Promise<void>, shut: () => Promise<void> }) {
  const saving = shallowReactive(new Saving())
  const savedAt = ref<Date | null>(null)
  const trouble = ref('')
  const { keep, recover: takeUp } = sheetStore(id, saving)
  const turns = useTurns(send)

  async function send(): Promise<void> {
    const sent = saving.next()
    if (!sent) return
    keep()
    try {
      saving.saved(await callApi<SavedSheet>(`/api/applications/${id}/answers`, { method: 'PATCH', body: { ...sent, ...permit.value } }))
      savedAt.value = new Date()
      trouble.value = ''
      if (saving.isWhole) await told.saved().catch(() => undefined)
      else turns.plan(700)
    } catch (error) {
      fail(error)
    }
    keep()
  }
  function fail(error: unknown): void {
    if (error instanceof ProblemError && error.problem.code === 'sheet.conflict') return saving.clashed(error.problem.data as SheetConflict)
    trouble.value = sendingTrouble(error)
    // A refusal will not change by asking again; a missing connection will.
    if (error instanceof ProblemError && ['bad-input', 'not-now', 'not-allowed'].includes(error.problem.kind)) return saving.refused()
    saving.unanswered()
    turns.plan(4000)
    if (error instanceof ProblemError && error.problem.code === 'sheet.texts-first') told.shut().catch(() => undefined)
  }
  function change(question: string, answer: Answer): void {
    saving.change(question, answer)
    keep()
    turns.plan(700)
  }
  // What an earlier visit could not send.
  function recover(): void {
    if (takeUp()) turns.plan(0)
  }
  /** Sends what is not saved yet; whether all of it is saved now. */
  async function save(): Promise<boolean> {
    do await turns.now()
    while (saving.state === 'waiting')
    return saving.isWhole
  }
  /** Ends a conflict: `mine` names the questions whose own answer is kept; for the others the other person's stands. */
  async function settle(mine: Set<string>): Promise<void> {
    saving.settle(mine)
    keep()
    await save()
  }
  const shown = {
    answers: computed(() => saving.answers),
    state: computed(() => saving.state),
    savedText: computed(() => stateText(saving.state, savedAt.value)),
    conflict: computed(() => saving.conflict),
    merged: computed(() => saving.merged),
    trouble,
  }
  return { saving, shown, change, recover, save, settle }
}

/** What follows from the answers of a sheet: what is asked, found and owed, and which posts are open. */
function useConsequences(dossier: Ref<Dossier | null>, answers: Ref<Answers>) {
  const cycle = useCycleStore()
  const isBeingFilled = computed(() => isEditable(dossier.value))
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
  const asked = computed(() => new Map(cycle.notice ? liveSheet(cycle.notice, answers.value).asked.map(q => [q.id, q]) : []))
  /** What is typed, with the office's word on what was asked for. */
  const decided = computed(() => cycle.notice ? withDecisions(cycle.notice, answers.value, dossier.value?.decided ?? {}) : answers.value)
  const verdicts = computed(() => cycle.notice ? evaluatePosts(cycle.notice, decided.value) : [])
  const fee = computed(() =>
    dossier.value?.assessed && (!isBeingFilled.value || unpaidFirst.value !== null)
      ? dossier.value.assessment
      : cycle.notice
      ? assessFee(cycle.notice, answers.value, new Date())
      : null
  )
  return { asked, findings, decided, verdicts, fee, unpaidFirst }
}

/** What of a sheet may be changed now. */
function useOpenItems(dossier: Ref<Dossier | null>, permit: Ref<Permit | null>) {
  const cycle = useCycleStore()
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
  return { writable, isOpen, waits }
}

/**
 * Town and district follow the postal code as long as nobody has written others.
 *
 * @returns the questions that follow, with their answers.
 */
function followers(notice: Notice, answers: Answers, question: string, answer: Answer): [string, Answer][] {
  return notice.sections.flatMap(section => section.questions).flatMap((other) => {
    if (other.kind !== 'text' || other.sameAs !== question) return []
    const [was, is] = [answers[question], answer].map(code => placeOfPostalCode(notice, typeof code === 'string' ? code : ''))
    const written = answers[other.id]
    return is && is !== written && (!written || written === was) ? [[other.id, is]] : []
  })
}

/**
 * One application on the screen. Answers are saved a moment after they are typed; until the office has confirmed them
 * they also stand in this browser's storage, so that neither a closed page nor a broken connection loses anything.
 */
export function useSheet(id: string) {
  const cycle = useCycleStore()
  const session = useSessionStore()
  const dossier = shallowRef<Dossier | null>(null)
  /** Why an officer acts outside the dates of the notice, once they have said so. */
  const permit = shallowRef<Permit | null>(null)
  const { saving, shown, change, recover, save, settle } = useSaving(id, permit, {
    saved: async () => {
      if (unpaidFirst.value !== null && unpaidFirst.value !== 'not assessed') await refresh()
    },
    shut: async () => {
      if (!dossier.value?.hasTextsFirst) await refresh()
    },
  })
  const editable = computed(() => isEditable(dossier.value))
  const { unpaidFirst, ...follows } = useConsequences(dossier, shown.answers)

  async function load(): Promise<void> {
    // The cycle of the last visit is most likely this one's: its notice is asked for at once, and not after the application.
    const [got] = await Promise.all([callApi<Dossier>(`/api/applications/${id}`), cycle.recall()])
    // A link may lead to an application of another cycle: the work goes over to it.
    if (got.cycle !== cycle.code) await cycle.choose(got.cycle)
    show(got)
    if (editable.value && session.looksAs === null) recover()
  }
  function show(got: Dossier): void {
    dossier.value = got
    saving.show(got)
    // The office is told that it was read; what cannot be told now is with the next look.
    if (got.hasNews && session.looksAs === null) void callApi(`/api/applications/${id}/seen`, { method: 'PUT' }).catch(() => undefined)
  }
  const acts = useAct(id, (got) => {
    show(got)
    cycle.refreshBand().catch(() => undefined)
  })
  /** Submits the form or hands the correction in; whether it went well. */
  async function submit(texts: readonly TextRead[]): Promise<boolean> {
    return await attempt(async () => {
      if (!await save()) throw pageRefusal({ code: 'sheet.not-saved', parameters: {} })
    }) && acts.perform('submit', { revision: saving.revision, declared: true, texts, ...permit.value })
  }
  /** Reads the application again, leaving what is being typed as it is. */
  async function refresh(): Promise<void> {
    show(await callApi<Dossier>(`/api/applications/${id}`))
  }
  function write(question: string, answer: Answer): void {
    const following = cycle.notice ? followers(cycle.notice, shown.answers.value, question, answer) : []
    for (const [item, one] of [[question, answer] as const, ...following]) change(item, one)
  }
  return {
    ...shown,
    ...follows,
    ...useOpenItems(dossier, permit),
    dossier,
    permit,
    editable,
    unpaidFirst,
    busy: acts.busy,
    show,
    load,
    change: write,
    save,
    settle,
    submit,
    refresh,
  }
}
export type Sheet = ReturnType<typeof useSheet>
