import type { InjectionKey, Ref } from 'vue'
import type { Answers } from '~~/core/application/answers'
import { parseNotice, readableNotice } from '~~/core/notice/check'
import { Drafting } from '~~/core/notice/drafting'
import type { Clash } from '~~/core/notice/edit'
import type { NoticeFinding } from '~~/core/notice/finding'
import type { NoticeForms, SchemaNode } from '~~/core/notice/form'
import { ProblemError } from '~~/shared/problem'
import type { DraftDetail, DraftRow, RegisteredCity } from '~~/shared/notice'

export interface NoticeAsk {
  id: number
  document: unknown
  register: RegisteredCity[]
}
interface Checked {
  findings: NoticeFinding[]
  examples: Record<string, Answers>
}
export type DraftState = 'kept' | 'waiting' | 'keeping' | 'kept here'

const pause = 700
const again = 4000
const lookEvery = 8000

/** What is found in a document while it is written: checked beside the page, the newest answer counts. */
function useNoticeCheck(document: () => unknown, register: () => RegisteredCity[]) {
  const findings = shallowRef<NoticeFinding[]>([])
  const examples = shallowRef<Record<string, Answers>>({})
  const ask = useAsking<NoticeAsk, Checked>(
    () => new Worker(new URL('../workers/notice.worker.ts', import.meta.url), { type: 'module' }),
    'page.fault',
  )
  let latest = 0
  function check() {
    latest += 1
    const mine = latest
    ask(serial => ({ id: serial, document: plain(document()), register: plain(register()) }), (told) => {
      if (mine === latest && 'findings' in told) {
        findings.value = told.findings
        examples.value = told.examples
      }
      return true
    })
  }
  /** For words only: whatever of the draft can be read. */
  const readable = computed(() => readableNotice(document()))
  /** The draft as a notice, once it has no errors. */
  const sound = computed(() =>
    findings.value.some(f => f.severity === 'error') || document() === null
      ? null
      : parseNotice(plain(document()), new Map(register().map(city => [city.id, city]))).notice
  )
  return { findings, examples, readable, sound, check, checkSoon: useDebounced(check, 150) }
}

/** What a page keeps of a draft for its next visit, in this browser. */
function draftStore(id: string, drafting: Drafting) {
  const place = `lucid-draft-${id}`
  return {
    keep() {
      // A full storage keeps at least what the office does not have yet.
      for (const withSteps of [true, false]) {
        try {
          localStorage.setItem(place, drafting.toKeep(withSteps))
          return
        } catch {
          // Less is tried.
        }
      }
    },
    recover() {
      try {
        drafting.recover(localStorage.getItem(place) ?? '{}')
      } catch {
        localStorage.removeItem(place)
      }
    },
    /** Once the draft is gone nothing of it stays here. */
    forget() {
      drafting.forget()
      localStorage.removeItem(place)
    },
  }
}

/** Looks again and again while the page is in sight and `isIdle`. */
function useLooking(isIdle: () => boolean, look: () => Promise<void>) {
  const looking = setInterval(() => {
    if (!document.hidden && isIdle()) void look().catch(() => undefined)
  }, lookEvery)
  onScopeDispose(() => clearInterval(looking))
}

/**
 * Sends what was changed a moment after it was, and takes in what somebody else has kept meanwhile.
 *
 * @param told whenever the document is another one than it was, with what the office found in it where it says so.
 */
function useDraftSending(
  id: string,
  drafting: Drafting,
  store: ReturnType<typeof draftStore>,
  told: (findings?: NoticeFinding[]) => void,
) {
  const detail = shallowRef<DraftDetail | null>(null)
  const state = ref<DraftState>('kept')
  const keptAt = ref<Date | null>(null)
  const trouble = ref('')
  /** Who kept it meanwhile, and how many parts of the notice came with that. */
  const joined = shallowRef<{ by: string, count: number } | null>(null)
  const turns = useTurns(send)

  async function load(): Promise<void> {
    detail.value = await callApi<DraftDetail>(`/api/drafts/${id}`)
    drafting.open(detail.value.document, detail.value.revision)
    store.recover()
    if (!drafting.isWhole) turns.plan(0)
    told(detail.value.findings)
  }
  async function send(): Promise<void> {
    const sent = drafting.next()
    if (!sent) return
    state.value = 'keeping'
    try {
      const row = await callApi<DraftRow>(`/api/drafts/${id}`, { method: 'PUT', body: sent })
      drafting.saved(sent.document, row.revision)
      keptAt.value = new Date()
      trouble.value = ''
      state.value = drafting.isWhole ? 'kept' : 'waiting'
    } catch (error) {
      drafting.unanswered()
      state.value = 'kept here'
      await recoverFrom(error)
    } finally {
      store.keep()
    }
  }
  async function recoverFrom(error: unknown): Promise<void> {
    const isOvertaken = error instanceof ProblemError && error.problem.code === 'draft.kept-since'
    trouble.value = isOvertaken ? '' : problemText(error)
    if (!isOvertaken) {
      if (isOffline(error)) turns.plan(again)
      return
    }
    const isJoined = await look().then(() => true, () => false)
    if (!isJoined || !drafting.isWhole) turns.plan(isJoined ? 0 : again)
    else state.value = 'kept'
  }
  /** Takes in what somebody else has kept since. */
  async function look(): Promise<void> {
    const theirs = await callApi<DraftDetail>(`/api/drafts/${id}`)
    const count = drafting.theirs(theirs.document, theirs.revision)
    if (count === null) return
    joined.value = { by: theirs.by, count }
    detail.value = theirs
    store.keep()
    told()
  }
  useLooking(() => !turns.isRunning() && drafting.isWhole && detail.value !== null, look)
  return { detail, state, keptAt, trouble, joined, load, turns }
}

/**
 * A draft of a notice on the screen. Every change can be undone; it is kept a moment after it was made, and until the office has it, it
 * stands in this browser's storage.
 */
export function useDraft(id: string) {
  const drafting = shallowReactive(new Drafting())
  const store = draftStore(id, drafting)
  const register = (): RegisteredCity[] => sending.detail.value?.register ?? []
  const { check, checkSoon, ...checked } = useNoticeCheck(() => drafting.document, register)
  const sending = useDraftSending(id, drafting, store, (found) => {
    if (found) checked.findings.value = found
    check()
  })

  /** What was changed is kept here at once, and by the office a moment later. */
  function changed(isChanged: boolean): void {
    store.keep()
    if (!isChanged) return
    sending.state.value = 'waiting'
    sending.turns.plan(pause)
    checkSoon()
  }
  const { turns, ...shown } = sending
  return {
    ...shown,
    ...checked,
    document: computed(() => drafting.document),
    clashes: computed(() => drafting.clashes),
    past: computed(() => drafting.past),
    ahead: computed(() => drafting.ahead),
    set: (at: string, value: unknown) => changed(drafting.set(at, value, Date.now())),
    undo: () => changed(drafting.undo()),
    redo: () => changed(drafting.redo()),
    keep: turns.now,
    settle: (clash: Clash, isOurs: boolean) => changed(drafting.settle(clash, isOurs, Date.now())),
    forget: store.forget,
  }
}

/** A new member of a list; one that has no title to take an id from gets one by its number. */
export function memberBlank(forms: NoticeForms, of: SchemaNode, count: number): unknown {
  const blank = forms.blankOf(of)
  if (typeof blank !== 'object' || blank === null || 'title' in blank || 'label' in blank) return blank
  const key = 'id' in blank ? 'id' : 'code' in blank ? 'code' : null
  return key === null ? blank : { ...blank, [key]: `${key === 'code' ? 'clause' : 'entry'}-${count + 1}` }
}

export type Draft = ReturnType<typeof useDraft>

/** What the parts of the editor share. */
export interface NoticeEditor {
  draft: Draft
  forms: NoticeForms
  /** The place that was asked for last; whatever folds it away opens. */
  target: Ref<string>
}
export const noticeEditorKey: InjectionKey<NoticeEditor> = Symbol('notice editor')

export function useNoticeEditor(): NoticeEditor {
  const editor = inject(noticeEditorKey)
  if (!editor) throw new Error('a part of the notice editor stands outside of it')
  return editor
}
