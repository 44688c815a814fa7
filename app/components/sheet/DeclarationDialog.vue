<script setup lang="ts">
/** The declaration that the candidate makes before the form is frozen. */
defineProps<{ declaration: string, busy: boolean, /** Declared by the candidate's own hand. */ own?: boolean }>()
const emit = defineEmits<{ submit: [] }>()
const open = defineModel<boolean>({ required: true })
const declared = ref(false)
</script>

<template>
  <ElDialog
    v-model="open"
    :title="say('sheet.declaration')"
    width="min(620px, 94vw)"
  >
    <p>{{ declaration }}</p>
    <p class="freeze">
      {{ say('sheet.afterThisPressTheAnswersAnd') }}
    </p>
    <ElCheckbox v-model="declared">
      {{ own ? say('own.iDeclareThis') : say('sheet.theCandidateHasDeclaredThis') }}
    </ElCheckbox>
    <template #footer>
      <ElButton @click="open = false">
        {{ say('sheet.notYet') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!declared"
        :loading="busy"
        @click="emit('submit')"
      >
        {{ say('sheet.submitWithThisDeclaration') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.freeze { margin: 12px 0; color: var(--attention); }
</style>
