<script setup lang="ts">
import '~/words/later'
import { startOf } from '~~/core/application/timetable'
import type { Dossier } from '~~/shared/applications'

/** Where somebody sits, and the card that says so. */
const props = defineProps<{ dossier: Dossier, placement: NonNullable<Dossier['placement']> }>()
const cycle = useCycleStore()
const when = (id: string) => startOf(cycle.notice?.sessions.find(one => one.id === id))
const sittings = computed(() =>
  [...props.placement.sittings].sort((a, b) => when(a.session).localeCompare(when(b.session))).map(({ city, session, seat, paper }) => ({
    paper: cycle.notice?.testPapers.find(one => one.id === paper)?.title ?? '',
    words: say('parts.citySessionSeat', {
      city: spelling.city(city),
      session: cycle.notice?.sessions.find(one => one.id === session)?.title ?? session,
      seat,
    }),
  }))
)
const spelling = useSpelling()
</script>

<template>
  <div
    class="sheet-row head"
  >
    <div class="body">
      <h2 class="section-title">
        {{ say('parts.centreAndCard') }}
      </h2>
      <p>
        {{ say('parts.rollNumber') }} <b>{{ placement.roll }}</b>
      </p>
      <p
        v-for="sitting in sittings"
        :key="sitting.paper + sitting.words"
      >
        <b v-if="sitting.paper">{{ sitting.paper }}:</b> {{ sitting.words }}
      </p>
      <p v-if="dossier.card && !dossier.card.voidAt">
        <a
          :href="`/api/applications/${dossier.id}/card`"
          target="_blank"
        >{{ say('parts.admitCardVersionPdf', { version: dossier.card.version }) }}</a>
      </p>
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('parts.runAndChoice', { run: placement.run, hasChoice: String(Boolean(placement.choice)), choice: placement.choice }) }}
        <NuxtLink :to="`/centres/why/${placement.runId}/${dossier.id}`">
          {{ say('parts.whyHere') }}
        </NuxtLink>
      </p>
    </div>
  </div>
</template>
