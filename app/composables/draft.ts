import type { InjectionKey, Ref } from 'vue'
import type { Answers } from '~~/core/application/answers'
import { parseNotice, readableNotice } from '~~/core/notice/check'
import { applyEdit, isEqual, joinEdits, undone, type Clash, type Edit } from '~~/core/notice/edit'
import { valueAt, type NoticeFinding } from '~~/core/notice/finding'
import { idFrom, type NoticeForms, type SchemaNode } from '~~/core/notice/form'
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
const lookEvery = 8000
const stepsKept = 400

/**
 * A draft of a notice on the screen. Every change is an edit that can be undone; edits are kept a moment after they were made, and until
 * the office has them they stand in this browser's storage. What somebody else keeps meanwhile is joined value by value; where both changed
 * the same, both are shown.
 */
export function useDraft(id: string) {
  const detail = shallowRef<DraftDetail | null>(null)
  const document = shallowRef<unknown>(null)
  const findings = shallowRef<NoticeFinding[]>([])
  const examples = shallowRef<Record<string, Answers>>({})
  const state = ref<DraftState>('kept')
  const keptAt = ref<Date | null>(null)
  const trouble = ref('')
  const clashes = shallowRef<Clash[]>([])
  /** Who kept it meanwhile, and which values came with that. */
  const joined = shallowRef<{ by: string, count: number } | null>(null)
  const past = shallowRef<Edit[]>([])
  const ahead = shallowRef<Edit[]>([])
  const store = `lucid-draft-${id}`
  let base: unknown = null
  let revision = 0
  let unsaved: Edit[] = []
  // On their way to the office, and not there for sure.
  let sending: Edit[] = []
  const turns = useTurns(send)
  let madeAt = 0

  const ask = useAsking<NoticeAsk, Checked>(
    () => new Worker(new URL('../workers/notice.worker.ts', import.meta.url), { type: 'module' }),
    'page.fault',
  )
  let latest = 0
  function check() {
    latest += 1
    const mine = latest
    ask(serial => ({ id: serial, document: plain(document.value), register: plain(detail.value?.register ?? []) }), (told) => {
      if (mine === latest && 'findings' in told) {
        findings.value = told.findings
        examples.value = told.examples
      }
      return true
    })
  }
  const checkSoon = useDebounced(check, 150)

  /** For words only: whatever of the draft can be read. */
  const readable = computed(() => readableNotice(document.value))
  /** The draft as a notice, once it has no errors. */
  const sound = computed(() =>
    findings.value.some(f => f.severity === 'error') || document.value === null
      ? null
      : parseNotice(plain(document.value), new Map(detail.value?.register.map(city => [city.id, city]))).notice
  )

  async function load(): Promise<void> {
    const got = await callApi<DraftDetail>(`/api/drafts/${id}`)
    detail.value = got
    base = got.document
    revision = got.revision
    document.value = got.document
    findings.value = got.findings
    recover()
    check()
  }
  // What an earlier visit could not send, and what can be undone.
  function recover() {
    try {
      const held = JSON.parse(localStorage.getItem(store) ?? '{}') as { unsaved?: Edit[], past?: Edit[], ahead?: Edit[], clashes?: Clash[] }
      past.value = held.past ?? []
      ahead.value = held.ahead ?? []
      clashes.value = held.clashes ?? []
      if (held.unsaved?.length) join(document.value, held.unsaved)
    } catch {
      localStorage.removeItem(store)
    }
    if (unsaved.length > 0) turns.plan(0)
  }
  function remember() {
    const typed = { unsaved: [...sending, ...unsaved], clashes: clashes.value }
    // A full storage keeps at least what the office does not have yet.
    for (const kept of [{ ...typed, past: past.value, ahead: ahead.value }, typed]) {
      try {
        localStorage.setItem(store, JSON.stringify(kept))
        return
      } catch {
        // Less is tried.
      }
    }
  }
  /** Once the draft is gone nothing of it stays here. */
  function forget() {
    unsaved = []
    sending = []
    localStorage.removeItem(store)
  }
  function join(theirs: unknown, edits: readonly Edit[]) {
    const result = joinEdits(theirs, edits)
    document.value = result.document
    unsaved = result.joined
    clashes.value = [...clashes.value, ...result.clashes]
  }

  function put(edit: Edit) {
    document.value = applyEdit(document.value, edit)
    unsaved.push(edit)
    state.value = 'waiting'
    remember()
    turns.plan(pause)
    checkSoon()
  }
  /** Sets one value; undefined takes it out. An id follows the title beside it until it is given by hand. */
  function set(at: string, after: unknown) {
    const [whole, following] = withFollowingId(document.value, at, after)
    change(whole, following, typeof after === 'string')
  }
  // Letters typed one after another at one place are one step to undo.
  function change(at: string, after: unknown, isTyped: boolean) {
    const before = valueAt(document.value, at)
    if (isEqual(before, after)) return
    const last = past.value.at(-1)
    const goesOn = isTyped && last?.at === at && Date.now() - madeAt < 1500
    madeAt = Date.now()
    past.value = goesOn
      ? [...past.value.slice(0, -1), { at, before: last.before, after }]
      : [...past.value, { at, before, after }].slice(-stepsKept)
    ahead.value = []
    put({ at, before, after })
  }
  function undo() {
    const last = past.value.at(-1)
    if (!last) return
    past.value = past.value.slice(0, -1)
    ahead.value = [...ahead.value, last]
    put(undone({ ...last, after: valueAt(document.value, last.at) }))
  }
  function redo() {
    const next = ahead.value.at(-1)
    if (!next) return
    ahead.value = ahead.value.slice(0, -1)
    past.value = [...past.value, next]
    put(next)
  }

  async function send(): Promise<void> {
    if (unsaved.length === 0) return
    const [whole, against] = [document.value, revision]
    sending = unsaved
    unsaved = []
    state.value = 'keeping'
    try {
      const row = await callApi<DraftRow>(`/api/drafts/${id}`, { method: 'PUT', body: { document: whole, revision: against } })
      sending = []
      revision = row.revision
      base = whole
      keptAt.value = new Date()
      trouble.value = ''
      state.value = unsaved.length > 0 ? 'waiting' : 'kept'
    } catch (error) {
      unsaved = [...sending, ...unsaved]
      sending = []
      state.value = 'kept here'
      trouble.value = problemText(error)
      if (error instanceof ProblemError && error.problem.code === 'draft.kept-since') {
        trouble.value = ''
        const isJoined = await look().then(() => true, () => false)
        if (!isJoined || unsaved.length > 0) turns.plan(isJoined ? 0 : 4000)
        else state.value = 'kept'
      } else if (isOffline(error)) turns.plan(4000)
    } finally {
      remember()
    }
  }
  /** Takes in what somebody else has kept since. */
  async function look(): Promise<void> {
    const theirs = await callApi<DraftDetail>(`/api/drafts/${id}`)
    if (theirs.revision <= revision) return
    const count =
      Object.keys({ ...(base as object), ...theirs.document }).filter(key =>
        !isEqual((base as Record<string, unknown>)[key], theirs.document[key])
      ).length
    joined.value = { by: theirs.by, count }
    detail.value = theirs
    base = theirs.document
    revision = theirs.revision
    join(theirs.document, unsaved)
    remember()
    check()
  }
  /** Settles a clash: theirs stays, or ours is set over it. */
  function settle(clash: Clash, ours: boolean) {
    clashes.value = clashes.value.filter(one => one !== clash)
    remember()
    if (ours) set(clash.edit.at, clash.edit.after)
  }

  const looking = setInterval(() => {
    if (!globalThis.document.hidden && !turns.isRunning() && unsaved.length === 0 && detail.value) void look().catch(() => undefined)
  }, lookEvery)
  onScopeDispose(() => {
    clearInterval(looking)
  })

  return {
    detail,
    document,
    findings,
    examples,
    state,
    keptAt,
    trouble,
    clashes,
    joined,
    past,
    ahead,
    readable,
    sound,
    load,
    set,
    undo,
    redo,
    keep: turns.now,
    settle,
    forget,
  }
}

/** A title that is set takes the id with it, as long as that is the one made from the title before. */
function withFollowingId(document: unknown, at: string, after: unknown): [string, unknown] {
  const cut = at.lastIndexOf('/')
  const [parentAt, key] = [at.slice(0, cut), at.slice(cut + 1)]
  const parent = valueAt(document, parentAt)
  if (
    parentAt === '' || (key !== 'title' && key !== 'label') || typeof after !== 'string' || typeof parent !== 'object' || parent === null
  ) return [at, after]
  const held = parent as Record<string, unknown>
  const named = typeof held.id === 'string' ? 'id' : typeof held.code === 'string' ? 'code' : null
  const form = key === 'label' ? 'question-id' : 'id'
  const before = typeof held[key] === 'string' ? held[key] : ''
  if (named === null || (held[named] !== '' && held[named] !== idFrom(before, form))) return [at, after]
  return [parentAt, { ...held, [key]: after, [named]: idFrom(after, form) }]
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
