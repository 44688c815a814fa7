<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import type { UploadNote } from '~~/shared/pictures'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import { takenAtMost } from '~~/core/imaging/picture'
import type { DocumentRule } from '~~/core/notice/schema'
import { editWords, tooManyBytesWords } from '~~/core/words/en/pictures'

/** One document of the sheet: what it must show, what is there, and the way to add another. */
const props = defineProps<{ rule: DocumentRule, document: ImageView | undefined, applicationId: string, readonly: boolean }>()
const emit = defineEmits<{ added: [] }>()
const input = ref<HTMLInputElement | null>(null)
const camera = ref<HTMLInputElement | null>(null)
const chosen = shallowRef<File[]>([])
const busy = ref(false)
const refusal = ref('')
const following = ref('')
const title = computed(() => props.rule.title.toLowerCase())
const wanted = computed(() => {
  const { formats, bytes, pages } = props.rule
  const size = bytes.max === undefined ? '' : `, ${bytes.min === undefined ? 'up' : `${bytes.min / 1024} KB`} to ${bytes.max / 1024} KB (1 KB = 1024 bytes)`
  const count = pages.max === undefined ? '' : `, ${pages.min ?? 1} to ${pages.max} pages`
  return `${formats.map(f => f.toUpperCase()).join(', ').replace(/, ([^,]*)$/, ' or $1')}${size}${count}.${formats.includes('pdf') ? ' Several pictures become one PDF here.' : ''}`
})

function take(files: File[]) {
  refusal.value = ''
  const heavy = files.find(file => file.size > takenAtMost.bytes)
  if (heavy) refusal.value = `${heavy.name}: ${tooManyBytesWords(heavy.size, takenAtMost.bytes)}`
  else if (files.length > 0) chosen.value = files
}
function onChoice(event: Event) {
  const target = event.target as HTMLInputElement
  take([...target.files ?? []])
  target.value = ''
}
function refused(words: string) {
  chosen.value = []
  refusal.value = words
}
async function send(file: Blob, edits: Edit[], verdicts: Record<string, Verdict>, originals: File[]) {
  refusal.value = ''
  busy.value = true
  try {
    const note: UploadNote = { edits, verdicts }
    const view = await callApi<ImageView>(`/api/applications/${props.applicationId}/images/${props.rule.id}`, { method: 'PUT', bytes: file, headers: { 'x-lucid-picture': JSON.stringify(note) } })
    chosen.value = []
    emit('added')
    if (originals.length > 0) void follow(view.id, originals)
  } catch (error) {
    refusal.value = problemText(error)
  } finally {
    busy.value = false
  }
}
/** The files as they were chosen follow behind the one that counts, so that a slow line keeps nobody waiting. */
async function follow(imageId: string, originals: File[]) {
  following.value = 'The files as chosen follow; you can go on.'
  try {
    for (const file of originals) await callApi(`/api/images/${imageId}/original`, { method: 'PUT', bytes: file })
    following.value = ''
    emit('added')
  } catch {
    following.value = 'The files as chosen could not be sent along. What was made of them is stored and counts.'
  }
}
// One that the office keeps but has not measured yet is asked for again.
watch(() => props.document, (document) => {
  if (document && !document.measured) setTimeout(() => emit('added'), 2500)
}, { immediate: true })
</script>

<template>
  <div
    :id="`row-${rule.id}`"
    class="slot"
    @dragover.prevent
    @drop.prevent="!readonly && take([...$event.dataTransfer?.files ?? []])"
  >
    <span class="label">{{ rule.title }}<template v-if="!rule.required"><br><span class="soft small">may follow</span></template></span>
    <div>
      <template v-if="document">
        <DocumentPages
          v-if="document.measured"
          :document="document"
          :title="rule.title"
        />
        <p
          v-else
          class="note"
          role="status"
        >
          Stored, and being measured by the office…
        </p>
        <p class="soft small about">
          <b>Stored</b> · version {{ document.version }} · {{ document.format.toUpperCase() }} · {{ (document.bytes / 1024).toFixed(0) }} KB<template v-if="document.pages.length > 0">
            · {{ document.pages.length }} {{ document.pages.length === 1 ? 'page' : 'pages' }}
          </template>
          <template v-if="document.edits.length > 0">
            <br>{{ document.edits.map(editWords).join('; ') }}<template v-if="document.originals > 0">. The files as chosen are kept, too.</template>
          </template>
        </p>
      </template>
      <p
        v-else-if="readonly"
        :class="rule.required ? 'refusal' : 'soft'"
      >
        None
      </p>
      <template v-if="!readonly">
        <DocumentBinder
          v-if="chosen.length > 0"
          :key="chosen.map(file => `${file.name}-${file.size}-${file.lastModified}`).join()"
          :first="chosen"
          :rule="rule"
          :sending="busy"
          @send="send"
          @drop="chosen = []"
          @refused="refused"
        />
        <template v-else>
          <p class="small">
            {{ rule.shows }}
          </p>
          <p class="soft small">
            {{ wanted }}
          </p>
          <div class="choose">
            <ElButton @click="input?.click()">
              {{ document ? `Replace the ${title}` : `Choose the ${title}` }}
            </ElButton>
            <ElButton @click="camera?.click()">
              Take a picture of it
            </ElButton>
          </div>
        </template>
        <input
          ref="input"
          type="file"
          multiple
          accept="application/pdf,image/jpeg,image/png"
          class="visually-hidden"
          :aria-label="`Choose files for the ${title}`"
          :data-document="rule.id"
          @change="onChoice"
        >
        <input
          ref="camera"
          type="file"
          accept="image/jpeg"
          capture="environment"
          class="visually-hidden"
          :aria-label="`Take a picture of the ${title}`"
          @change="onChoice"
        >
      </template>
      <p
        v-if="following"
        class="soft small"
        role="status"
      >
        {{ following }}
      </p>
      <p
        v-if="refusal"
        class="note is-refusal"
        role="alert"
      >
        {{ refusal }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.slot { display: grid; grid-template-columns: 220px minmax(0, 1fr); gap: 4px 16px; padding: 8px 0 16px; scroll-margin-top: 170px; }
.label { color: var(--ink-soft); }
.choose { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 6px; }
.about { padding-top: 3px; max-width: 60ch; }
.note { margin-top: 8px; }
p.small { max-width: 60ch; }
@media (max-width: 900px) { .slot { grid-template-columns: minmax(0, 1fr); } .label { color: var(--ink); font-weight: 600; } }
</style>
