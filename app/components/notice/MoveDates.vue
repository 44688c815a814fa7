<script setup lang="ts">
import { spellInstant } from '~~/core/calendar/zone'
import type { Notice } from '~~/core/notice/schema'

/** More time: ends of periods moved later by one act, with its reason. */
const { notice } = defineProps<{ notice: Notice }>()
const cycle = useCycleStore()
const { partTitle, capital } = useWords().noticeParts
const keys = ['closes', 'lastPayment', 'correctionCloses'] as const
const shown = ref(false)
const dates = ref<Record<typeof keys[number], string>>({ closes: '', lastPayment: '', correctionCloses: '' })
const reason = ref('')
const { busy, refusal, send } = useSubmission()
const changed = computed(() =>
  Object.fromEntries(keys.filter(key =>
    dates.value[key] !== '' && dates.value[key] !== notice.keyDates[key]
  ).map(key => [key, dates.value[key]]))
)
const isWhole = computed(() =>
  Object.keys(changed.value).length > 0 && Object.values(changed.value).every(at => /^\d{4}-.*T\d\d:/.test(at))
  && reason.value.trim().length >= 3
)

function open() {
  dates.value = {
    closes: notice.keyDates.closes,
    lastPayment: notice.keyDates.lastPayment,
    correctionCloses: notice.keyDates.correctionCloses,
  }
  shown.value = true
}
const move = () =>
  send(async () => {
    const { version } = await callApi<{ version: number }>(cycle.path('dates'), {
      method: 'POST',
      body: { dates: changed.value, reason: reason.value.trim() },
    })
    shown.value = false
    reason.value = ''
    await cycle.load(true)
    tell(say('notice.datesMoved', { version }), 'success')
  })
</script>

<template>
  <ElButton @click="open">
    {{ say('notice.moveDates') }}…
  </ElButton>
  <ElDialog
    v-model="shown"
    :title="say('notice.moveDates')"
    width="min(680px, 94vw)"
  >
    <p class="soft small">
      {{ say('notice.moveDatesHelp') }}
    </p>
    <div
      v-for="key in keys"
      :key="key"
      class="date"
    >
      <label :for="`move-${key}`"><b>{{ capital(partTitle(key)) }}</b></label>
      <p class="soft small">
        {{ say('notice.inForceNow', { at: spellInstant(notice.keyDates[key], notice.body.zone) }) }}
      </p>
      <HouseMomentField
        v-model="dates[key]"
        :input-id="`move-${key}`"
        :label="capital(partTitle(key))"
        :zone="notice.body.zone"
      />
    </div>
    <label for="why-moved"><b>{{ say('notice.whyMoved') }}</b></label>
    <ElInput
      id="why-moved"
      v-model="reason"
      type="textarea"
      :rows="2"
      maxlength="1000"
    />
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template #footer>
      <ElButton @click="shown = false">
        {{ say('notice.leaveThem') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!isWhole"
        :loading="busy"
        @click="move"
      >
        {{ say('notice.moveThem') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.date { padding: 12px 0; border-bottom: 1px solid var(--line); margin-bottom: 12px; }
</style>
