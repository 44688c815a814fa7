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
    const found = await callApi<{ points: number }>(`/api/runs/${props.run}/move-cost`, {
      query: { application: props.person.applicationId, city: wanted },
    })
    if (city.value === wanted) cost.value = found
  } catch (error) {
    if (city.value === wanted) problem.value = problemText(error)
  }
})
const words = computed(() => {
  const points = cost.value?.points
  if (points === undefined) return ''
  if (points === 0) return say('centres.costsNobodyAnythingAnotherPlacement')
  return points > 0 ? say('centres.costsMore', { points }) : say('centres.savesPointsOverAllPeopleTogether', { points: -points })
})
async function place() {
  busy.value = true
  const done = await attempt(() =>
    callApi(`/api/applications/${props.person.applicationId}/placement`, {
      method: 'PUT',
      body: { city: city.value, reason: reason.value },
    })
  )
  busy.value = false
  if (!done) return
  open.value = false
  tell(say('centres.staysInInEveryRunFrom', { name: props.person.name, city: spelling.city(city.value) }), 'success')
  await navigateTo({ path: '/centres/new', query: { from: props.run } })
}
</script>

<template>
  <ElDialog
    v-model="open"
    :title="say('centres.placeSomebodyByHand', { name: person.name })"
    width="min(560px, 94vw)"
  >
    <p class="soft">
      {{ say('centres.nowInCity', { hasCity: String(Boolean(person.city)), city: spelling.city(person.city) }) }}
    </p>
    <label>{{ say('centres.cityLabel') }}<ElSelect
      v-model="city"
      :aria-label="say('centres.cityLabel')"
      filterable
      :placeholder="say('centres.choose')"
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
      {{ say('centres.placingEveryoneAnewToSeeWhat') }}
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
    <label>{{ say('centres.reasonForTheRecord') }}<ElInput
      v-model="reason"
      type="textarea"
      :rows="2"
      maxlength="400"
    /></label>
    <template #footer>
      <ElButton @click="open = false">
        {{ say('centres.leaveIt') }}
      </ElButton>
      <ElButton
        type="primary"
        :loading="busy"
        :disabled="!cost || reason.trim().length < 5"
        @click="place"
      >
        {{ say('centres.placeByHand') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
label { display: flex; flex-direction: column; gap: 2px; color: var(--ink-soft); font-size: 14px; margin: 12px 0; }
</style>
