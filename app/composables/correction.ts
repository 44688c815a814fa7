import type { Answer, Answers } from '~~/core/application/answers'
import type { Dossier } from '~~/shared/applications'
import type { CorrectionView } from '~~/shared/corrections'

const given = (reason: string) => reason.trim() === '' ? {} : { reason: reason.trim(), outsideDates: true }

/** What the office has of a correction, and over it what it does not have yet: nothing for an item that is left as it is in the form. */
function joined({ state, changes }: CorrectionView, unsaved: Record<string, Answer | null>): Record<string, Answer> {
  const kept = state === 'drafting' ? Object.fromEntries(changes.map(change => [change.item, change.after])) : {}
  return Object
    .fromEntries(Object.entries({ ...kept, ...unsaved }).flatMap(([item, answer]) => answer === null ? [] : [[item, answer] as const]))
}

/** The correction of one application on the screen. What is typed is kept by the office a moment later, and in this browser until then. */
export function useCorrection(id: string) {
  const cycle = useCycleStore()
  const view = shallowRef<CorrectionView | null>(null)
  const dossier = shallowRef<Dossier | null>(null)
  /** Answers that differ from those in the form. */
  const changes = ref<Record<string, Answer>>({})
  const isDrafting = computed(() => view.value?.state === 'drafting')
  const send = (method: 'GET' | 'PUT' | 'DELETE', body?: object) =>
    callApi<CorrectionView>(`/api/applications/${id}/correction`, { method, body })
  const typed = useTyped<Answer | null, CorrectionView>(
    `lucid-correction-${id}`,
    (unsaved, said) => send('PUT', { changes: unsaved, ...given(said) }),
    take,
  )

  async function load(): Promise<void> {
    const [form, read] = await Promise.all([callApi<Dossier>(`/api/applications/${id}`), send('GET'), cycle.recall()])
    if (form.cycle !== cycle.code) await cycle.choose(form.cycle)
    dossier.value = form
    if (read.state === 'drafting') {
      typed.reason.value = read.reason
      typed.recover()
    } else typed.forget()
    take(read)
  }
  // What somebody else has written of the same correction meanwhile comes along.
  function take(read: CorrectionView): void {
    view.value = read
    changes.value = joined(read, typed.changes.value)
  }
  function change(question: string, answer: Answer | null): void {
    typed.set(question, answer)
    if (view.value) take(view.value)
  }
  const anew = (method: 'PUT' | 'DELETE', body?: object) =>
    attempt(async () => {
      typed.forget()
      take(await send(method, body))
    })
  const { busy, perform } = useAct(id, (got) => {
    dossier.value = got
  })
  /** Hands it in, or takes back what was. */
  async function act(name: 'ask-correction' | 'take-back-correction'): Promise<void> {
    if (name === 'ask-correction' && !await typed.save()) return
    if (await perform(name, given(typed.reason.value))) await attempt(load)
  }
  return {
    ...typed,
    view,
    dossier,
    answers: computed<Answers>(() => ({ ...dossier.value?.answers, ...changes.value })),
    changes,
    busy,
    isDrafting,
    load,
    change,
    /** Leaves an item as it stands in the form. */
    leave: (question: string) => change(question, null),
    begin: () => anew('PUT', { changes: {} }),
    drop: () => anew('DELETE'),
    act,
    refresh: async () => take(await send('GET')),
  }
}
export type Correction = ReturnType<typeof useCorrection>
