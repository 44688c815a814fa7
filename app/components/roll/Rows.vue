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
  <table
    v-else
    class="plain-table"
  >
    <thead><tr><th class="number">{{ say('rolls.row') }}</th><th>{{ say('rolls.person') }}</th><th>{{ say('rolls.whatIsWrong') }}</th></tr></thead>
    <tbody>
      <tr
        v-for="row in rows"
        :key="row.row"
      >
        <td class="number">
          {{ row.row }}
        </td>
        <td>{{ row.name || '–' }}<span class="soft small"><br>{{ row.reference }}</span></td>
        <td>
          <p
            v-for="(finding, i) in row.findings"
            :key="i"
          >
            <span :class="finding.verdict === 'fail' ? 'refusal' : 'attention'">{{ finding.verdict === 'fail' ? '✕' : '?' }}</span> {{ rollFindingWords(finding).title }} <span class="soft small">{{ rollFindingWords(finding).advice }}</span>
          </p>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
td { vertical-align: top; }
td:nth-child(2) { min-width: 150px; }
</style>
