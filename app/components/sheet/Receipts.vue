<script setup lang="ts">
import '~/words/later'
import type { ReceiptView } from '~~/shared/fees'

/** The receipts of an application, each to be printed again. They come moments after the money. */
const props = defineProps<{ applicationId: string }>()
const spelling = useSpelling()
const receipts = shallowRef<ReceiptView[]>([])
let timer: ReturnType<typeof setTimeout> | undefined
async function load(again: boolean) {
  receipts.value = await callApi<ReceiptView[]>(`/api/applications/${props.applicationId}/receipts`).catch(() => [])
  if (again && receipts.value.length === 0) timer = setTimeout(() => load(false), 5000)
}
onMounted(() => load(true))
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <div
    v-if="receipts.length > 0"
    class="receipts small"
  >
    <p><b>{{ say('paying.receipts') }}</b></p>
    <p
      v-for="one in receipts"
      :key="one.id"
    >
      <a
        :href="`/api/applications/${applicationId}/receipts/${one.id}`"
        target="_blank"
      >{{ say('paying.receiptLine', { number: one.number, amount: spelling.amountIn(one.amount, one.currency) }) }}</a>
      <span
        v-if="one.voidAt"
        class="attention"
      > {{ say('paying.receiptVoid') }}</span>
    </p>
  </div>
</template>

<style scoped>
.receipts { margin-top: 12px; }
</style>
