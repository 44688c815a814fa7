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

/** A paper form that is keyed a second time. What is typed is kept by the office a moment later, and in this browser until then. */
export function useSecondKeying(id: string) {
  const view = shallowRef<KeyingView | null>(null)
  const answers = ref<Answers>({})
  const put = (changes: Record<string, Answer>) =>
    callApi<KeyingView>(`/api/applications/${id}/keying`, { method: 'PUT', body: { changes } })
  const { changes, savedAt, trouble, set, recover, forget, save } = useTyped<Answer, KeyingView>(`lucid-keying-${id}`, put, take)

  /** Reads it; one that waits for a second person is taken in hand. */
  async function load(): Promise<void> {
    const read = await callApi<KeyingView>(`/api/applications/${id}/keying`)
    const isOpen = read.state === 'second'
    if (isOpen) recover()
    else forget()
    take(isOpen ? await put({}) : read)
  }
  function take(read: KeyingView): void {
    view.value = read
    answers.value = { ...read.keyed, ...changes.value }
  }
  function change(question: string, answer: Answer): void {
    set(question, answer)
    answers.value = { ...answers.value, [question]: answer }
  }
  return { view, answers, savedAt, trouble, load, change, save }
}
