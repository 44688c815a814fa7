<script setup lang="ts">
import '~/words/later'
import type { Finding } from '~~/core/finding/finding'
import { feeQuestions } from '~~/core/fees/order'
import type { Dossier } from '~~/shared/applications'
import type { Sheet } from '~~/app/composables/sheet'

/** Where the fee is paid before the form is handed in: it is assessed once all that it hangs on is there, then paid. */
const props = defineProps<{ dossier: Dossier, own?: boolean, gaps: Finding[], sheet: Sheet }>()
const cycle = useCycleStore()
const acts = useAct(props.dossier.id, props.sheet.show)
const { actButtons } = useWords().acts
const lacks = computed(() => cycle.notice ? props.gaps.filter(gap => cycle.notice && feeQuestions(cycle.notice).has(gap.about)).length : 0)
async function ask() {
  if (await props.sheet.save()) await acts.perform('ask-for-fee', { ...props.sheet.permit.value })
}
</script>

<template>
  <HouseButton
    v-if="dossier.tracks.fee === 'not assessed'"
    class="push"
    primary
    :disabled="lacks > 0 || !canAct(dossier, 'ask-for-fee')"
    :busy="acts.busy.value"
    :title="lacks > 0 ? say('parts.theFeeHangsOnMore', { count: lacks }) : ''"
    @click="ask"
  >
    {{ actButtons['ask-for-fee'].press }}
  </HouseButton>
  <SheetPayment
    v-else
    :dossier="dossier"
    :own="own"
    :refresh="sheet.refresh"
  />
</template>
