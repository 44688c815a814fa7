<script setup lang="ts">
import { parseCalendarDate } from '~~/core/calendar/calendar-date'
import { readDates, readMonth } from '~~/core/calendar/read-date'
import { spellBirthday, spellMonth } from '~~/core/calendar/zone'

/** A date or a month, typed in any usual order and said back with its month in letters; what could be two days is asked. */
const props = defineProps<{
  inputId: string,
  name: string,
  answer: string,
  flawed: boolean,
  monthOnly?: boolean | undefined,
  /** Where no label stands beside it. */
  label?: string,
  width?: string,
}>()
const emit = defineEmits<{ change: [answer: string] }>()
const typed = ref(shown(props.answer))
const focused = ref(false)
const read = (text: string) => props.monthOnly ? [readMonth(text) ?? []].flat() : readDates(text)
const readings = computed(() => read(typed.value))

function shown(answer: string): string {
  if (!parseCalendarDate(answer)) return answer
  return props.monthOnly ? spellMonth(answer) : spellBirthday(answer)
}
watch(() => props.answer, (answer) => {
  if (!focused.value) typed.value = shown(answer)
})
// What is one day is kept as that day; anything else is kept as it was typed, and the margin says what is wrong.
function take(text: string) {
  typed.value = text
  const [only, other] = read(text)
  emit('change', only && !other ? only : text)
}
function choose(day: string) {
  emit('change', day)
  typed.value = spellBirthday(day)
}
function leave() {
  focused.value = false
  if (readings.value.length === 1) typed.value = shown(readings.value[0] ?? '')
}
</script>

<template>
  <span class="typed">
    <input
      :id="inputId"
      :value="typed"
      :name="name"
      class="field"
      :placeholder="say(monthOnly ? 'sheet.exampleOfAMonth' : 'sheet.exampleOfADate')"
      :aria-label="label"
      :style="{ width: width ?? '180px' }"
      :aria-invalid="flawed"
      :class="{ flawed }"
      autocomplete="off"
      spellcheck="false"
      @input="take(($event.target as HTMLInputElement).value)"
      @focus="focused = true"
      @blur="leave"
    >
    <span
      v-if="readings.length === 1 && typed !== shown(readings[0] ?? '')"
      class="soft"
    >{{ shown(readings[0] ?? '') }}</span>
    <span
      v-else-if="readings.length === 2"
      class="which"
      role="group"
      :aria-label="say('sheet.whichDayIsMeant')"
    >{{ say('sheet.whichDay') }}
      <button
        v-for="day in readings"
        :key="day"
        type="button"
        class="press"
        @click="choose(day)"
      >{{ spellBirthday(day) }}</button>
    </span>
  </span>
</template>

<style scoped>
.typed { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; }
.which { display: flex; gap: 12px; }
.press { min-height: 28px; }
</style>
