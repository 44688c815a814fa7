<script setup lang="ts">
import '~/words/later'
import { spellAmount } from '~~/core/fees/assess'
import type { WayCost } from '~~/core/fees/channel'

/** A press for each way of paying, with what it costs in all; one alone where the gateway offers its own. */
const props = defineProps<{ due: number, currency: { code: string, exponent: number }, costs: readonly WayCost[], busy: boolean }>()
const emit = defineEmits<{ pay: [way?: WayCost['way']] }>()
const amount = (minor: number) => spellAmount(minor, props.currency)
</script>

<template>
  <HouseButton
    v-for="cost in costs"
    :key="cost.way"
    primary
    :disabled="busy"
    @click="emit('pay', cost.way)"
  >
    {{ say('paying.payBy', { due: amount(due + cost.charge + cost.tax), way: cost.way }) }}
  </HouseButton>
  <HouseButton
    v-if="costs.length === 0"
    primary
    :disabled="busy"
    @click="emit('pay')"
  >
    {{ say('paying.pay', { due: amount(due) }) }}
  </HouseButton>
</template>
