<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import type { DocumentRule } from '~~/core/notice/schema'
import { formatWords } from '~~/core/words/en/lists'

/** One document of the sheet: what it must show, what is there, and the way to add another. */
const props = defineProps<{ rule: DocumentRule, document: ImageView | undefined, applicationId: string, readonly: boolean }>()
const emit = defineEmits<{ added: [] }>()
const input = ref<HTMLInputElement | null>(null)
const camera = ref<HTMLInputElement | null>(null)
const chosen = shallowRef<File[]>([])
const { busy, refusal, waiting, following, light, send, forget } = useUpload(props.applicationId, props.rule.id, () => props.document, () => emit('added'))
const title = computed(() => props.rule.title.toLowerCase())
const wanted = computed(() => {
  const { formats, bytes, pages } = props.rule
  const size = bytes.max === undefined ? '' : `, ${bytes.min === undefined ? 'up' : `${bytes.min / 1024} KB`} to ${bytes.max / 1024} KB (1 KB = 1024 bytes)`
  const count = pages.max === undefined ? '' : `, ${pages.min ?? 1} to ${pages.max} pages`
  return `${formatWords(formats)}${size}${count}.${formats.includes('pdf') ? ' Several pictures become one PDF here.' : ''}`
})

function take(files: File[]) {
  if (!light(files) || files.length === 0) return
  forget()
  chosen.value = files
}
function drop() {
  forget()
  chosen.value = []
}
function onChoice(event: Event) {
  const target = event.target as HTMLInputElement
  take([...target.files ?? []])
  target.value = ''
}
function refused(words: string) {
  drop()
  refusal.value = words
}
async function sendDocument(file: Blob, edits: Edit[], verdicts: Record<string, Verdict>, originals: File[]) {
  if (await send(file, edits, verdicts, originals)) chosen.value = []
}
</script>

<template>
  <SheetSlot
    :id="rule.id"
    :title="rule.title"
    :note="rule.required ? undefined : 'may follow'"
    :readonly="readonly"
    :following="following"
    :refusal="refusal"
    @files="take"
  >
    <SheetStored
      v-if="document"
      :file="document"
    >
      <DocumentPages
        :document="document"
        :title="rule.title"
      />
    </SheetStored>
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
        :waiting="waiting"
        @send="sendDocument"
        @drop="drop"
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
  </SheetSlot>
</template>
