<script setup lang="ts">
import '~/words/later'
import type { Dossier } from '~~/shared/applications'
import type { Permit } from '~~/app/composables/act'
import { payingCosts, type WayCost } from '~~/core/fees/channel'

/** What is due, and the way to the gateway and back. */
const props = defineProps<
  { dossier: Dossier, own?: boolean, /** Wanted for a correction, beyond the fee. */ more?: number, refresh: () => Promise<void> }
>()
const cycle = useCycleStore()
const spelling = useSpelling()
const busy = ref(false)
const askingToPay = ref(false)
const choosing = ref(false)
const payStanding = computed(() => standingOf(props.dossier, 'start-payment'))
const due = computed(() =>
  props.dossier.assessment ? Math.max(0, props.dossier.assessment.total - props.dossier.received) + (props.more ?? 0) : 0
)

/** What each way of paying costs; where the gateway offers its own, there is nothing to choose. */
const costs = computed(() => payingCosts(cycle.notice?.fees ?? { channels: [] }, due.value))
function begin() {
  const isUnderWay = under.value !== null && left.value > 0
  if (costs.value.length > 0 && !isUnderWay) choosing.value = true
  else void pay()
}
let way: WayCost['way'] | undefined
function payBy(chosen: WayCost['way']) {
  way = chosen
  choosing.value = false
  void pay()
}
async function pay(permit: Permit = {}) {
  if (payStanding.value?.outsideDates && !permit.outsideDates) {
    askingToPay.value = true
    return
  }
  if (busy.value) return
  busy.value = true
  const done = await attempt(async () => {
    const { page } = await callApi<{ page: string }>(`/api/applications/${props.dossier.id}/payments`, {
      method: 'POST',
      body: { ...permit, way },
    })
    leaveForGateway(page)
  })
  if (!done) await attempt(props.refresh)
  busy.value = false
}
/** A payment under way, and the time that is left for it. */
const now = useNow(1000)
const under = computed(() => props.dossier.payments.find(payment => payment.state === 'open') ?? null)
const left = computed(() => under.value ? Math.max(0, Math.ceil((Date.parse(under.value.expiresAt) - now.value.getTime()) / 1000)) : 0)
const leftText = computed(() => `${Math.floor(left.value / 60)}:${String(left.value % 60).padStart(2, '0')}`)
// Candidates' own sheets watch by themselves.
useLive(props.dossier.id, () => !props.own || props.more !== undefined, () => props.dossier.changedAt, props.refresh)
async function askGateway() {
  busy.value = true
  await attempt(async () => {
    const { answered } = await callApi<{ answered: number }>(`/api/applications/${props.dossier.id}/payments/ask`, { method: 'POST' })
    await props.refresh()
    await cycle.refreshBand()
    tell(answered > 0 ? say('paying.theGatewayAnsweredTheFeeIs') : say('paying.theGatewayHasNoResultYet'))
  })
  busy.value = false
}
</script>

<template>
  <span>{{ say('paying.due', { due: spelling.amount(due) }) }}<span
    v-if="under"
    class="soft"
  > · {{ left > 0 ? say('paying.timeLeftToPay', { left: leftText }) : say('paying.timeToPayIsOver') }}</span></span>
  <HouseButton
    v-if="dossier.tracks.fee === 'confirming' && !own"
    class="push"
    :busy="busy"
    @click="askGateway"
  >
    {{ say('paying.askTheGateway') }}
  </HouseButton>
  <HouseButton
    primary
    :class="{ push: dossier.tracks.fee !== 'confirming' }"
    :busy="busy"
    :disabled="dossier.tracks.fee !== 'confirming' && !!payStanding?.refusal"
    :title="dossier.tracks.fee !== 'confirming' ? whyNot(payStanding) : ''"
    @click="begin"
  >
    {{ under && left > 0 ? say('paying.goOnPaying') : say('paying.pay', { due: spelling.amount(due) }) }}
  </HouseButton>
  <LazySheetWays
    v-if="choosing"
    :due="due"
    :costs="costs"
    @pay="payBy"
    @close="choosing = false"
  />
  <ActDialog
    v-if="askingToPay && payStanding"
    :standing="payStanding"
    :busy="busy"
    @act="pay"
    @close="askingToPay = false"
  />
</template>
