import type { Answer, Answers } from '~~/core/application/answers'
import type { Dossier } from '~~/shared/applications'
import type { CorrectionView } from '~~/shared/corrections'

/**
 * The correction of one application on the screen. What is typed is kept by the office a moment later, and in this browser until then, so
 * that neither a closed page nor a broken connection loses anything.
 */
export function useCorrection(id: string) {
  const cycle = useCycleStore()
  const view = shallowRef<CorrectionView | null>(null)
  const dossier = shallowRef<Dossier | null>(null)
  /** Answers that differ from those in the form. */
  const changes = ref<Record<string, Answer>>({})
  const reason = ref('')
  const savedAt = ref<Date | null>(null)
  const trouble = ref('')
  const store = `lucid-correction-${id}`
  const turns = useTurns(send)
  /** What was typed since it was sent last; nothing stands for an item that is left as it is in the form. */
  let unsaved: Record<string, Answer | null> = {}
  let isUnsaved = false

  const answers = computed<Answers>(() => ({ ...dossier.value?.answers, ...changes.value }))
  const isDrafting = computed(() => view.value?.state === 'drafting')
  const body = () => ({ changes: unsaved, reason: reason.value.trim(), ...(reason.value.trim().length > 0 ? { outsideDates: true } : {}) })

  async function load(): Promise<void> {
    const [form, read] = await Promise.all([callApi<Dossier>(`/api/applications/${id}`),
      callApi<CorrectionView>(`/api/applications/${id}/correction`), cycle.recall()])
    if (form.cycle !== cycle.code) await cycle.choose(form.cycle)
    dossier.value = form
    take(read)
    reason.value = isDrafting.value ? read.reason : ''
    recover()
  }
  // What somebody else has written of the same correction meanwhile comes along.
  function take(read: CorrectionView): void {
    view.value = read
    const kept = read.state === 'drafting' ? Object.fromEntries(read.changes.map(change => [change.item, change.after])) : {}
    changes.value = Object
      .fromEntries(Object.entries({ ...kept, ...unsaved }).flatMap(([item, answer]) => answer === null ? [] : [[item, answer] as const]))
  }
  // What an earlier visit could not send.
  function recover(): void {
    const kept = localStorage.getItem(store)
    if (!kept || !isDrafting.value) return localStorage.removeItem(store)
    try {
      const held = JSON.parse(kept) as { changes: Record<string, Answer | null>, reason: string }
      unsaved = { ...held.changes, ...unsaved }
      if (view.value) take(view.value)
      reason.value = held.reason
      plan(0)
    } catch {
      localStorage.removeItem(store)
    }
  }
  function plan(milliseconds = 700): void {
    isUnsaved = true
    localStorage.setItem(store, JSON.stringify({ changes: unsaved, reason: reason.value }))
    turns.plan(milliseconds)
  }
  function change(question: string, answer: Answer): void {
    unsaved[question] = answer
    changes.value = { ...changes.value, [question]: answer }
    plan()
  }
  /** Leaves an item as it stands in the form. */
  function leave(question: string): void {
    unsaved[question] = null
    changes.value = Object.fromEntries(Object.entries(changes.value).filter(([item]) => item !== question))
    plan()
  }
  /** Sends what is not saved yet; whether all of it is saved now. */
  async function save(): Promise<boolean> {
    await turns.now()
    return !isUnsaved
  }
  async function send(): Promise<void> {
    if (!isUnsaved) return
    const [sent, before] = [{ ...unsaved }, JSON.stringify(body())]
    try {
      const read = await callApi<CorrectionView>(`/api/applications/${id}/correction`, { method: 'PUT', body: body() })
      const isAll = JSON.stringify(body()) === before
      for (const [item, answer] of Object.entries(sent)) if (unsaved[item] === answer) Reflect.deleteProperty(unsaved, item)
      take(read)
      if (isAll) {
        isUnsaved = false
        localStorage.removeItem(store)
      }
      savedAt.value = new Date()
      trouble.value = ''
    } catch (error) {
      trouble.value = isOffline(error) ? say('sheet.noConnectionToTheOfficeWhat') : problemText(error)
      if (isOffline(error)) turns.plan(4000)
    }
  }
  const begin = () =>
    attempt(async () => {
      unsaved = {}
      take(await callApi<CorrectionView>(`/api/applications/${id}/correction`, { method: 'PUT', body: { changes: {} } }))
    })
  const drop = () =>
    attempt(async () => {
      turns.stop()
      isUnsaved = false
      localStorage.removeItem(store)
      unsaved = {}
      take(await callApi<CorrectionView>(`/api/applications/${id}/correction`, { method: 'DELETE' }))
    })
  const { busy, perform } = useAct(id, (got) => {
    dossier.value = got
  })
  /** Hands it in, or takes back what was. */
  async function act(name: 'ask-correction' | 'take-back-correction'): Promise<void> {
    if (name === 'ask-correction' && !await save()) return
    if (await perform(name, reason.value.trim() ? { reason: reason.value.trim(), outsideDates: true } : {})) await attempt(load)
  }
  const refresh = async () => {
    take(await callApi<CorrectionView>(`/api/applications/${id}/correction`))
  }
  return {
    view,
    dossier,
    answers,
    changes,
    reason,
    savedAt,
    trouble,
    busy,
    isDrafting,
    load,
    change,
    leave,
    plan,
    begin,
    drop,
    act,
    refresh,
    save,
  }
}
export type Correction = ReturnType<typeof useCorrection>
