<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'

const { editWords } = useWords().pictures

/** What stands in a slot, as it was stored, and what was done to it before. */
defineProps<{ file: ImageView }>()
</script>

<template>
  <div class="stored">
    <slot v-if="file.measured" />
    <p
      v-else
      class="note"
      role="status"
    >
      {{ say('sheet.keptAndBeingMeasuredByThe') }}
    </p>
    <p class="soft small">
      <b>{{ say('sheet.stored') }}</b> {{ say('sheet.versionKb', { version: file.version, format: file.format.toUpperCase(), bytes: (file.bytes / 1024).toFixed(0) }) }} <template v-if="file.pages.length > 0">
        {{ say('sheet.pagesOfFile', { pages: file.pages.length }) }}
      </template> <template v-else-if="file.width > 0">
        {{ say('sheet.px', { width: file.width, height: file.height }) }}
      </template>
      <template v-if="file.edits.length > 0">
        <br>{{ say('sheet.madeToFit', { edits: file.edits.map(editWords).join('; ') }) }}<template v-if="file.originals > 0">. {{ file.originals === 1 ? say('sheet.theFileAsChosenIsKept') : say('sheet.theFilesAsChosenAreKept') }}</template>
      </template>
    </p>
  </div>
</template>

<style scoped>
.stored { margin-bottom: 8px; }
.stored > p.small { padding-top: 3px; }
</style>
