<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'
import type { EndorsementView } from '~~/shared/endorsements'

/** What others have said, beside the case that waits for it. */
const props = defineProps<{ dossier: Dossier }>()
const cycle = useCycleStore()
const rows = shallowRef<EndorsementView[]>([])
const { failure } = useLoaded(async () => { rows.value = await callApi<EndorsementView[]>(`/api/applications/${props.dossier.id}/endorsements`) })
const groups = computed(() => (cycle.notice?.endorsements ?? []).map(rule => ({ rule, people: rows.value.filter(row => row.rule === rule.id && row.state !== 'taken back') })).filter(({ people }) => people.length > 0))
</script>

<template>
  <h3>{{ say('endorse.section') }}</h3>
  <HouseAlert
    :text="failure"
    kind="refusal"
  />
  <template
    v-for="{ rule, people } in groups"
    :key="rule.id"
  >
    <p><b>{{ rule.title }}</b></p>
    <EndorsePerson
      v-for="one in people"
      :key="one.id"
      :one="one"
    />
  </template>
</template>
