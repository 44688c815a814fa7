<script setup lang="ts">
import '~/words/later'
import type { Dossier } from '~~/shared/applications'

/** What the notice has people accept before the form opens. */
const props = defineProps<{ id: string, /** Accepted by the candidate's own hand. */ own?: boolean }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const { got, failure, reload } = useTexts(props.id)
const first = computed(() => got.value?.texts.filter(one => one.isFirst) ?? [])
const { ticked, typed, isSigned, isComplete, read } = useTicks(() => first.value, props.own)
const { busy, perform } = useAct(props.id, dossier => emit('changed', dossier))
async function accept() {
  // A text that was changed meanwhile is shown as it is now.
  if (!await perform('accept-texts', { texts: read() })) await reload()
}
</script>

<template>
  <div class="note">
    <h2>{{ say('parts.textsFirst') }}</h2>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <template v-if="got">
      <p class="soft small">
        {{ say('parts.textsFirstHelp', { count: first.length }) }}
      </p>
      <SheetTextToAccept
        v-for="text in first"
        :key="text.sha256"
        v-model="ticked[text.sha256]"
        v-model:typed="typed[text.sha256]"
        :is-signed="isSigned(text)"
        :text="text"
        :tick="own ? say('parts.iAcceptThis') : say('parts.theCandidateAcceptsThis')"
      />
      <HouseButton
        primary
        :disabled="!isComplete"
        :busy="busy"
        @click="accept"
      >
        {{ say('parts.acceptAndOpen') }}
      </HouseButton>
    </template>
  </div>
</template>

<style scoped>
h2 { margin: 0 0 4px; font-size: 18px; }
.text-to-accept { margin-top: 12px; }
</style>
