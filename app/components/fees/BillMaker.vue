<script setup lang="ts">
import '~/words/later'
import { inFours } from '~~/core/bank/check-digits'
import type { BillView } from '~~/shared/bills'

/** The other way to pay for several: one bill with one reference, for a bank. */
const props = defineProps<{ make: (payer: string) => Promise<BillView> }>()
const spelling = useSpelling()
const { busy, refusal, send } = useSubmission()
const payer = ref('')
const bill = shallowRef<BillView | null>(null)
const begin = () =>
  send(async () => {
    bill.value = await props.make(payer.value.trim())
  })
</script>

<template>
  <div class="bill">
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <p
      v-if="bill"
      role="status"
    >
      {{ say('paying.billMade', { number: bill.number, people: bill.people, due: spelling.amountIn(bill.due, bill.currency), reference: inFours(bill.reference) }) }}
      <a
        :href="`/api/bills/${bill.id}/paper`"
        target="_blank"
      >{{ say('paying.printBill') }}</a>
    </p>
    <form
      v-else
      @submit.prevent="begin"
    >
      <label for="bill-payer">{{ say('paying.billPayer') }}</label>
      <input
        id="bill-payer"
        v-model="payer"
        class="field"
        maxlength="140"
        autocomplete="organization"
      >
      <ElButton
        native-type="submit"
        :disabled="busy || payer.trim().length < 2"
      >
        {{ say('paying.makeBill') }}
      </ElButton>
    </form>
  </div>
</template>

<style scoped>
form { display: flex; flex-wrap: wrap; gap: 4px 8px; }
label { flex-basis: 100%; font-weight: 600; }
input { flex: 1 1 220px; }
.bill { text-align: start; }
</style>
