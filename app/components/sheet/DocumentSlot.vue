<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import type { DocumentRule } from '~~/core/notice/file-rules'

const { formatWords } = useWords().lists

/** One document of the sheet: what it must show, what is there, and the way to add another. */
const props = defineProps<{ rule: DocumentRule, document: ImageView | undefined, applicationId: string, readonly: boolean }>()
const emit = defineEmits<{ added: [] }>()
const spelling = useSpelling()
const input = ref<HTMLInputElement | null>(null)
const camera = ref<HTMLInputElement | null>(null)
const chosen = shallowRef<File[]>([])
const { busy, refusal, waiting, following, light, send, forget } = useUpload(
  props.applicationId,
  props.rule.id,
  () => props.document,
  () => emit('added'),
)
const title = computed(() => props.rule.title.toLowerCase())
const wanted = computed(() => {
  const { formats, bytes, pages } = props.rule
  const size = bytes.max === undefined
    ? ''
    : say('sheet.sizeOfDocument', { hasMin: String(bytes.min === undefined), min: (bytes.min ?? 0) / 1024, max: bytes.max / 1024 })
  const count = pages.max === undefined ? '' : say('sheet.toPages', { min: pages.min ?? 1, max: pages.max })
  return `${formatWords(formats)}${size}${count}.${formats.includes('pdf') ? say('sheet.severalPicturesBecomeOnePdfHere') : ''}`
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
    :note="rule.followsUntil ? say('sheet.mayFollowUntil', { until: spelling.instant(rule.followsUntil) }) : rule.required ? undefined : say('sheet.mayFollow')"
    :readonly="readonly"
    :following="following"
    :refusal="refusal"
    @files="take"
  >
    <SheetStored
      v-if="document"
      :file="document"
    >
      <LazyDocumentPages
        :document="document"
        :title="rule.title"
      />
    </SheetStored>
    <p
      v-else-if="readonly"
      :class="rule.required ? 'refusal' : 'soft'"
    >
      {{ say('sheet.none') }}
    </p>
    <template v-if="!readonly">
      <LazyDocumentBinder
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
          <HouseButton @click="input?.click()">
            {{ document ? say('sheet.replaceThe', { title }) : say('sheet.chooseThe', { title }) }}
          </HouseButton>
          <HouseButton @click="camera?.click()">
            {{ say('sheet.takeAPictureOfIt') }}
          </HouseButton>
        </div>
      </template>
      <input
        ref="input"
        type="file"
        multiple
        accept="application/pdf,image/jpeg,image/png"
        class="visually-hidden"
        tabindex="-1"
        :aria-label="say('sheet.chooseFilesForThe', { title })"
        :data-document="rule.id"
        @change="onChoice"
      >
      <input
        ref="camera"
        type="file"
        accept="image/jpeg"
        capture="environment"
        class="visually-hidden"
        tabindex="-1"
        :aria-label="say('sheet.takeAPictureOfThe', { title })"
        @change="onChoice"
      >
    </template>
  </SheetSlot>
</template>
