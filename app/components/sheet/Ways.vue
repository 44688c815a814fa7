<script setup lang="ts">
import '~/words/later'
import type { WayCost } from '~~/core/fees/channel'

/** The ways of paying online with what each costs in all, before anything is paid. */
defineProps<{ due: number, costs: readonly WayCost[] }>()
const emit = defineEmits<{ pay: [way: WayCost['way']], close: [] }>()
const spelling = useSpelling()
const { wayTitles } = useWords().fees
function onTop({ charge, tax }: WayCost): string {
  if (charge + tax === 0) return say('paying.nothingOnTop')
  return tax > 0
    ? say('paying.onTopTaxed', { charge: spelling.amount(charge), tax: spelling.amount(tax) })
    : say('paying.onTop', { charge: spelling.amount(charge) })
}
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('paying.howToPay', { due: spelling.amount(due) })"
    width="min(560px, 94vw)"
    append-to-body
    @close="emit('close')"
  >
    <div
      v-for="cost in costs"
      :key="cost.way"
      class="way"
    >
      <p><b>{{ wayTitles[cost.way] }}</b><br><span class="soft small">{{ onTop(cost) }}</span></p>
      <HouseButton
        primary
        @click="emit('pay', cost.way)"
      >
        {{ say('paying.payBy', { due: spelling.amount(due + cost.charge + cost.tax), way: cost.way }) }}
      </HouseButton>
    </div>
    <p class="soft small">
      {{ say('paying.wayNote') }}
    </p>
  </ElDialog>
</template>

<style scoped>
.way { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 16px; padding: 10px 0; border-top: 1px solid var(--line); }
.way > p { flex: 1 1 200px; }
.way > .button { flex: 0 0 260px; }
</style>
