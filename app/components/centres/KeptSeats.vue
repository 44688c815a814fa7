<script setup lang="ts">
import type { RunDetail } from '~~/shared/centres'

/** Seats that a run kept for some people: how many, what became of them, and how many seats their people have in the city. */
defineProps<{ kept: RunDetail['kept'] }>()
const emit = defineEmits<{ choose: [city: string] }>()
const spelling = useSpelling()
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('centres.keptSeats') }}
    </h2>
    <HouseTable
      :columns="[
        { key: 'city', title: say('centres.keptIn') },
        { key: 'kept', title: say('centres.kept'), kind: 'number', text: row => countText(row.kept) },
        { key: 'opened', title: say('centres.openedToAll'), kind: 'number', text: row => countText(row.opened) },
        { key: 'had', title: say('centres.seatsTheyHave'), kind: 'number', text: row => countText(row.had) },
      ]"
      :rows="kept.flatMap(({ title, unseated, cities }) => cities.map(row => ({ ...row, title, unseated })))"
      :row-key="row => `${row.title} ${row.city}`"
      :group-of="({ title, unseated }) => [title, ...unseated > 0 ? [say('centres.ofThemWithoutASeat', { unseated })] : []].join(' ')"
    >
      <template #city="{ row }">
        <button
          class="press"
          @click="emit('choose', row.city)"
        >
          {{ spelling.city(row.city) }}
        </button>
      </template>
    </HouseTable>
    <p class="soft small">
      {{ say('centres.keptSeatsHelp') }}
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
:deep(tbody th) { padding-top: 10px; text-align: left; font-weight: 600; }
</style>
