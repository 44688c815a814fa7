<script setup lang="ts">
import type { FeeChangeRow } from '~~/shared/eligibility'

/** Fees that a proposed notice would change, one application a line. */
defineProps<{ rows: readonly FeeChangeRow[], more: boolean }>()
const emit = defineEmits<{ more: [] }>()
const { amount } = useSpelling()
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('notice.feesThatChange') }}
    </h2>
    <p
      v-if="rows.length === 0"
      class="soft"
    >
      {{ say('notice.noFeeChanges') }}
    </p>
    <table
      v-else
      class="plain-table"
    >
      <thead><tr><th>{{ say('notice.application') }}</th><th>{{ say('notice.name') }}</th><th class="number">{{ say('notice.feeBefore') }}</th><th class="number">{{ say('notice.feeAfter') }}</th><th class="number">{{ say('notice.received') }}</th></tr></thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.number"
        >
          <td><NuxtLink :to="`/scrutiny/${row.applicationId}`">{{ row.number }}</NuxtLink></td><td>{{ row.name }}</td>
          <td class="number">
            {{ amount(row.before) }}
          </td>
          <td
            class="number"
            :class="row.after > row.before ? 'attention' : 'settled'"
          >
            {{ amount(row.after) }}
          </td>
          <td class="number">
            {{ amount(row.received) }}
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
