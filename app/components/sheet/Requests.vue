<script setup lang="ts">
import '~/words/later'
import type { Dossier } from '~~/shared/applications'

const { requestWords } = useWords().states

/** What somebody has asked for besides a seat, and what the office said of it and why. */
defineProps<{ dossier: Dossier }>()
const spelling = useSpelling()
</script>

<template>
  <div class="sheet-row head">
    <div class="body">
      <h2 class="section-title">
        {{ say('parts.whatIsAskedFor') }}
      </h2>
      <div
        v-for="request in dossier.requests"
        :key="request.id"
        class="request"
      >
        <p>
          <b>{{ request.title }}</b> · <span :class="{ attention: request.word === null, refusal: request.word === 'declined' }">{{ requestWords[request.word ?? 'open'] }}</span>
        </p>
        <p
          v-for="decision in request.decisions.slice(0, 1)"
          :key="decision.at"
          class="soft small"
        >
          {{ say('parts.decidedOn', { by: decision.by, at: spelling.instant(decision.at), reason: decision.reason }) }}
        </p>
        <p
          v-if="request.word === null"
          class="soft small"
        >
          {{ say('parts.requestWaits', { proof: request.proof }) }}
        </p>
      </div>
    </div>
    <div class="beside" />
  </div>
</template>

<style scoped>
.request { padding: 3px 0; }
</style>
