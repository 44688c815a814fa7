<script setup lang="ts">
import type { RunRow } from '~~/shared/centres'

/** Shares by choice: how many got their first, second, and so on, with the count and the share at each bar. */
const props = defineProps<{ summary: RunRow['summary'] }>()
const bars = computed(() => {
  const { byChoice, offList, unseated, candidates } = props.summary
  const ordinal = ['First choice', 'Second choice', 'Third choice', 'Fourth choice', 'Fifth choice']
  const rows = [...byChoice.map((count, i) => ({ title: ordinal[i] ?? `Choice ${i + 1}`, count, kind: 'on' })),
    { title: 'Off the list', count: offList, kind: 'off' }, { title: 'No seat', count: unseated, kind: 'none' }]
  return rows.map(row => ({ ...row, share: candidates > 0 ? row.count * 100 / candidates : 0 }))
})
</script>

<template>
  <table class="bars">
    <tbody>
      <tr
        v-for="bar in bars"
        :key="bar.title"
        :class="bar.kind"
      >
        <th>{{ bar.title }}</th>
        <td class="track">
          <span :style="{ width: `${bar.share}%` }" />
        </td>
        <td class="number">
          {{ bar.count.toLocaleString('en-GB') }}
        </td>
        <td class="number soft">
          {{ bar.share.toFixed(1) }} %
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.bars { width: 100%; border-collapse: collapse; }
th { text-align: left; font-weight: 400; white-space: nowrap; padding: 3px 12px 3px 0; }
.track { width: 100%; }
.track span { display: block; height: 14px; background: var(--accent); min-width: 1px; }
.off .track span { background: var(--attention); }
.none .track span { background: var(--refusal); }
.number { padding-left: 12px; }
</style>
