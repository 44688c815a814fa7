<script setup lang="ts">
import { parseCalendarDate } from '~~/core/calendar/calendar-date'
import { clockInZone, dateInZone, instantInZone, spellInstant, type Zone } from '~~/core/calendar/zone'

/** A moment as day and clock time in the zone of the body. The value is an instant, or half a one as it was typed. */
const { inputId, label, zone } = defineProps<{ inputId: string, label: string, zone: Zone }>()
const value = defineModel<string>({ required: true })
const isMoment = computed(() => /^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(value.value) && !Number.isNaN(Date.parse(value.value)))
const [date, time] = [ref(''), ref('')]
watch([value, () => zone], read, { immediate: true })

function read() {
  if (isMoment.value) {
    date.value = dateInZone(value.value, zone)
    time.value = clockInZone(value.value, zone).slice(0, 5)
    return
  }
  // Half a moment stands as it was typed.
  const [day = '', clock = ''] = value.value.split('T')
  date.value = day
  time.value = clock
}
function write(day: string, clock: string) {
  const isWhole = parseCalendarDate(day) !== null && /^([01]\d|2[0-3]):[0-5]\d$/.test(clock)
  value.value = isWhole ? instantInZone(day, clock, zone).toISOString() : `${day}T${clock}`
}
</script>

<template>
  <div class="moment">
    <SheetDateField
      :input-id="inputId"
      :name="label"
      :answer="date"
      :flawed="false"
      @change="day => write(day, time)"
    />
    <ElInput
      :model-value="time"
      :aria-label="say('house.clockTimeOf', { what: label })"
      placeholder="17:00"
      style="width: 90px"
      autocomplete="off"
      @update:model-value="clock => write(date, clock)"
    />
    <span
      v-if="isMoment"
      class="soft small"
    >{{ spellInstant(value, zone) }}</span>
  </div>
</template>

<style scoped>
.moment { display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; }
</style>
