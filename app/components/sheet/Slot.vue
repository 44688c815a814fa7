<script setup lang="ts">
/** The frame of one slot of the sheet: its name, what is in it, and what became of a file that was sent or dropped there. */
const props = defineProps<{ id: string, title: string, note?: string, readonly: boolean, following: string, refusal: string }>()
const emit = defineEmits<{ files: [files: File[]] }>()
function dropped(event: DragEvent) {
  const files = [...event.dataTransfer?.files ?? []]
  if (!props.readonly && files.length > 0) emit('files', files)
}
</script>

<template>
  <div
    :id="`row-${id}`"
    class="slot"
    @dragover.prevent
    @drop.prevent="dropped"
  >
    <span class="label">{{ title }}<template v-if="note"><br><span class="soft small">{{ note }}</span></template></span>
    <div>
      <slot />
      <p
        v-if="following"
        class="soft small"
        role="status"
      >
        {{ following }}
      </p>
      <HouseAlert
        :text="refusal"
        kind="refusal"
      />
    </div>
  </div>
</template>

<style scoped>
.slot { display: grid; grid-template-columns: 220px minmax(0, 1fr); gap: 4px 16px; padding: 8px 0 16px; scroll-margin-top: 170px; }
.label { color: var(--ink-soft); }
.note { margin-top: 8px; }
.slot :deep(p.small) { max-width: 60ch; }
.slot :deep(.choose) { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 6px; }
@media (max-width: 900px) { .slot { grid-template-columns: minmax(0, 1fr); } .label { color: var(--ink); font-weight: 600; } }
</style>
