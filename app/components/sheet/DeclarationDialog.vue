<script setup lang="ts">
/** The declaration that the candidate makes before the form is frozen. */
defineProps<{ declaration: string, busy: boolean }>()
const emit = defineEmits<{ submit: [] }>()
const open = defineModel<boolean>({ required: true })
const declared = ref(false)
</script>

<template>
  <ElDialog
    v-model="open"
    title="Declaration"
    width="min(620px, 94vw)"
  >
    <p>{{ declaration }}</p>
    <p class="freeze">
      After this press the answers and images are frozen. They open again only when scrutiny returns the application.
    </p>
    <ElCheckbox v-model="declared">
      The candidate has declared this
    </ElCheckbox>
    <template #footer>
      <ElButton @click="open = false">
        Not yet
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!declared"
        :loading="busy"
        @click="emit('submit')"
      >
        Submit with this declaration
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.freeze { margin: 12px 0; color: var(--attention); }
</style>
