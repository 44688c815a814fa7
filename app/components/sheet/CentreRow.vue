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
        Centre and card
      </h2>
      <p>
        Roll number <b>{{ placement.roll }}</b>, {{ spelling.city(placement.seat.city) }}, {{ session }}, seat {{ placement.seat.seat }}.
      </p>
      <p v-if="dossier.card && !dossier.card.voidAt">
        <a
          :href="`/api/applications/${dossier.id}/card`"
          target="_blank"
        >Admit card, version {{ dossier.card.version }} (PDF)</a>
      </p>
    </div>
    <div class="beside">
      <p class="soft small">
        Run {{ placement.run }}: {{ placement.choice ? `choice ${placement.choice} of the list` : 'off the list, all named cities were full' }}.
        <NuxtLink :to="`/centres/why/${placement.runId}/${dossier.id}`">
          Why here?
        </NuxtLink>
      </p>
    </div>
  </div>
</template>
