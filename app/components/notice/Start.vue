<script setup lang="ts">
import { parseCalendarDate } from '~~/core/calendar/calendar-date'
import { dateInZone } from '~~/core/calendar/zone'
import { withoutCentres } from '~~/core/notice/centres'
import { resolveDates } from '~~/core/notice/relative-dates'
import { shiftDates, type Anchor } from '~~/core/notice/shift'
import type { Notice } from '~~/core/notice/schema'
import { patternNames, patternOf, type PatternName } from '~~/shared/patterns'

/** Begins the draft of a new cycle: from nothing, from a pattern, or as a copy of a cycle with its dates moved. */
const cycle = useCycleStore()
const router = useRouter()
const from = ref<string>('recruitment')
const opens = ref('')
const anchor = ref<Anchor>('weekday')
const { busy, refusal, send } = useSubmission()
const patternTitles: Record<PatternName, string> = {
  empty: say('edit.patternEmpty'),
  recruitment: say('edit.patternRecruitment'),
  entrance: say('edit.patternEntrance'),
  language: say('edit.patternLanguage'),
}
const anchors: Record<Anchor, string> = { weekday: say('edit.anchorWeekday'), day: say('edit.anchorDay'), days: say('edit.anchorDays') }
const isPattern = computed(() => patternNames.some(name => name === from.value))

async function copied(code: string): Promise<unknown> {
  const { notice } = await callApi<{ notice: Notice }>(`/api/cycles/${code}/notice`)
  const { zone } = notice.body
  // Cities are described with their rooms, so that the new cycle books them as this one did.
  return {
    ...shiftDates(
      { ...withoutCentres(notice), cities: notice.cities },
      zone,
      dateInZone(notice.keyDates.opens, zone),
      opens.value,
      anchor.value,
    ) as object,
    code: '',
  }
}
const begin = () =>
  send(async () => {
    if (!isPattern.value && !parseCalendarDate(opens.value)) {
      refusal.value = say('edit.couldNotBegin')
      return
    }
    const zone = cycle.notice?.body.zone ?? { name: 'UTC', utcOffsetMinutes: 0 }
    const pattern = isPattern.value ? patternOf(from.value as PatternName) : null
    // An office that has a cycle is the same body in the next one.
    const document = pattern
      ? resolveDates({ ...pattern, ...(cycle.notice ? { body: cycle.notice.body } : {}) }, dateInZone(new Date(), zone), zone)
      : await copied(from.value)
    const id = crypto.randomUUID()
    await callApi(`/api/drafts/${id}`, { method: 'PUT', body: { document, revision: 0 } })
    await router.push(`/notice/draft/${id}`)
  })
</script>

<template>
  <section class="start">
    <h2 class="section-title">
      {{ say('edit.newDraft') }}
    </h2>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <div class="row">
      <label for="begin-with">{{ say('edit.beginWith') }}</label>
      <ElSelect
        id="begin-with"
        v-model="from"
        :aria-label="say('edit.beginWith')"
        style="max-width: 380px"
      >
        <ElOption
          v-for="name in patternNames"
          :key="name"
          :value="name"
          :label="patternTitles[name]"
        />
        <ElOption
          v-for="one in cycle.cycles"
          :key="one.code"
          :value="one.code"
          :label="`${say('edit.copyOfACycle', { code: one.code })}: ${one.title}`"
        />
      </ElSelect>
    </div>
    <template v-if="!isPattern">
      <div class="row">
        <label for="opens-about">{{ say('edit.opensAbout') }}</label>
        <SheetDateField
          input-id="opens-about"
          :name="say('edit.opensAbout')"
          :answer="opens"
          :flawed="false"
          @change="day => opens = day"
        />
      </div>
      <div class="row">
        <span>{{ say('edit.anchor') }}</span>
        <ElRadioGroup
          v-model="anchor"
          :aria-label="say('edit.anchor')"
        >
          <ElRadio
            v-for="(title, name) in anchors"
            :key="name"
            :value="name"
          >
            {{ title }}
          </ElRadio>
        </ElRadioGroup>
      </div>
    </template>
    <p
      v-else
      class="soft small"
    >
      {{ say('edit.patternsAreInvented') }}
    </p>
    <ElButton
      type="primary"
      :loading="busy"
      @click="begin"
    >
      {{ say('edit.beginTheDraft') }}
    </ElButton>
  </section>
</template>

<style scoped>
.start { padding-bottom: 20px; }
/* Labels stand above, so that what a date says back never moves the button that is about to be pressed. */
.row { display: flex; flex-direction: column; gap: 2px; padding: 6px 0; }
p { padding: 2px 0 8px; }
</style>
