<script setup lang="ts">
import '~/words/later'
/** The declaration that the candidate makes before the form is frozen. */
defineProps<{ declaration: string, busy: boolean, /** Declared by the candidate's own hand. */ own?: boolean }>()
const emit = defineEmits<{ submit: [] }>()
const open = defineModel<boolean>({ required: true })
const declared = ref(false)
</script>

<template>
  <ElDialog
    v-model="open"
    :title="say('parts.declaration')"
    width="min(620px, 94vw)"
  >
    <p>{{ declaration }}</p>
    <p class="freeze">
      {{ say('parts.afterThisPressTheAnswersAnd') }}
    </p>
    <div class="options">
      <label><input
        v-model="declared"
        type="checkbox"
      ><span>{{ own ? say('own.iDeclareThis') : say('parts.theCandidateHasDeclaredThis') }}</span></label>
    </div>
    <template #footer>
      <HouseButton @click="open = false">
        {{ say('parts.notYet') }}
      </HouseButton>
      <HouseButton
        primary
        :disabled="!declared"
        :busy="busy"
        @click="emit('submit')"
      >
        {{ say('parts.submitWithThisDeclaration') }}
      </HouseButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.freeze { margin: 12px 0; color: var(--attention); }
</style>
