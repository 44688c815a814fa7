<script setup lang="ts">
import type { Assessment } from '~~/core/fees/assess'
import type { Dossier } from '~~/shared/applications'

/** The fee on the sheet: how it is made up, every payment tried for it, and in the margin where it stands. */
defineProps<{ dossier: Dossier, fee: Assessment | null, editable: boolean }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const { feeStateWords } = useWords().states
</script>

<template>
  <div class="sheet-row head">
    <div class="body">
      <h2 class="section-title">
        {{ say('sheet.fee') }}
      </h2>
      <FeesItemisedFee
        :assessment="fee"
        :received="dossier.received"
      />
      <LazySheetPayments
        v-if="dossier.payments.length > 0"
        :payments="dossier.payments"
      />
    </div>
    <div class="beside">
      <p
        v-if="editable && !dossier.assessed"
        class="soft small"
      >
        {{ say('sheet.whatWouldBeDueIfThe') }}
      </p>
      <p
        v-else-if="dossier.tracks.fee === 'confirming'"
        class="attention"
      >
        <b>{{ say('sheet.aPaymentIsUnderWay') }}</b> <span class="small">{{ say('sheet.theGatewayHasNotSaidYet') }}</span>
      </p>
      <p
        v-else-if="dossier.tracks.fee === 'settled'"
        class="settled"
      >
        <b>{{ say('sheet.settled') }}</b>
      </p>
      <p v-else>
        <b>{{ feeStateWords[dossier.tracks.fee] }}</b>
      </p>
      <LazySheetReceipts
        v-if="dossier.received > 0"
        :key="dossier.received"
        :application-id="dossier.id"
      />
      <LazySheetRefundAccount
        v-if="dossier.tracks.fee === 'refund due' && canAct(dossier, 'give-account')"
        :application-id="dossier.id"
      />
      <LazySheetDeposit
        v-if="dossier.assessed"
        :dossier="dossier"
        @changed="emit('changed', $event)"
      />
    </div>
  </div>
</template>
