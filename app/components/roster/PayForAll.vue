<script setup lang="ts">
import '~/words/later'
import { spellAmount } from '~~/core/fees/assess'
import type { WayCost } from '~~/core/fees/channel'
import { togetherAtMost } from '~~/shared/acts'
import type { BillView } from '~~/shared/bills'
import type { RosterFilter } from '~~/shared/applications'
import type { OwedTogether } from '~~/shared/fees'

/** One payment for those of a list who owe: an institution pays for whom it sent. */
const props = defineProps<{ filter: RosterFilter }>()
const emit = defineEmits<{ close: [] }>()
const cycle = useCycleStore()
const owed = shallowRef<OwedTogether | null>(null)
const { busy, refusal, send } = useSubmission()
const { failure } = useLoaded(async () => {
  owed.value = await callApi<OwedTogether>(cycle.path('roster/owed'), { query: { ...props.filter } })
})
const amount = (minor: number) => owed.value ? spellAmount(minor, owed.value.currency) : ''
const pay = (way?: WayCost['way']) =>
  send(async () => {
    const { page } = await callApi<{ page: string }>(cycle.path('roster/payment'), { method: 'POST', body: { filter: props.filter, way } })
    leaveForGateway(page)
  })
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('roster.payForAllTitle')"
    width="min(560px, 94vw)"
    @close="emit('close')"
  >
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <p v-if="owed">
      {{ say('roster.oweTogether', { people: owed.people, due: amount(owed.due) }) }} <template v-if="!owed.isForOnePayment">
        {{ say('roster.tooManyOnline', { most: togetherAtMost }) }}
      </template>
    </p>
    <p
      v-if="owed?.isForOnePayment"
      class="presses"
    >
      <FeesPayButtons
        :due="owed.due"
        :currency="owed.currency"
        :costs="owed.costs"
        :busy="busy"
        @pay="pay"
      />
    </p>
    <h3 v-if="owed">
      {{ say('paying.billInstead') }}
    </h3>
    <FeesBillMaker
      v-if="owed"
      :make="payer => callApi<BillView>(cycle.path('roster/bill'), { method: 'POST', body: { filter, payer } })"
    />
    <template #footer>
      <ElButton @click="emit('close')">
        {{ say('roster.notYet') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.presses { display: flex; flex-wrap: wrap; gap: 8px; padding-top: 10px; }
.presses :deep(.el-button) { margin: 0; }
h3 { margin: 18px 0 6px; }
</style>
