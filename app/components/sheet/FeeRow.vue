<script setup lang="ts">
import type { Assessment } from '~~/core/fees/assess'
import type { Dossier } from '~~/shared/applications'

/** The fee on the sheet: how it is made up, every payment tried for it, and in the margin where it stands. */
defineProps<{ dossier: Dossier, fee: Assessment | null, editable: boolean }>()
const spelling = useSpelling()
</script>

<template>
  <div class="sheet-row head">
    <div class="body">
      <h2 class="section-title">
        Fee
      </h2>
      <FeesItemisedFee
        :assessment="fee"
        :received="dossier.received"
      />
      <table
        v-if="dossier.payments.length > 0"
        class="plain-table payments"
      >
        <thead><tr><th>Payment</th><th>Opened</th><th>State</th><th class="number">Amount</th></tr></thead>
        <tbody>
          <tr
            v-for="payment in dossier.payments"
            :key="payment.id"
          >
            <td>{{ payment.order }}</td><td>{{ spelling.instant(payment.openedAt) }}</td>
            <td>{{ payment.state }}<span v-if="payment.deliveries > 1"> · told {{ payment.deliveries }} times, counted once</span></td>
            <td class="number">
              {{ spelling.amount(payment.amount) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="beside">
      <p
        v-if="editable"
        class="soft small"
      >
        What would be due if the form were submitted now. Nothing is charged before that.
      </p>
      <p
        v-else-if="dossier.tracks.fee === 'confirming'"
        class="attention"
      >
        <b>? A payment is under way.</b> <span class="small">The gateway has not said yet how it ended. Ask it, or go on paying.</span>
      </p>
      <p
        v-else-if="dossier.tracks.fee === 'settled'"
        class="settled"
      >
        <b>✓ Settled</b>
      </p>
      <p v-else>
        <b>{{ dossier.tracks.fee }}</b>
      </p>
    </div>
  </div>
</template>

<style scoped>
.payments { max-width: 720px; margin-top: 12px; }
</style>
