<script setup lang="ts">
import '~/words/later'
import type { Zone } from '~~/core/calendar/zone'
import type { OwnLetter } from '~~/shared/candidates'

/** What the account was written about this application. */
const props = defineProps<{ id: string, zone: Zone }>()
const letters = shallowRef<OwnLetter[]>([])
const { failure } = useLoaded(async () => {
  letters.value = await callApi<OwnLetter[]>(`/api/own/letters?application=${props.id}`)
})
</script>

<template>
  <section class="letters">
    <h2 class="section-title">
      {{ say('parts.lettersAbout') }}
    </h2>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <OwnLetters
      :letters="letters"
      :zone="zone"
      :contacts="[]"
    />
  </section>
</template>

<style scoped>
.letters { margin-bottom: 16px; }
</style>
