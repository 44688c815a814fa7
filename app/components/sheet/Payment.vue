<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'
import type { Permit } from '~~/app/composables/act'

/** What is due, and the way to the gateway and back. */
const props = defineProps<{ dossier: Dossier, own?: boolean, /** Wanted for a correction, beyond the fee. */ more?: number, refresh: () => Promise<void> }>()
const cycle = useCycleStore()
const router = useRouter()
const spelling = useSpelling()
const busy = ref(false)
const askingToPay = ref(false)
const payStanding = computed(() => standingOf(props.dossier, 'start-payment'))
const due = computed(() => props.dossier.assessment ? Math.max(0, props.dossier.assessment.total - props.dossier.received) + (props.more ?? 0) : 0)

async function pay(permit: Permit = {}) {
  if (payStanding.value?.outsideDates && !permit.outsideDates) {
    askingToPay.value = true
    return
  }
  if (busy.value) return
  busy.value = true
  const done = await attempt(async () => {
    const opened = await callApi<{ order: string }>(`/api/applications/${props.dossier.id}/payments`, { method: 'POST', body: permit })
    await router.push(`/standins/gateway/${encodeURIComponent(opened.order)}`)
  })
  if (!done) await attempt(props.refresh)
  busy.value = false
}
async function askGateway() {
  busy.value = true
  await attempt(async () => {
    const { answered } = await callApi<{ answered: number }>(`/api/applications/${props.dossier.id}/payments/ask`, { method: 'POST' })
    await props.refresh()
    await cycle.refreshBand()
    ElMessage({ message: answered > 0 ? say('sheet.theGatewayAnsweredTheFeeIs') : say('sheet.theGatewayHasNoResultYet'), type: 'info' })
  })
  busy.value = false
}
</script>

<template>
  <span>{{ say('sheet.due', { due: spelling.amount(due) }) }}</span>
  <ElButton
    v-if="dossier.tracks.fee === 'confirming' && !own"
    class="push"
    :loading="busy"
    @click="askGateway"
  >
    {{ say('sheet.askTheGateway') }}
  </ElButton>
  <ElButton
    type="primary"
    :class="{ push: dossier.tracks.fee !== 'confirming' }"
    :loading="busy"
    :disabled="dossier.tracks.fee !== 'confirming' && !!payStanding?.refusal"
    :title="dossier.tracks.fee !== 'confirming' ? whyNot(payStanding) : ''"
    @click="pay()"
  >
    {{ say('sheet.pay', { due: spelling.amount(due) }) }}
  </ElButton>
  <ActDialog
    v-if="askingToPay && payStanding"
    :standing="payStanding"
    :busy="busy"
    @act="pay"
    @close="askingToPay = false"
  />
</template>
