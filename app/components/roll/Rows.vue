<script setup lang="ts">
import type { RollRowView } from '~~/shared/rolls'

/** Rows of a roll that somebody has to look at, each with all that was found in it. */
defineProps<{ rows: readonly RollRowView[] }>()
const { rollFindingWords } = useWords().rolls
</script>

<template>
  <p
    v-if="rows.length === 0"
    class="soft"
  >
    {{ say('rolls.noneOfThem') }}
  </p>
  <HouseTable
    v-else
    :columns="[
      { key: 'row', title: say('rolls.row'), kind: 'number', text: row => row.row },
      { key: 'person', title: say('rolls.person'), look: 'person' },
      { key: 'wrong', title: say('rolls.whatIsWrong') },
    ]"
    :rows="rows"
    :row-key="row => row.row"
  >
    <template #person="{ row }">
      {{ row.name || '–' }}<span class="soft small"><br>{{ row.reference }}</span>
    </template>
    <template #wrong="{ row }">
      <p
        v-for="(finding, i) in row.findings"
        :key="i"
      >
        <span :class="finding.verdict === 'fail' ? 'refusal' : 'attention'">{{ finding.verdict === 'fail' ? '✕' : '?' }}</span> {{ rollFindingWords(finding).title }} <span class="soft small">{{ rollFindingWords(finding).advice }}</span>
      </p>
    </template>
  </HouseTable>
</template>

<style scoped>
:deep(td.person) { min-width: 150px; }
</style>
