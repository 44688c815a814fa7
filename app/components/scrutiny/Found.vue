<script setup lang="ts">
import { claimLock } from '~~/core/eligibility/claims'
import type { Dossier } from '~~/shared/applications'
import type { CaseSlot } from '~/composables/case-parts'

/** All that was measured and computed of a case: its files, the person, eligibility, claims, requests and what others say. */
const { dossier } = defineProps<{ dossier: Dossier, slots: readonly CaseSlot[], chosen: string[], busy: boolean }>()
const emit = defineEmits<{ rule: [claim: string, ruling: 'false' | 'stands', reason: string], changed: [dossier: Dossier] }>()
/** The finding whose place is drawn on its picture. */
const pointed = defineModel<string | null>('pointed', { required: true })
const session = useSessionStore()
const { editWords } = useWords().pictures
const mayRule = computed(() => session.may('scrutiny.decide') && claimLock(dossier.tracks) === null)
</script>

<template>
  <template
    v-for="{ id: slot, title, file } in slots"
    :key="slot"
  >
    <h3>{{ title }}</h3>
    <HouseFindingList
      v-model:pointed="pointed"
      :findings="file?.findings ?? []"
      :places="file?.marks.map(mark => mark.code)"
    />
    <p
      v-if="file && file.edits.length > 0"
      class="soft small"
    >
      {{ say('scrutiny.changedBeforeItWasSent', { edits: file.edits.map(editWords).join('; ') }) }}
    </p>
  </template>
  <ScrutinyLookalikes :application-id="dossier.id" />
  <template v-if="dossier.doubts.length > 0">
    <h3>{{ say('scrutiny.person') }}</h3>
    <HouseFindingNote
      v-for="finding in dossier.doubts"
      :key="finding.code"
      :finding="finding"
    />
  </template>
  <h3>{{ say('scrutiny.eligibility') }}</h3>
  <SheetPostVerdicts
    :verdicts="dossier.verdicts"
    :chosen="chosen"
    :answers="dossier.counted"
  />
  <template v-if="dossier.claims.length > 0">
    <h3>{{ say('scrutiny.claims') }}</h3>
    <ScrutinyClaimList
      :claims="dossier.claims"
      :rulings="dossier.rulings"
      :may-rule="mayRule"
      :busy="busy"
      @rule="(...given) => emit('rule', ...given)"
    />
  </template>
  <template v-if="dossier.requests.length > 0">
    <h3>{{ say('scrutiny.requests') }}</h3>
    <ScrutinyRequests
      :dossier="dossier"
      @changed="emit('changed', $event)"
    />
  </template>
  <ScrutinyEndorsements
    v-if="Object.keys(dossier.endorsed).length > 0"
    :key="JSON.stringify(dossier.endorsed)"
    :dossier="dossier"
  />
</template>

<style scoped>
h3 { margin: 12px 0 2px; }
h3:first-child { margin-top: 0; }
</style>
