<script setup lang="ts">
import type { Assessment } from '~~/core/fees/assess'

/** The fee line by line, each with its reason, what came in, and what is left. */
defineProps<{ assessment: Assessment | null, received: number }>()
const { amount } = useSpelling()
const { feeWords } = useWords().fees
</script>

<template>
  <p
    v-if="!assessment"
    class="soft"
  >
    {{ say('fees.theFeeShowsAsSoonAs') }}
  </p>
  <table
    v-else
    class="plain-table"
  >
    <tbody>
      <tr
        v-for="item in assessment.items"
        :key="item.code"
      >
        <td>{{ feeWords(item).title }} <span class="soft small">{{ feeWords(item).because }}</span></td>
        <td class="number">
          {{ amount(item.amount) }}
        </td>
      </tr>
      <tr class="total">
        <td>{{ say('fees.total') }}</td>
        <td class="number">
          {{ amount(assessment.total) }}
        </td>
      </tr>
      <tr v-if="received !== 0">
        <td>{{ say('fees.received') }}</td>
        <td class="number">
          {{ amount(received) }}
        </td>
      </tr>
      <tr
        v-if="received !== 0 && received !== assessment.total"
        class="total"
      >
        <td>{{ received > assessment.total ? say('fees.toBeRefunded') : say('fees.stillDue') }}</td>
        <td class="number">
          {{ amount(Math.abs(assessment.total - received)) }}
        </td>
      </tr>
    </tbody>
  </table>
  <p
    v-if="assessment?.payer"
    class="payer"
  >
    {{ say('fees.paidByPayer', { payer: assessment.payer.title }) }}
  </p>
</template>

<style scoped>
.payer { margin-top: 6px; max-width: 560px; }
.total td { font-weight: 600; border-bottom-color: var(--line-strong); }
table { max-width: 560px; }
</style>
