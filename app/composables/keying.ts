import type { Answer, Answers } from '~~/core/application/answers'
import type { KeyingList, KeyingView } from '~~/shared/keying'

/** Takes the next form in hand that the reader may key a second time, and goes there; to the list where none waits. */
export async function keyNext(): Promise<void> {
  const { id } = await callApi<{ id: string | null }>(useCycleStore().path('keying/next'), { method: 'POST' })
  await navigateTo(id ? `/intake/keying/${id}` : '/intake/keying')
  if (!id) tell(say('keying.nothingNext'))
}

/** Goes to the form that has waited longest to be compared with its paper; to the list where none waits. */
export async function compareNext(): Promise<void> {
  const { rows: [first] } = await callApi<KeyingList>(useCycleStore().path('keying'), { query: { state: 'differing' } })
  await navigateTo(first ? `/intake/keying/${first.id}` : '/intake/keying')
}

/**
 * A paper form that is keyed a second time. What is typed is kept by the office a moment later, and in this browser until then, so that
 * neither a closed page nor a broken connection loses anything.
 */
export function useSecondKeying(id: string) {
  const view = shallowRef<KeyingView | null>(null)
  const answers = ref<Answers>({})
  const savedAt = ref<Date | null>(null)
  const trouble = ref('')
  const store = `lucid-keying-${id}`
  let unsaved: Record<string, Answer> = {}
  const turns = useTurns(send)

  /** Reads it; one that waits for a second person is taken in hand. */
  async function load(): Promise<void> {
    const read = await callApi<KeyingView>(`/api/applications/${id}/keying`)
    take(read.state === 'second' ? await put({}) : read)
    const kept = localStorage.getItem(store)
    if (kept === null || read.state !== 'second') return localStorage.removeItem(store)
    unsaved = { ...JSON.parse(kept) as Record<string, Answer>, ...unsaved }
    answers.value = { ...answers.value, ...unsaved }
    turns.plan(0)
  }
  const put = (changes: Record<string, Answer>) =>
    callApi<KeyingView>(`/api/applications/${id}/keying`, { method: 'PUT', body: { changes } })
  function take(read: KeyingView): void {
    view.value = read
    answers.value = { ...read.keyed, ...unsaved }
  }
  function change(question: string, answer: Answer): void {
    unsaved[question] = answer
    answers.value = { ...answers.value, [question]: answer }
    localStorage.setItem(store, JSON.stringify(unsaved))
    turns.plan(700)
  }
  /** Sends what is not saved yet; whether all of it is saved now. */
  async function save(): Promise<boolean> {
    await turns.now()
    return Object.keys(unsaved).length === 0
  }
  async function send(): Promise<void> {
    if (Object.keys(unsaved).length === 0) return
    const sent = { ...unsaved }
    try {
      const read = await put(sent)
      for (const [question, answer] of Object.entries(sent)) if (unsaved[question] === answer) Reflect.deleteProperty(unsaved, question)
      if (Object.keys(unsaved).length === 0) localStorage.removeItem(store)
      take(read)
      savedAt.value = new Date()
      trouble.value = ''
    } catch (error) {
      trouble.value = isOffline(error) ? say('sheet.noConnectionToTheOfficeWhat') : problemText(error)
      if (isOffline(error)) turns.plan(4000)
    }
  }
  return { view, answers, savedAt, trouble, load, change, save }
}
