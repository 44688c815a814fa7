<script setup lang="ts">
import type { CaseSlot } from '~/composables/case-parts'

/** The pictures and papers of a case, with what was measured on them drawn where it is. */
defineProps<{ slots: readonly CaseSlot[], pointed: string | null, seesFiles: boolean }>()
const emit = defineEmits<{ sideBySide: [] }>()
/** Whether all that was measured is drawn. */
const marking = defineModel<boolean>('marking', { required: true })
</script>

<template>
  <div class="pictures">
    <button
      type="button"
      class="press small marks"
      :aria-pressed="marking"
      @click="marking = !marking"
    >
      {{ marking ? say('scrutiny.hideWhatWasMeasured') : say('scrutiny.showWhatWasMeasured') }} <kbd>M</kbd>
    </button>
    <button
      type="button"
      class="press small marks"
      @click="emit('sideBySide')"
    >
      {{ say('scrutiny.largeSideBySide') }} <kbd>S</kbd>
    </button>
    <figure
      v-for="{ id: slot, as, title, file } in slots"
      :key="slot"
    >
      <template v-if="file?.measured">
        <DocumentPages
          v-if="as === 'document'"
          :document="file"
          :title="title"
        />
        <PictureMarked
          v-else
          :src="`/api/images/${file.id}`"
          :alt="title"
          :marks="file.marks"
          :pointed="pointed"
          :all="marking"
        />
      </template>
      <div
        v-else
        class="absent refusal"
      >
        {{ file ? say('scrutiny.keptBeingMeasured') : seesFiles ? say('scrutiny.none') : say('scrutiny.notShownToYourRole') }}
      </div>
      <figcaption class="soft small">
        <span>{{ title }}{{ (file?.version ?? 1) > 1 ? say('scrutiny.versionOfFile', { version: file?.version }) : '' }}</span>
        <span v-if="file">{{ say('scrutiny.kb', { bytes: (file.bytes / 1024).toFixed(0) }) }} <template v-if="as === 'image'">· {{ file.width }}×{{ file.height }}</template> <template v-else-if="file.pages.length > 1">{{ say('scrutiny.pages', { pages: file.pages.length }) }}</template></span>
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
figure { margin: 0 0 12px; }
.pictures :deep(img) { width: 236px; }
.marks { display: block; margin-bottom: 6px; }
.absent { border: 1px dashed var(--refusal); padding: 32px; text-align: center; }
figcaption { display: flex; justify-content: space-between; gap: 8px; padding-top: 3px; white-space: nowrap; }
@media (max-width: 900px) { .pictures { max-width: 300px; } }
</style>
