<script setup lang="ts">
import { languageName, languagesOf } from '~~/core/notice/languages'

/** The language in which somebody reads the notice, where it has several. */
const cycle = useCycleStore()
const all = computed(() => cycle.notice ? languagesOf(cycle.notice) : [])
const shown = computed(() => all.value.find(tag => tag === cycle.readIn) ?? all.value[0] ?? '')
const read = (event: Event) => attempt(() => cycle.readNoticeIn((event.target as HTMLSelectElement).value))
</script>

<template>
  <label
    v-if="all.length > 1"
    class="small"
  >{{ say('own.readNoticeIn') }} <select
    :value="shown"
    @change="read"
  ><option
    v-for="tag in all"
    :key="tag"
    :value="tag"
    :lang="tag"
  >{{ languageName(tag) }}</option></select></label>
</template>

<style scoped>
select { font: inherit; min-height: 28px; color: var(--ink); background: var(--sheet); border: 1px solid var(--line-strong); }
</style>
