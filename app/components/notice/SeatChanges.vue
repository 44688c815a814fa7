<script setup lang="ts">
import type { SeatChangeRow } from '~~/shared/eligibility'

/** People whose seat a proposed notice takes away or puts at another hour, one a line. */
defineProps<{ rows: readonly SeatChangeRow[], more: boolean }>()
const emit = defineEmits<{ more: [] }>()
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('notice.seatsThatChange') }}
    </h2>
    <p class="soft">
      {{ say('notice.seatsThatChangeHelp') }}
    </p>
    <table class="plain-table">
      <thead><tr><th>{{ say('notice.application') }}</th><th>{{ say('notice.name') }}</th><th>{{ say('notice.seatThen') }}</th></tr></thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.number"
        >
          <td><NuxtLink :to="`/scrutiny/${row.applicationId}`">{{ row.number }}</NuxtLink></td><td>{{ row.name }}</td>
          <td :class="row.fate === 'gone' ? 'refusal' : 'attention'">
            {{ say('notice.seatFate', { fate: row.fate === 'gone' ? 'gone' : 'hour' }) }}
          </td>
        </tr>
      </tbody>
    </table>
    <ElButton
      v-if="more"
      @click="emit('more')"
    >
      {{ say('notice.more') }}
    </ElButton>
  </section>
</template>

<style scoped>
section { margin-top: 28px; }
</style>
