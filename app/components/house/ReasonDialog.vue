<script setup lang="ts">
/** Asks for a reason before something is done: what follows from it, a few words, and the button that does it. Ctrl Enter presses that. */
defineProps<{ title: string, note?: string, placeholder: string, label: string, press: string, busy?: boolean }>()
const emit = defineEmits<{ give: [reason: string], close: [] }>()
const reason = ref('')
const field = useTemplateRef<{ focus: () => void }>('field')
const isReady = computed(() => reason.value.trim().length >= 3)
const give = () => {
  if (isReady.value) emit('give', reason.value.trim())
}
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="title"
    width="min(560px, 94vw)"
    @opened="field?.focus()"
    @close="emit('close')"
  >
    <p
      v-if="note"
      class="note is-attention"
    >
      {{ note }}
    </p>
    <ElInput
      ref="field"
      v-model="reason"
      class="why"
      type="textarea"
      :autosize="{ minRows: 3, maxRows: 6 }"
      :placeholder="placeholder"
      :aria-label="label"
      @keydown.ctrl.enter="give"
    />
    <template #footer>
      <ElButton @click="emit('close')">
        {{ say('acts.notNow') }}
      </ElButton>
      <ElButton
        type="primary"
        :loading="busy"
        :disabled="!isReady"
        @click="give"
      >
        {{ press }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.why { margin-top: 12px; }
</style>
