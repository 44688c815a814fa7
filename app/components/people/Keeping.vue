<script setup lang="ts">
import { keptMonths } from '~~/core/records/erasure'

/** How long the office keeps data of people after a cycle. */
const months = defineModel<number>({ required: true })
const emit = defineEmits<{ keep: [] }>()
const typed = ref(String(months.value))
watch(months, (kept) => {
  typed.value = String(kept)
})
const isSound = computed(() => /^\d{1,3}$/.test(typed.value) && Number(typed.value) <= keptMonths.most)
function keep() {
  if (!isSound.value || Number(typed.value) === months.value) return
  months.value = Number(typed.value)
  emit('keep')
}
</script>

<template>
  <div class="keeping">
    <h2>{{ say('people.keeping') }}</h2>
    <p class="soft small">
      {{ say('people.keepingHelp') }}
    </p>
    <label for="keep-months">{{ say('people.keepingMonths', { most: keptMonths.most }) }}</label>
    <input
      id="keep-months"
      v-model="typed"
      class="field short"
      inputmode="numeric"
      maxlength="3"
      autocomplete="off"
      :aria-invalid="!isSound"
      @change="keep"
    >
  </div>
</template>

<style scoped>
.keeping { display: grid; gap: 6px; padding: 12px 0 8px; }
.keeping h2 { margin: 0; }
.short { width: 84px; }
</style>
