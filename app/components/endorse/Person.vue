<script setup lang="ts">
import '~/words/later'
import type { EndorsementView } from '~~/shared/endorsements'

/** Somebody who was asked, and what they said as far as the reader may see it. */
defineProps<{ one: EndorsementView, canTakeBack?: boolean, busy?: boolean }>()
const emit = defineEmits<{ takeBack: [] }>()
const spelling = useSpelling()
</script>

<template>
  <div class="one">
    <p class="line">
      <b>{{ one.name }}</b>
      <span :class="{ settled: one.state === 'given', refusal: one.state === 'declined', attention: one.state === 'asked' }">{{ say('endorse.state', { state: one.state }) }}</span>
      <span class="soft small">{{ one.address ?? say('endorse.onPaper') }} · {{ say('endorse.when', { at: spelling.instant(one.settledAt ?? one.at), wasReminded: String(one.remindedAt !== null), reminded: one.remindedAt ? spelling.instant(one.remindedAt) : '' }) }}</span>
      <button
        v-if="canTakeBack"
        type="button"
        class="press small"
        :disabled="busy"
        @click="emit('takeBack')"
      >
        {{ say('endorse.takeBack') }}
      </button>
    </p>
    <dl v-if="one.said && one.said.length > 0">
      <template
        v-for="{ label, answer } in one.said"
        :key="label"
      >
        <dt class="soft small">
          {{ label }}
        </dt><dd>{{ answer }}</dd>
      </template>
    </dl>
    <p
      v-if="one.otherText"
      class="small text"
    >
      {{ say('endorse.theyReadThen', { version: one.version, text: one.otherText }) }}
    </p>
    <p
      v-if="one.signed"
      class="soft small"
    >
      {{ say('endorse.signedBy', { signed: one.signed, version: one.version }) }}
    </p>
  </div>
</template>

<style scoped>
.one { border-left: 3px solid var(--line-strong); padding: 2px 0 2px 12px; margin: 8px 0; overflow-wrap: anywhere; }
.line { display: flex; flex-wrap: wrap; gap: 2px 12px; align-items: baseline; }
dl, .text { margin: 4px 0; }
dd { margin: 0 0 6px; white-space: pre-wrap; }
button { min-height: 24px; }
</style>
