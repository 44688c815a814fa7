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
    <HouseTable
      :columns="[
        { key: 'application', title: say('notice.application') },
        { key: 'name', title: say('notice.name'), text: row => row.name },
        {
          key: 'then',
          title: say('notice.seatThen'),
          look: row => row.fate === 'gone' ? 'refusal' : 'attention',
          text: row => say('notice.seatFate', { fate: row.fate === 'gone' ? 'gone' : 'hour' }),
        },
      ]"
      :rows="rows"
      :row-key="row => row.number"
    >
      <template #application="{ row }">
        <NuxtLink :to="`/scrutiny/${row.applicationId}`">{{ row.number }}</NuxtLink>
      </template>
    </HouseTable>
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
