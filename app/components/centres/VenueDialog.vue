<script setup lang="ts">
import type { PlaceVenue } from '~~/shared/places'

/** How a venue is called, where it lies and whom to ask there: for every examination. */
const { venue } = defineProps<{ venue: PlaceVenue }>()
const emit = defineEmits<{ changed: [] }>()
const open = defineModel<boolean>({ required: true })
const cycle = useCycleStore()
const facts = reactive({ title: venue.title, address: venue.address, contact: venue.contact })
const { busy, refusal, send } = useSubmission()
const save = () =>
  send(async () => {
    await callApi(`/api/centres/venues/${venue.code}`, { method: 'PUT', body: { ...facts } })
    await cycle.load(true)
    // Once it is closed nobody hears it.
    emit('changed')
    open.value = false
  })
const fields = ['title', 'address', 'contact'] as const
const most = { title: 140, address: 300, contact: 300 }
</script>

<template>
  <ElDialog
    v-model="open"
    :title="say('centres.editVenueOf', { venue: venue.title })"
    width="min(520px, 94vw)"
  >
    <label
      v-for="field in fields"
      :key="field"
    >{{ say('centres.venueField', { field }) }}<ElInput
      v-model="facts[field]"
      :maxlength="most[field]"
    /></label>
    <p class="soft small">
      {{ say('centres.venueForAll') }}
    </p>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template #footer>
      <ElButton @click="open = false">
        {{ say('centres.leaveIt') }}
      </ElButton>
      <ElButton
        type="primary"
        :loading="busy"
        :disabled="facts.title.trim() === '' || facts.address.trim() === ''"
        @click="save"
      >
        {{ say('centres.saveVenue') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
label { display: flex; flex-direction: column; gap: 2px; color: var(--ink-soft); font-size: 14px; margin: 12px 0; }
</style>
