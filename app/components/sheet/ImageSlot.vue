<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import type { UploadNote } from '~~/shared/pictures'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import { takenAtMost } from '~~/core/imaging/picture'
import { imageRuleOf, type ImageKind, type Notice } from '~~/core/notice/schema'
import { editWords, tooManyBytesWords } from '~~/core/words/en/pictures'

/** One image of the sheet: what the notice wants, what is there, and the way to add another. */
const props = defineProps<{ kind: ImageKind, notice: Notice, image: ImageView | undefined, applicationId: string, readonly: boolean, /** Code of a finding whose place is shown on the picture. */ pointed: string | null }>()
const emit = defineEmits<{ added: [] }>()
const input = ref<HTMLInputElement | null>(null)
const picked = shallowRef<File | null>(null)
const camera = ref(false)
const busy = ref(false)
const refusal = ref('')
const following = ref('')
const worker = usePictureWorker()
function choose() {
  if (props.kind === 'photograph') worker.warm()
  input.value?.click()
}
function openCamera() {
  if (props.kind === 'photograph') worker.warm()
  camera.value = true
}

const rule = computed(() => imageRuleOf(props.notice, props.kind))
const title = computed(() => rule.value.title.toLowerCase())
const wanted = computed(() => {
  const { bytes, width, height, formats } = rule.value
  const kb = (n?: number) => n === undefined ? '' : n / 1024
  return `${formats.map(f => f.toUpperCase()).join(' or ')}, ${kb(bytes.min)} to ${kb(bytes.max)} KB (1 KB = 1024 bytes), from ${width.min} × ${height.min} to ${width.max} × ${height.max} px`
})

async function chosen(event: Event) {
  const target = event.target as HTMLInputElement
  const file = target.files?.[0]
  // The file itself outlives the list it came in.
  if (file) await look(file)
  target.value = ''
}
async function look(file: File) {
  camera.value = false
  refusal.value = ''
  picked.value = null
  if (file.size > takenAtMost.bytes) {
    refusal.value = tooManyBytesWords(file.size, takenAtMost.bytes)
    return
  }
  await nextTick()
  picked.value = file
}
function refused(words: string) {
  picked.value = null
  refusal.value = words
}
async function send(picture: Blob, edits: Edit[], verdicts: Record<string, Verdict>) {
  const original = picked.value
  refusal.value = ''
  busy.value = true
  try {
    const note: UploadNote = { edits, verdicts }
    const view = await callApi<ImageView>(`/api/applications/${props.applicationId}/images/${props.kind}`, { method: 'PUT', bytes: picture, headers: { 'x-lucid-picture': JSON.stringify(note) } })
    picked.value = null
    emit('added')
    if (edits.length > 0 && original) void follow(view.id, original)
  } catch (error) {
    refusal.value = problemText(error)
  } finally {
    busy.value = false
  }
}
/** The picture as it was chosen follows behind the one that counts, so that a slow line keeps nobody waiting. */
async function follow(imageId: string, original: File) {
  following.value = 'The picture as chosen follows; you can go on.'
  try {
    await callApi(`/api/images/${imageId}/original`, { method: 'PUT', bytes: original })
    following.value = ''
    emit('added')
  } catch {
    following.value = 'The picture as chosen could not be sent along. The one made of it is stored and counts.'
  }
}
// One that the office keeps but has not measured yet is asked for again.
watch(() => props.image, (image) => {
  if (image && !image.measured) setTimeout(() => emit('added'), 2500)
}, { immediate: true })
</script>

<template>
  <div
    :id="`row-${kind}`"
    class="slot"
    @dragover.prevent
    @drop.prevent="!readonly && $event.dataTransfer?.files[0] && look($event.dataTransfer.files[0])"
  >
    <span class="label">{{ rule.title }}</span>
    <div>
      <figure v-if="image">
        <PictureMarked
          v-if="image.measured"
          :src="`/api/images/${image.id}`"
          :alt="`${rule.title}, version ${image.version}`"
          :class="kind"
          :marks="image.marks"
          :pointed="pointed"
        />
        <p
          v-else
          class="note"
          role="status"
        >
          Stored, and being measured by the office…
        </p>
        <figcaption class="soft small">
          <b>Stored</b> · version {{ image.version }} · {{ image.format.toUpperCase() }} · {{ (image.bytes / 1024).toFixed(0) }} KB · {{ image.width }} × {{ image.height }} px
          <template v-if="image.edits.length > 0">
            <br>Made to fit: {{ image.edits.map(editWords).join('; ') }}<template v-if="image.originals > 0">. The picture as chosen is kept, too.</template>
          </template>
        </figcaption>
      </figure>
      <p
        v-else-if="readonly"
        class="refusal"
      >
        None
      </p>
      <template v-if="!readonly">
        <PictureCoach
          v-if="picked"
          :key="`${picked.name}-${picked.size}-${picked.lastModified}`"
          :source="picked"
          :worker="worker"
          :kind="kind"
          :rule="rule"
          :sending="busy"
          @send="send"
          @drop="picked = null"
          @refused="refused"
        />
        <template v-else>
          <p class="soft small">
            {{ wanted }}<PictureSwatches :rule="rule" />
          </p>
          <PictureExamples
            v-if="!image"
            :kind="kind"
          />
        </template>
        <input
          ref="input"
          type="file"
          accept="image/jpeg,image/png"
          class="visually-hidden"
          :aria-label="`Choose a file for the ${title}`"
          :data-kind="kind"
          @change="chosen"
        >
        <div
          v-if="!picked"
          class="choose"
        >
          <ElButton @click="choose">
            {{ image ? `Replace the ${title}` : `Choose the ${title}` }}
          </ElButton>
          <ElButton @click="openCamera">
            Take it with the camera
          </ElButton>
        </div>
        <PictureCamera
          v-if="camera"
          :kind="kind"
          :rule="rule"
          @taken="look"
          @close="camera = false"
        />
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
figure { margin: 0 0 8px; }
.photograph :deep(img) { max-width: 168px; max-height: 240px; }
.signature :deep(img), .thumb :deep(img) { max-width: 260px; max-height: 110px; }
.choose { display: flex; flex-wrap: wrap; gap: 8px; }
figcaption { max-width: 60ch; padding-top: 3px; }
.note { margin-top: 8px; }
p.small { margin-bottom: 6px; max-width: 60ch; }
@media (max-width: 900px) { .slot { grid-template-columns: minmax(0, 1fr); } .label { color: var(--ink); font-weight: 600; } }
</style>
