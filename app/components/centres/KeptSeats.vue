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
    <table class="plain-table">
      <thead>
        <tr>
          <th>{{ say('centres.keptIn') }}</th><th class="number">
            {{ say('centres.kept') }}
          </th><th class="number">
            {{ say('centres.openedToAll') }}
          </th><th class="number">
            {{ say('centres.seatsTheyHave') }}
          </th>
        </tr>
      </thead>
      <tbody
        v-for="group in kept"
        :key="group.title"
      >
        <tr>
          <th colspan="4">
            {{ group.title }} <span
              v-if="group.unseated > 0"
              class="refusal"
            >{{ say('centres.ofThemWithoutASeat', { unseated: group.unseated }) }}</span>
          </th>
        </tr>
        <tr
          v-for="row in group.cities"
          :key="row.city"
        >
          <td>
            <button
              class="press"
              @click="emit('choose', row.city)"
            >
              {{ spelling.city(row.city) }}
            </button>
          </td>
          <td class="number">
            {{ countText(row.kept) }}
          </td>
          <td class="number">
            {{ countText(row.opened) }}
          </td>
          <td class="number">
            {{ countText(row.had) }}
          </td>
        </tr>
      </tbody>
    </table>
    <p class="soft small">
      {{ say('centres.keptSeatsHelp') }}
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
tbody th { padding-top: 10px; text-align: left; font-weight: 600; }
</style>
