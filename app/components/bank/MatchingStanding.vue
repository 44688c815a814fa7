<script setup lang="ts">
import type { MatchingStanding } from '~~/shared/bank'

/** How matching has done, and how sure it has to be to book by itself. */
defineProps<{ standing: MatchingStanding, mayWork: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const { matchStepWords } = useWords().bank
async function setThreshold(event: Event) {
  const threshold = Number((event.target as HTMLInputElement).value) / 100
  if (await attempt(() => callApi('/api/bank/matching', { method: 'PUT', body: { threshold } }))) emit('changed')
}
</script>

<template>
  <section class="standing">
    <h2 class="section-title">
      {{ say('bank.howItHasDone') }}
    </h2>
    <HouseTable
      :columns="[
        { key: 'step', title: say('bank.stepColumn'), text: one => matchStepWords[one.step] },
        { key: 'booked', title: say('bank.bookedColumn'), kind: 'number', text: one => countText(one.booked) },
        { key: 'takenBack', title: say('bank.takenBackColumn'), kind: 'number', text: one => countText(one.takenBack) },
      ]"
      :rows="standing.steps"
      :row-key="one => one.step"
    >
      <template #end>
        <tr>
          <td>{{ say('bank.byHandRow') }}</td><td class="number">
            {{ countText(standing.byHand) }}
          </td><td />
        </tr>
      </template>
    </HouseTable>
    <p>
      <label for="threshold">{{ say('bank.threshold') }}</label>
      <input
        id="threshold"
        class="field"
        type="number"
        min="50"
        max="100"
        :value="Math.round(standing.threshold * 100)"
        :disabled="!mayWork"
        @change="setThreshold"
      > %
    </p>
  </section>
</template>

<style scoped>
.standing { margin-top: 32px; max-width: 620px; }
.standing p { margin-top: 10px; }
.standing input { width: 76px; }
</style>
