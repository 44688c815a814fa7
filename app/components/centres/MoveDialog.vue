<script setup lang="ts">
import type { RunPerson } from '~~/shared/centres'

/** Placing somebody by hand: the city, what it would cost everybody together, and the reason for the record. */
const props = defineProps<{ run: string, person: RunPerson }>()
const open = defineModel<boolean>({ required: true })
const cycle = useCycleStore()
const spelling = useSpelling()
const city = ref('')
const reason = ref('')
const cost = ref<{ points: number } | null>(null)
const problem = ref('')
const busy = ref(false)
watch(city, async (wanted) => {
  cost.value = null
  problem.value = ''
  if (!wanted) return
  try {
    const found = await callApi<{ points: number }>(`/api/runs/${props.run}/move-cost`, { query: { application: props.person.applicationId, city: wanted } })
    if (city.value === wanted) cost.value = found
  } catch (error) {
    if (city.value === wanted) problem.value = problemText(error)
  }
})
const words = computed(() => {
  const points = cost.value?.points
  if (points === undefined) return ''
  if (points === 0) return 'Costs nobody anything: another placement is as good.'
  return points > 0 ? `Costs ${points.toLocaleString('en-GB')} ${points === 1 ? 'point' : 'points'} more, over all people together.` : `Saves ${(-points).toLocaleString('en-GB')} points over all people together: the run's policy does not place at the least cost.`
})
async function place() {
  busy.value = true
  const done = await attempt(() => callApi(`/api/applications/${props.person.applicationId}/placement`, { method: 'PUT', body: { city: city.value, reason: reason.value } }))
  busy.value = false
  if (!done) return
  open.value = false
  ElMessage({ message: `${props.person.name} stays in ${spelling.city(city.value)} in every run from now on. Make a new run to see it.`, type: 'success', duration: 6000 })
  await navigateTo({ path: '/centres/new', query: { from: props.run } })
}
</script>

<template>
  <ElDialog
    v-model="open"
    :title="`Place ${person.name} by hand`"
    width="min(560px, 94vw)"
  >
    <p class="soft">
      Now {{ person.city ? `in ${spelling.city(person.city)}` : 'without a seat' }}. The runs that exist stay as they are; every later one leaves the person where you say.
    </p>
    <label>City<ElSelect
      v-model="city"
      aria-label="City"
      filterable
      placeholder="Choose"
    ><ElOption
      v-for="one in cycle.notice?.cities ?? []"
      :key="one.id"
      :value="one.id"
      :label="one.title"
      :disabled="one.id === person.city"
    /></ElSelect></label>
    <p
      v-if="city && !cost && !problem"
      class="soft"
    >
      Placing everyone anew to see what it costs …
    </p>
    <p
      v-if="words"
      class="note"
    >
      {{ words }}
    </p>
    <HouseAlert
      :text="problem"
      kind="refusal"
    />
    <label>Reason, for the record<ElInput
      v-model="reason"
      type="textarea"
      :rows="2"
      maxlength="400"
    /></label>
    <template #footer>
      <ElButton @click="open = false">
        Leave it
      </ElButton>
      <ElButton
        type="primary"
        :loading="busy"
        :disabled="!cost || reason.trim().length < 5"
        @click="place"
      >
        Place by hand
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
label { display: flex; flex-direction: column; gap: 2px; color: var(--ink-soft); font-size: 14px; margin: 12px 0; }
</style>
