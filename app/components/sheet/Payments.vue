<script setup lang="ts">
import '~/words/later'
import type { PaymentView } from '~~/shared/applications'

/** Every payment that was tried. */
defineProps<{ payments: PaymentView[] }>()
const spelling = useSpelling()
const { paymentWords } = useWords().states
</script>

<template>
  <table class="plain-table payments">
    <thead><tr><th>{{ say('paying.payment') }}</th><th>{{ say('paying.opened') }}</th><th>{{ say('paying.state') }}</th><th class="number">{{ say('paying.amount') }}</th></tr></thead>
    <tbody>
      <tr
        v-for="payment in payments"
        :key="payment.id"
      >
        <td>
          {{ payment.order }}
          <div
            v-if="payment.others > 0"
            class="soft small"
          >
            {{ say('paying.paidTogether', { others: payment.others }) }}
          </div>
        </td><td>{{ spelling.instant(payment.openedAt) }}</td>
        <td>{{ paymentWords[payment.state] }} <span v-if="payment.deliveries > 1">{{ say('paying.toldTimesCountedOnce', { deliveries: payment.deliveries }) }}</span></td>
        <td class="number">
          {{ spelling.amount(payment.amount) }}
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.payments { max-width: 720px; margin-top: 12px; }
</style>
