<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import type { ImageKind, Notice } from '~~/core/notice/schema'

/** One image of the sheet: what the notice wants, what is there, and the way to add another. */
const props = defineProps<{ kind: ImageKind, notice: Notice, image: ImageView | undefined, applicationId: string, readonly: boolean }>()
const emit = defineEmits<{ added: [] }>()
const input = ref<HTMLInputElement | null>(null)
const busy = ref(false)
const refusal = ref('')
const limit = 20 * 1024 * 1024

const rule = computed(() => props.notice.images[props.kind])
const wanted = computed(() => {
  const { bytes, width, height, formats } = rule.value
  const kb = (n?: number) => n === undefined ? '' : n / 1024
  return `${formats.map(f => f.toUpperCase()).join(' or ')}, ${kb(bytes.min)} to ${kb(bytes.max)} KB (1 KB = 1024 bytes), from ${width.min} × ${height.min} to ${width.max} × ${height.max} px`
})

async function chosen(event: Event) {
  const target = event.target as HTMLInputElement
  const picked = target.files?.[0]
  target.value = ''
  if (picked) await send(picked)
}
async function send(picked: File) {
  refusal.value = ''
  if (picked.size > limit) {
    refusal.value = `${picked.name} has ${(picked.size / 1024 / 1024).toFixed(1)} MB; at most 20 MB are taken. Shrink the picture and add it again.${props.image ? ' The one before is kept.' : ''}`
    return
  }
  busy.value = true
  try {
    await callApi(`/api/applications/${props.applicationId}/images/${props.kind}`, { method: 'PUT', bytes: picked })
    emit('added')
  } catch (error) {
    refusal.value = problemText(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div
    :id="`row-${kind}`"
    class="slot"
    @dragover.prevent
    @drop.prevent="!readonly && $event.dataTransfer?.files[0] && send($event.dataTransfer.files[0])"
  >
    <span class="label">{{ rule.title }}</span>
    <div>
      <figure v-if="image">
        <img
          :src="`/api/images/${image.id}`"
          :alt="`${rule.title}, version ${image.version}`"
          :class="kind"
        >
        <figcaption class="soft small">
          <b>Stored</b> · version {{ image.version }} · {{ image.format.toUpperCase() }} · {{ (image.bytes / 1024).toFixed(0) }} KB · {{ image.width }} × {{ image.height }} px
        </figcaption>
      </figure>
      <p
        v-else-if="readonly"
        class="refusal"
      >
        None
      </p>
      <template v-if="!readonly">
        <p class="soft small">
          {{ wanted }}
        </p>
        <input
          ref="input"
          type="file"
          accept="image/jpeg,image/png"
          class="visually-hidden"
          :aria-label="`Choose a file for the ${rule.title.toLowerCase()}`"
          :data-kind="kind"
          @change="chosen"
        >
        <ElButton
          :loading="busy"
          @click="input?.click()"
        >
          {{ image ? `Replace the ${rule.title.toLowerCase()}` : `Choose the ${rule.title.toLowerCase()}` }}
        </ElButton>
      </template>
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
img { display: block; border: 1px solid var(--line-strong); background: #fff; object-fit: contain; }
.photograph { width: 168px; max-height: 240px; }
.signature { width: 260px; max-height: 110px; }
.note { margin-top: 8px; }
p.small { margin-bottom: 6px; max-width: 60ch; }
@media (max-width: 900px) { .slot { grid-template-columns: minmax(0, 1fr); } .label { color: var(--ink); font-weight: 600; } }
</style>
