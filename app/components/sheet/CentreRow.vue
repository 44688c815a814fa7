<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'

/** Where somebody sits, and the card that says so. */
defineProps<{ dossier: Dossier, placement: NonNullable<Dossier['placement']>, /** Title of the session. */ session: string }>()
const spelling = useSpelling()
</script>

<template>
  <div
    class="sheet-row head"
  >
    <div class="body">
      <h2 class="section-title">
        {{ say('sheet.centreAndCard') }}
      </h2>
      <p>
        {{ say('sheet.rollNumber') }} <b>{{ placement.roll }}</b>{{ say('sheet.citySessionSeat', { city: spelling.city(placement.seat.city), session, seat: placement.seat.seat }) }}
      </p>
      <p v-if="dossier.card && !dossier.card.voidAt">
        <a
          :href="`/api/applications/${dossier.id}/card`"
          target="_blank"
        >{{ say('sheet.admitCardVersionPdf', { version: dossier.card.version }) }}</a>
      </p>
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('sheet.runAndChoice', { run: placement.run, hasChoice: String(Boolean(placement.choice)), choice: placement.choice }) }}
        <NuxtLink :to="`/centres/why/${placement.runId}/${dossier.id}`">
          {{ say('sheet.whyHere') }}
        </NuxtLink>
      </p>
    </div>
  </div>
</template>
