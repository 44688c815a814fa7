<script setup lang="ts">
import type { ImageView } from '~~/shared/applications'
import { editWords } from '~~/core/words/en/pictures'

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
      Kept, and being measured by the office…
    </p>
    <p class="soft small">
      <b>Stored</b> · version {{ file.version }} · {{ file.format.toUpperCase() }} · {{ (file.bytes / 1024).toFixed(0) }} KB<template v-if="file.pages.length > 0">
        · {{ file.pages.length }} {{ file.pages.length === 1 ? 'page' : 'pages' }}
      </template><template v-else-if="file.width > 0">
        · {{ file.width }} × {{ file.height }} px
      </template>
      <template v-if="file.edits.length > 0">
        <br>Made to fit: {{ file.edits.map(editWords).join('; ') }}<template v-if="file.originals > 0">. {{ file.originals === 1 ? 'The file as chosen is kept, too.' : 'The files as chosen are kept, too.' }}</template>
      </template>
    </p>
  </div>
</template>

<style scoped>
.stored { margin-bottom: 8px; }
.stored > p.small { padding-top: 3px; }
</style>
