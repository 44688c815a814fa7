<script setup lang="ts">
import type { Answers } from '~~/core/application/answers'
import type { Dossier } from '~~/shared/applications'

/** What somebody does at the end of a paper form's sheet: say that all of it is keyed; everything else waits for the second keying. */
const props = defineProps<{ dossier: Dossier, answers: Answers, save: () => Promise<boolean> }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const { busy, perform } = useAct(props.dossier.id, dossier => emit('changed', dossier))
const state = computed(() => props.dossier.keying?.state)
async function finish() {
  if (!await props.save()) return
  if (await perform('finish-keying')) await navigateTo('/intake/keying')
}
</script>

<template>
  <HouseButton
    v-if="state === 'first'"
    class="push"
    primary
    :busy="busy"
    :disabled="Object.keys(answers).length === 0"
    @click="finish"
  >
    {{ say('keying.finish') }}
  </HouseButton>
</template>
