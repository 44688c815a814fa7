<script setup lang="ts">
import { inFours } from '~~/core/bank/check-digits'
import type { RefundView } from '~~/shared/bank'

/** One refund: for whom, how much, to which account where that still matters, and what can be done with it. */
defineProps<{ refund: RefundView, whole?: boolean }>()
const spelling = useSpelling()
</script>

<template>
  <div class="row">
    <span>
      <NuxtLink
        v-if="refund.of"
        :to="`/intake/${refund.of.id}`"
      >{{ refund.of.name }}</NuxtLink><template v-else>{{ say('bank.ofNobody') }}</template> <span class="soft small">{{ [refund.of?.number, whole ? null : refund.reference].filter(Boolean).join(' · ') }}</span>
      <template v-if="whole">
        <br><template v-if="refund.order !== null">
          {{ say('bank.throughGateway', { order: refund.order }) }}
        </template><template v-else>
          {{ refund.payee }}, <span
            class="nowrap"
            data-unformatted
          >{{ inFours(refund.number) }}</span>
        </template> · {{ refund.reason }}<br>
        <span class="soft small">{{ say('bank.proposedBy', { by: refund.by, at: spelling.instant(refund.at) }) }}{{ refund.settledBy ? `, ${say('bank.approvedBy', { by: refund.settledBy })}` : '' }}</span>
      </template>
    </span>
    <span class="number">{{ spelling.amountIn(refund.amount, refund.currency) }}</span>
    <span class="acts"><slot /></span>
  </div>
</template>

<style scoped>
.row {
  display: grid; grid-template-columns: minmax(0, 1fr) auto 200px; gap: 6px 20px; align-items: start; padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.acts { justify-self: end; display: flex; gap: 8px; }
.acts :deep(.el-button) { margin: 0; }
@media (max-width: 700px) { .row { grid-template-columns: minmax(0, 1fr) auto; } .acts { grid-column: 1 / -1; justify-self: start; } }
</style>
