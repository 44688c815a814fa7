<script setup lang="ts">
/** A button that lets somebody choose one file, by mouse or keys. */
defineProps<{ title: string, accept: string, busy?: boolean, main?: boolean, label: string }>()
const emit = defineEmits<{ choose: [file: File] }>()
const input = ref<HTMLInputElement | null>(null)

function chosen(event: Event) {
  const target = event.target as HTMLInputElement
  const file = target.files?.[0]
  // The same file may be chosen again after it was mended.
  target.value = ''
  if (file) emit('choose', file)
}
</script>

<template>
  <ElButton
    :type="main ? 'primary' : 'default'"
    :loading="busy"
    @click="input?.click()"
  >
    {{ title }}
  </ElButton>
  <input
    ref="input"
    type="file"
    :accept="accept"
    class="visually-hidden"
    tabindex="-1"
    :aria-label="label"
    @change="chosen"
  >
</template>
