<script setup lang="ts">
import '~/words/later'
import { reasonLeast } from '~~/core/application/acts/judge'

/** An officer records what came on paper, with what was seen. */
const props = defineProps<{ rule: string, busy: boolean }>()
const emit = defineEmits<{ record: [seen: { rule: string, name: string, word: 'given' | 'declined', reason: string }] }>()
const name = ref('')
const reason = ref('')
const id = useId()
const isReady = computed(() => name.value.trim().length >= 2 && reason.value.trim().length >= reasonLeast)
const record = (word: 'given' | 'declined') =>
  emit('record', { rule: props.rule, name: name.value.trim(), word, reason: reason.value.trim() })
</script>

<template>
  <details>
    <summary class="small">
      {{ say('endorse.fromPaper') }}
    </summary>
    <label :for="`${id}-name`">{{ say('endorse.nameOnPaper') }}</label>
    <input
      :id="`${id}-name`"
      v-model="name"
      class="field"
      maxlength="140"
      autocomplete="off"
    >
    <label :for="`${id}-reason`">{{ say('endorse.reason') }}</label>
    <input
      :id="`${id}-reason`"
      v-model="reason"
      class="field"
      maxlength="1000"
      autocomplete="off"
    >
    <p class="acts">
      <HouseButton
        :busy="busy"
        :disabled="!isReady"
        @click="record('given')"
      >
        {{ say('endorse.recordGiven') }}
      </HouseButton>
      <HouseButton
        :busy="busy"
        :disabled="!isReady"
        @click="record('declined')"
      >
        {{ say('endorse.recordDeclined') }}
      </HouseButton>
    </p>
  </details>
</template>

<style scoped>
details { margin-top: 8px; max-width: 560px; }
summary { cursor: pointer; min-height: 24px; }
label { display: block; font-size: 14px; font-weight: 600; margin-top: 6px; }
input { width: 100%; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 10px; }
</style>
