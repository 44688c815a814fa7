<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import type { ImageKind } from '~~/core/notice/schema'
import type { ImageRule } from '~~/core/notice/file-rules'

const { formatWords } = useWords().lists

/** One image of the sheet: what the notice wants, what is there, and the way to add another. */
const props = defineProps<
  {
    kind: ImageKind,
    rule: ImageRule,
    image: ImageView | undefined,
    applicationId: string,
    readonly: boolean,
    /** Code of a finding whose place is shown on the picture. */
    pointed: string | null,
  }
>()
const emit = defineEmits<{ added: [] }>()
const input = ref<HTMLInputElement | null>(null)
const picked = shallowRef<File | null>(null)
const camera = ref(false)
const worker = usePictureWorker()
const { busy, refusal, waiting, following, light, send, forget } = useUpload(
  props.applicationId,
  props.kind,
  () => props.image,
  () => emit('added'),
)
function choose() {
  if (props.kind === 'photograph') worker.warm()
  input.value?.click()
}
function openCamera() {
  if (props.kind === 'photograph') worker.warm()
  camera.value = true
}

const title = computed(() => props.rule.title.toLowerCase())
const wanted = computed(() => {
  const { bytes, width, height, formats } = props.rule
  const kb = (n?: number) => n === undefined ? '' : n / 1024
  return say('sheet.wantedOfPicture', {
    formats: formatWords(formats),
    min: kb(bytes.min),
    max: kb(bytes.max),
    min2: width.min,
    min3: height.min,
    max2: width.max,
    max3: height.max,
  })
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
  drop()
  if (!light([file])) return
  await nextTick()
  picked.value = file
}
function drop() {
  forget()
  picked.value = null
}
function refused(words: string) {
  drop()
  refusal.value = words
}
async function sendPicture(picture: Blob, edits: Edit[], verdicts: Record<string, Verdict>) {
  if (await send(picture, edits, verdicts, edits.length > 0 && picked.value ? [picked.value] : [])) picked.value = null
}
const isLate = useLate()
</script>

<template>
  <SheetSlot
    :id="kind"
    :title="rule.title"
    :readonly="readonly"
    :following="following"
    :refusal="refusal"
    @files="files => files[0] && look(files[0])"
  >
    <SheetStored
      v-if="image"
      :file="image"
    >
      <PictureMarked
        :src="`/api/images/${image.id}`"
        :alt="say('sheet.version', { title: rule.title, version: image.version })"
        :class="kind"
        :marks="image.marks"
        :pointed="pointed"
      />
    </SheetStored>
    <p
      v-else-if="readonly"
      class="refusal"
    >
      {{ say('sheet.none') }}
    </p>
    <template v-if="!readonly">
      <LazyPictureCoach
        v-if="picked"
        :key="`${picked.name}-${picked.size}-${picked.lastModified}`"
        :source="picked"
        :worker="worker"
        :kind="kind"
        :rule="rule"
        :sending="busy"
        :waiting="waiting"
        @send="sendPicture"
        @drop="drop"
        @refused="refused"
      />
      <template v-else>
        <p class="soft small">
          {{ wanted }}<PictureSwatches :rule="rule" />
        </p>
        <LazyPictureExamples
          v-if="!image && isLate"
          :kind="kind"
        />
        <div class="choose">
          <HouseButton @click="choose">
            {{ image ? say('sheet.replaceThe', { title }) : say('sheet.chooseThe', { title }) }}
          </HouseButton>
          <HouseButton @click="openCamera">
            {{ say('sheet.takeItWithTheCamera') }}
          </HouseButton>
        </div>
      </template>
      <input
        ref="input"
        type="file"
        accept="image/jpeg,image/png"
        class="visually-hidden"
        tabindex="-1"
        :aria-label="say('sheet.chooseAFileForThe', { title })"
        :data-kind="kind"
        @change="chosen"
      >
      <LazyPictureCamera
        v-if="camera"
        :kind="kind"
        :rule="rule"
        @taken="look"
        @close="camera = false"
      />
    </template>
  </SheetSlot>
</template>

<style scoped>
.photograph :deep(img) { max-width: 168px; max-height: 240px; }
.signature :deep(img), .thumb :deep(img) { max-width: 260px; max-height: 110px; }
</style>
