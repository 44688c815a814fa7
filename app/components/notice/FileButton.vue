<script setup lang="ts">
/** A button that asks for the file of a notice and hands on its JSON; a file that is none is said to be none, and nothing is handed on. */
const { label, disabled = false, loading = false, primary = false, small = false } = defineProps<
  {
    /** What the file is, for those who hear the page. */ label: string,
    disabled?: boolean,
    loading?: boolean,
    primary?: boolean,
    /** Among other small acts of a row. */
    small?: boolean,
  }
>()
const emit = defineEmits<{ chosen: [json: unknown] }>()
const input = ref<HTMLInputElement | null>(null)

async function choose(event: Event) {
  const target = event.target as HTMLInputElement
  const file = target.files?.[0]
  target.value = ''
  if (!file) return
  try {
    emit('chosen', JSON.parse(await file.text()))
  } catch (error) {
    tell(say('notice.isNotJsonNothingWasChanged', { name: file.name, message: error instanceof Error ? error.message : '' }), 'error')
  }
}
</script>

<template>
  <button
    v-if="small"
    class="press"
    :disabled="disabled || loading"
    @click="input?.click()"
  >
    <slot />
  </button>
  <ElButton
    v-else
    :type="primary ? 'primary' : undefined"
    :disabled="disabled"
    :loading="loading"
    @click="input?.click()"
  >
    <slot />
  </ElButton>
  <input
    ref="input"
    type="file"
    accept=".json,application/json"
    class="visually-hidden"
    :aria-label="label"
    tabindex="-1"
    @change="choose"
  >
</template>
