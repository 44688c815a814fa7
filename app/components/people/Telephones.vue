<script setup lang="ts">
import type { OfficeSettings } from '~~/shared/people'

/** What the office says of telephone numbers: whose are written without +, and ranges of its own. */
const telephones = defineModel<OfficeSettings['telephones']>({ required: true })
const emit = defineEmits<{ keep: [] }>()
const country = ref(telephones.value.country)
const [begins, digits] = [ref(''), ref('')]
watch(() => telephones.value.country, (kept) => {
  country.value = kept
})
const nameOf = computed(() => {
  const code = country.value.trim().toUpperCase()
  return /^[A-Z]{2}$/.test(code)
    ? new Intl.DisplayNames(useWords().locale, { type: 'region', fallback: 'none' }).of(code) ?? say('people.noSuchCountry')
    : ''
})
function change(ranges: OfficeSettings['telephones']['ranges']) {
  telephones.value = { country: country.value.trim().toUpperCase(), ranges }
  emit('keep')
}
const isRange = computed(() =>
  /^\d{1,12}$/.test(begins.value) && Number(digits.value) >= 6 && Number(digits.value) <= 15 && Number(digits.value) >= begins.value.length
)
function add() {
  if (!isRange.value) return
  change([...telephones.value.ranges, { begins: begins.value, digits: Number(digits.value) }])
  begins.value = digits.value = ''
}
</script>

<template>
  <div class="telephones">
    <h2>{{ say('people.telephones') }}</h2>
    <p class="soft small">
      {{ say('people.telephonesHelp') }}
    </p>
    <label for="telephone-country">{{ say('people.country') }}</label>
    <span class="line"><input
      id="telephone-country"
      v-model="country"
      class="field short"
      maxlength="2"
      autocomplete="off"
      @change="change(telephones.ranges)"
    > <span class="soft small">{{ nameOf }}</span></span>
    <ul v-if="telephones.ranges.length > 0">
      <li
        v-for="(range, index) in telephones.ranges"
        :key="index"
        class="line"
      >
        {{ say('people.range', { begins: range.begins, digits: range.digits }) }}
        <HouseButton
          small
          :aria-label="say('people.removeRange', { begins: range.begins })"
          @click="change(telephones.ranges.filter((_, i) => i !== index))"
        >
          ✕
        </HouseButton>
      </li>
    </ul>
    <form
      class="line"
      @submit.prevent="add"
    >
      <label for="range-begins">{{ say('people.rangeBegins') }}</label>
      <input
        id="range-begins"
        v-model="begins"
        class="field short"
        inputmode="numeric"
        maxlength="12"
        autocomplete="off"
      >
      <label for="range-digits">{{ say('people.rangeDigits') }}</label>
      <input
        id="range-digits"
        v-model="digits"
        class="field tiny"
        inputmode="numeric"
        maxlength="2"
        autocomplete="off"
      >
      <HouseButton
        small
        type="submit"
        :disabled="!isRange"
      >
        {{ say('people.addRange') }}
      </HouseButton>
    </form>
  </div>
</template>

<style scoped>
.telephones { display: grid; gap: 6px; padding: 20px 0 8px; }
.telephones h2 { margin: 0; }
.line { display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; }
.short { width: 84px; }
.tiny { width: 56px; }
</style>
