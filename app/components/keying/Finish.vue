<script setup lang="ts">
import type { Sheet } from '~~/app/composables/sheet'

/** What somebody does at the end of a paper form's sheet: say that all of it is keyed; everything else waits for the second keying. */
const props = defineProps<{ sheet: Sheet }>()
const { dossier, answers, save, show } = props.sheet
const { busy, perform } = useAct(dossier.value?.id ?? '', show)
async function finish() {
  if (!await save()) return
  if (await perform('finish-keying')) await navigateTo('/intake/keying')
}
</script>

<template>
  <HouseButton
    v-if="dossier?.keying?.state === 'first'"
    class="push"
    primary
    :busy="busy"
    :disabled="Object.keys(answers).length === 0"
    @click="finish"
  >
    {{ say('keying.finish') }}
  </HouseButton>
</template>
