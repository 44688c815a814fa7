<script setup lang="ts">
import '~/words/later'
import type { Edit } from '~~/core/imaging/fit'
import type { Finding, Verdict } from '~~/core/finding/finding'
import type { Turn } from '~~/core/imaging/upright'
import type { DocumentRule } from '~~/core/notice/file-rules'
import type { ChosenPage } from '~/composables/document'

const { editWords } = useWords().pictures

/**
 * Chosen files before they are sent: their pages in order, to be turned, moved and left out, and what they make together. A file that
 * keeps every rule as it is stays as it is; everything else becomes one PDF.
 */
const props = defineProps<{ first: File[], rule: DocumentRule, sending: boolean, /** Why it is not sent yet. */ waiting: string }>()
const emit = defineEmits<
  { send: [file: Blob, edits: Edit[], verdicts: Record<string, Verdict>, originals: File[]], drop: [], refused: [words: string] }
>()
const worker = useDocumentWorker()
const { addressOf, giveBack } = useAddresses()

interface OpenFile {
  number: number
  file: File
  findings: Finding[]
  views: Blob[]
}
interface Draft extends ChosenPage {
  key: number
}
interface Outcome {
  file: Blob
  edits: Edit[]
  findings: Finding[]
  views: string[]
}
const files = shallowRef<OpenFile[]>([])
const drafts = ref<Draft[]>([])
const outcome = shallowRef<Outcome | null>(null)
const busy = ref(0)
const trouble = ref('')
const more = ref<HTMLInputElement | null>(null)
let made = 0
let keys = 0

/** The one file that was chosen, as long as nothing was done to its pages. */
const untouched = computed(() => {
  const [only] = files.value
  if (!only || files.value.length > 1 || drafts.value.length !== only.views.length) return null
  return drafts.value.every(({ page, turn }, i) => page === i && !turn) ? only : null
})
const mayBind = computed(() => props.rule.formats.includes('pdf'))
const failed = computed(() => outcome.value?.findings.filter(f => f.verdict === 'fail').length ?? 0)
const doubtful = computed(() => outcome.value?.findings.filter(f => f.verdict === 'unsure').length ?? 0)
const open = computed(() => outcome.value?.findings.filter(f => f.verdict !== 'pass') ?? [])
const verdict = computed(() => {
  if (busy.value > 0 || !outcome.value) return outcome.value ? say('documents.puttingThePagesTogether') : say('documents.readingThePages')
  if (failed.value > 0) return say('documents.rulesNotKept', { failed: failed.value })
  return doubtful.value > 0 ? say('documents.inOrderButForWhatA') : say('documents.everythingIsInOrder')
})
const press = computed(() =>
  say('documents.sendThePage', {
    drafts: drafts.value.length,
    hasOutcome: String(Boolean(outcome.value)),
    size: ((outcome.value?.file.size ?? 0) / 1024).toFixed(0),
  })
)
const turns = computed(() =>
  new Map((outcome.value?.edits ?? []).flatMap(edit => edit.kind === 'page turned' ? [[edit.page, edit.degrees] as const] : []))
)

async function add(chosen: File[]) {
  trouble.value = ''
  busy.value += 1
  for (const file of chosen) {
    const number = keys += 1
    try {
      const { findings, views } = await worker.open(number, file, props.rule)
      files.value = [...files.value, { number, file, findings, views }]
      drafts.value.push(...views.map((_, page) => ({ key: keys += 1, source: number, page })))
    } catch (error) {
      if (error instanceof FileRefusal && !error.sure && files.value.length === 0) return emit('send', file, [], {}, [])
      trouble.value = `${file.name}: ${error instanceof FileRefusal ? error.message : say('documents.cannotBeRead')}`
    }
  }
  busy.value -= 1
  if (files.value.length === 0) return emit('refused', trouble.value)
  await bind()
}

/** Makes anew what is shown and will be sent. Only the newest making counts: pages may be moved faster than they are put together. */
async function bind() {
  const turn = made += 1
  busy.value += 1
  try {
    const only = untouched.value
    if (only && (!mayBind.value || only.findings.every(f => f.verdict !== 'fail'))) {
      return show({ file: only.file, edits: [], findings: only.findings }, only.views)
    }
    const bound = await worker.make(drafts.value.map(({ source, page, turn: by }) => ({ source, page, turn: by })), props.rule)
    if (turn === made) show(bound, bound.views)
  } catch (error) {
    trouble.value = error instanceof FileRefusal ? error.message : say('documents.thePagesCouldNotBePut')
    if (turn === made && untouched.value) {
      show({ file: untouched.value.file, edits: [], findings: untouched.value.findings }, untouched.value.views)
    }
  } finally {
    busy.value -= 1
  }
}
function show(next: Omit<Outcome, 'views'>, views: Blob[]) {
  giveBack(outcome.value?.views ?? [])
  outcome.value = { ...next, views: views.map(addressOf) }
}
onMounted(() => add(props.first))

async function change(act: () => void) {
  trouble.value = ''
  act()
  await bind()
}
/** What can be done with a page by hand. */
function actsOn(i: number) {
  const move = (by: number) => () => drafts.value.splice(i + by, 0, ...drafts.value.splice(i, 1))
  const several = drafts.value.length > 1
  return [
    { sign: '←', label: say('documents.movePageForward', { i: i + 1 }), there: several, off: i === 0, act: move(-1) },
    { sign: '→', label: say('documents.movePageBack', { i: i + 1 }), there: several, off: i === drafts.value.length - 1, act: move(1) },
    { sign: '↻', label: say('documents.turnPageToTheRight', { i: i + 1 }), there: mayBind.value, off: false, act: () => turnRight(i) },
    { sign: '✕', label: say('documents.leaveOutPage', { i: i + 1 }), there: several, off: false, act: () => leaveOut(i) },
  ].filter(({ there }) => there)
}
function turnRight(i: number) {
  const draft = drafts.value[i]
  if (draft) draft.turn = (((draft.turn ?? turns.value.get(i + 1) ?? 0) + 90) % 360) as Turn
}
function leaveOut(i: number) {
  const [gone] = drafts.value.splice(i, 1)
  if (!gone || drafts.value.some(({ source }) => source === gone.source)) return
  files.value = files.value.filter(({ number }) => number !== gone.source)
  worker.close(gone.source)
}
function chosen(event: Event) {
  const target = event.target as HTMLInputElement
  const list = [...target.files ?? []]
  target.value = ''
  if (list.length > 0) void add(list)
}
function send() {
  if (!outcome.value) return
  const { file, edits, findings } = outcome.value
  emit(
    'send',
    file,
    edits,
    Object.fromEntries(findings.map(f => [f.code, f.verdict])),
    edits.length > 0 ? files.value.map(one => one.file) : [],
  )
}
</script>

<template>
  <div class="binder">
    <ol class="pages">
      <li
        v-for="(draft, i) in drafts"
        :key="draft.key"
      >
        <img
          v-if="outcome?.views[i]"
          :src="outcome.views[i]"
          :alt="say('documents.page', { i: i + 1 })"
          :class="{ waiting: busy > 0 }"
        >
        <span
          v-else
          class="absent"
        />
        <span class="under small"><b>{{ i + 1 }}</b>
          <button
            v-for="act in actsOn(i)"
            :key="act.sign"
            type="button"
            :disabled="act.off || busy > 0"
            :aria-label="act.label"
            :title="act.label"
            @click="change(act.act)"
          >{{ act.sign }}</button>
        </span>
      </li>
    </ol>
    <p
      role="status"
      class="verdict"
    >
      <b>{{ verdict }}</b>
    </p>
    <HouseAlert
      :text="trouble"
      kind="refusal"
    />
    <HouseAlert
      :text="waiting"
      kind="attention"
    />
    <HouseFindingRows
      v-if="busy === 0"
      :findings="open"
    />
    <ul
      v-if="outcome && outcome.edits.length > 0"
      class="soft small edits"
    >
      <li
        v-for="edit in outcome.edits"
        :key="editWords(edit)"
      >
        {{ editWords(edit) }}
      </li>
    </ul>
    <input
      ref="more"
      type="file"
      multiple
      accept="application/pdf,image/jpeg,image/png"
      class="visually-hidden"
      tabindex="-1"
      :aria-label="say('documents.chooseMorePagesFor', { title: rule.title })"
      data-more
      @change="chosen"
    >
    <div class="acts">
      <HouseButton
        primary
        :busy="sending"
        :disabled="busy > 0 || !outcome"
        @click="send"
      >
        {{ press }}
      </HouseButton>
      <HouseButton
        v-if="mayBind"
        :disabled="busy > 0 || sending"
        @click="more?.click()"
      >
        {{ say('documents.addPages') }}
      </HouseButton>
      <HouseButton
        :disabled="sending"
        @click="emit('drop')"
      >
        {{ say('documents.chooseAnew') }}
      </HouseButton>
    </div>
  </div>
</template>

<style scoped>
.binder { border: 1px solid var(--line-strong); background: var(--paper); padding: 12px; margin: 8px 0; max-width: 640px; }
.pages { display: flex; flex-wrap: wrap; gap: 12px; list-style: none; margin: 0; padding: 0; }
.pages li { display: flex; flex-direction: column; gap: 4px; width: 132px; }
img, .absent { width: 132px; height: 168px; object-fit: contain; border: 1px solid var(--line-strong); background: #fff; }
.waiting { opacity: 0.5; }
.under { display: flex; align-items: center; gap: 2px; }
.under b { margin-right: auto; }
.under button {
  font: 600 15px/1 var(--sans); width: 26px; height: 26px; border: 1px solid var(--line-strong); border-radius: 3px;
  background: var(--sheet); color: var(--accent); cursor: pointer; padding: 0;
}
.under button:disabled { color: var(--ink-soft); opacity: 0.5; cursor: default; }
.verdict { margin: 10px 0 4px; }
.edits { margin: 6px 0 0; padding-left: 18px; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 12px; }
@media (max-width: 900px) {
  .pages li { width: calc(50% - 6px); }
  img, .absent { width: 100%; }
  .under button { width: 34px; height: 40px; }
  .acts { display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); }
  .acts .button { height: 44px; padding: 0 8px; }
  .acts .button.is-primary { grid-column: 1 / -1; }
}
</style>
