<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'

/** Of a paper form: how far its keying by two people is, and what comes next. */
const props = defineProps<{ dossier: Dossier }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const spelling = useSpelling()
const { actButtons } = useWords().acts
const { busy, perform } = useAct(props.dossier.id, dossier => emit('changed', dossier))
const keying = computed(() => props.dossier.keying)
const words = computed(() => {
  const at = spelling.instant(keying.value?.receivedAt ?? null)
  switch (keying.value?.state) {
    case 'first':
      return say('keying.sheetFirst', { at })
    case 'second':
      return say('keying.sheetSecond')
    case 'differing':
      return say('keying.sheetDiffering')
    default:
      return say('keying.sheetAgreed', { at })
  }
})
</script>

<template>
  <div
    v-if="keying"
    class="note"
    :class="{ 'is-attention': keying.state === 'second' || keying.state === 'differing' }"
  >
    <p>
      {{ words }} <NuxtLink
        v-if="keying.state === 'differing' || keying.state === 'agreed'"
        :to="`/intake/keying/${dossier.id}`"
      >
        {{ keying.state === 'differing' ? say('keying.compare') : say('keying.open') }}
      </NuxtLink>
      <NuxtLink
        v-else-if="keying.state === 'second' && !keying.isOwnFirst"
        :to="`/intake/keying/${dossier.id}`"
      >
        {{ say('keying.keyAgain') }}
      </NuxtLink>
    </p>
    <HouseButton
      v-if="canAct(dossier, 'take-back-keying')"
      :busy="busy"
      @click="perform('take-back-keying')"
    >
      {{ actButtons['take-back-keying'].press }}
    </HouseButton>
  </div>
</template>
