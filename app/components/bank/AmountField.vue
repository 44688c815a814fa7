<script setup lang="ts">
import { exponentOf, readAmount } from '~~/core/bank/statement'

/** An amount as people write it, with a decimal point, kept in minor units; what is no amount stays red and counts for nothing. */
const props = defineProps<{ modelValue: number, currency: string, label: string }>()
const emit = defineEmits<{ 'update:modelValue': [amount: number] }>()
const spelled = (amount: number) => (amount / 10 ** exponentOf(props.currency)).toFixed(exponentOf(props.currency))
const text = ref(spelled(props.modelValue))
const read = computed(() => readAmount(text.value, '.', exponentOf(props.currency)))
watch(read, (amount) => {
  if (amount !== null && amount !== props.modelValue) emit('update:modelValue', amount)
})
watch(() => props.modelValue, (amount) => {
  if (amount !== read.value) text.value = spelled(amount)
})
</script>

<template>
  <input
    v-model="text"
    class="field"
    :class="{ wrong: read === null }"
    inputmode="decimal"
    autocomplete="off"
    :aria-label="label"
    :aria-invalid="read === null"
  >
</template>

<style scoped>
.field { width: 120px; text-align: right; }
.wrong { border-color: var(--refusal); }
</style>
