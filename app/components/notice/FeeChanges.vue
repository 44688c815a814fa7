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
    <HouseTable
      v-else
      :columns="[
        { key: 'application', title: say('notice.application') },
        { key: 'name', title: say('notice.name'), text: row => row.name },
        { key: 'before', title: say('notice.feeBefore'), kind: 'number', text: row => amount(row.before) },
        {
          key: 'after',
          title: say('notice.feeAfter'),
          kind: 'number',
          look: row => row.after > row.before ? 'attention' : 'settled',
          text: row => amount(row.after),
        },
        { key: 'received', title: say('notice.received'), kind: 'number', text: row => amount(row.received) },
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
