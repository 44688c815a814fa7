<script setup lang="ts">
import type { Outcome } from '~~/core/allocation/outcome'

/** Shares by choice: how many got their first, second, and so on. Press a count to see the people. */
const props = defineProps<{ outcome: Outcome, pressable?: boolean }>()
const emit = defineEmits<{ choose: [filter: { choice?: string, kind?: string }] }>()
const ordinal = [say('centres.firstChoice'), say('centres.secondChoice'), say('centres.thirdChoice'), say('centres.fourthChoice'),
  say('centres.fifthChoice')]
const bars = computed(() => {
  const { byChoice, offList, unseated, people } = props.outcome
  const rows = [
    ...byChoice.map((count, i) => ({
      title: ordinal[i] ?? say('centres.choice', { i: i + 1 }),
      count,
      tone: 'on',
      filter: { choice: String(i + 1) } as { choice?: string, kind?: string },
    })),
    { title: say('centres.offTheList'), count: offList, tone: 'off', filter: { kind: 'off list' } },
    { title: say('centres.noSeat'), count: unseated, tone: 'none', filter: { kind: 'no seat' } },
  ]
  return rows.map(row => ({ ...row, share: people > 0 ? row.count * 100 / people : 0 }))
})
</script>

<template>
  <table class="bars">
    <tbody>
      <tr
        v-for="bar in bars"
        :key="bar.title"
        :class="bar.tone"
      >
        <th>{{ bar.title }}</th>
        <td class="track">
          <span :style="{ width: `${bar.share}%` }" />
        </td>
        <td class="number">
          <button
            v-if="pressable && bar.count > 0"
            class="press"
            @click="emit('choose', bar.filter)"
          >
            {{ countText(bar.count) }}
          </button>
          <template v-else>
            {{ countText(bar.count) }}
          </template>
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
.track span { display: block; height: 14px; background: var(--accent); }
.off .track span { background: var(--attention); }
.none .track span { background: var(--refusal); }
.number { padding-left: 12px; }
</style>
