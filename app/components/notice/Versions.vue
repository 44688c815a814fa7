<script setup lang="ts">
import type { Notice } from '~~/core/notice/schema'
import type { VersionRow } from '~~/shared/notice'

/** Every version of the notice that held: from when, by whom, why, and what it changed. */
const { notice, version } = defineProps<{ notice: Notice, version: number }>()
const cycle = useCycleStore()
const { instant } = useSpelling()
const { differenceWords } = useWords().differences
const versions = shallowRef<VersionRow[]>([])
watch(() => version, () =>
  attempt(async () => {
    versions.value = (await callApi<VersionRow[]>(cycle.path('versions'))).reverse()
  }), { immediate: true })
</script>

<template>
  <h2 class="section-title">
    {{ say('notice.versions') }}
  </h2>
  <ol>
    <li
      v-for="(row, i) in versions"
      :key="row.version"
    >
      <p>
        <b>{{ say('notice.versionSince', { version: row.version, at: instant(row.from) }) }}</b> <span
          v-if="row.by"
          class="soft small"
        >{{ say('notice.versionBy', { by: row.by }) }}</span>
        <span v-if="row.reason"><br>{{ row.reason }}</span>
      </p>
      <p
        v-if="row.fees === null"
        class="soft small"
      >
        {{ say('notice.theFirstVersion') }}
      </p>
      <details
        v-else
        :open="i === 0 && row.changes.length <= 6"
      >
        <summary class="small">
          {{ say('notice.changesOfVersion', { n: row.changes.length }) }}
        </summary>
        <p
          v-for="(change, n) in row.changes"
          :key="n"
          class="small"
        >
          {{ differenceWords(notice, change) }}
        </p>
        <p class="soft small">
          {{ row.fees === 'anew' ? say('notice.feesAnew') : say('notice.feesKept') }}
        </p>
      </details>
    </li>
  </ol>
</template>

<style scoped>
ol { list-style: none; padding: 0; margin: 8px 0 0; }
li { padding: 8px 0; border-bottom: 1px solid var(--line); }
summary { cursor: pointer; }
</style>
