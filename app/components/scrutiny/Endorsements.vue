<script setup lang="ts">
import '~/words/later'
import type { Dossier } from '~~/shared/applications'
import type { EndorsementView } from '~~/shared/endorsements'

/** What others have said, beside the case that waits for it. */
const props = defineProps<{ dossier: Dossier }>()
const cycle = useCycleStore()
const rows = shallowRef<EndorsementView[]>([])
const { failure } = useLoaded(async () => {
  rows.value = await callApi<EndorsementView[]>(`/api/applications/${props.dossier.id}/endorsements`)
})
/** By what was asked; what the notice has dropped since stands under its id. */
const groups = computed(() => {
  const given = rows.value.filter(row => row.state !== 'taken back')
  return [...new Set(given.map(row => row.rule))].map(id => ({
    id,
    title: cycle.notice?.endorsements?.find(rule => rule.id === id)?.title ?? id,
    people: given.filter(row => row.rule === id),
  }))
})
</script>

<template>
  <h3>{{ say('endorse.section') }}</h3>
  <HouseAlert
    :text="failure"
    kind="refusal"
  />
  <template
    v-for="{ id, title, people } in groups"
    :key="id"
  >
    <p><b>{{ title }}</b></p>
    <EndorsePerson
      v-for="one in people"
      :key="one.id"
      :one="one"
    />
  </template>
</template>
