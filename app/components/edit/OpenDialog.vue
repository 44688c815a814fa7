<script setup lang="ts">
/** A cycle with warnings opens with the officer's recorded word; an amendment is proposed with its reason. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ open: [reason: string] }>()
const shown = defineModel<boolean>({ required: true })
const { draft } = useNoticeEditor()
const { noticeFindingWords } = useWords().notices
const reason = ref('')
const isAmendment = computed(() => draft.detail.value?.isCycle ?? false)
const shownAtMost = 12

function send() {
  emit('open', reason.value.trim())
  shown.value = false
}
</script>

<template>
  <ElDialog
    v-model="shown"
    :title="isAmendment ? say('edit.proposeIt', { n: draft.findings.value.length }) : say('edit.openInSpite', { n: draft.findings.value.length })"
    width="min(620px, 94vw)"
  >
    <ul>
      <li
        v-for="(finding, i) in draft.findings.value.slice(0, shownAtMost)"
        :key="i"
      >
        {{ noticeFindingWords(draft.readable.value, finding) }}
      </li>
    </ul>
    <p
      v-if="draft.findings.value.length > shownAtMost"
      class="soft small"
    >
      {{ say('edit.andMore', { n: draft.findings.value.length - shownAtMost }) }}
    </p>
    <label for="in-spite"><b>{{ isAmendment ? say('edit.whyAmended') : say('edit.whyInSpite') }}</b></label>
    <ElInput
      id="in-spite"
      v-model="reason"
      type="textarea"
      :rows="3"
      maxlength="1000"
    />
    <p class="soft small">
      {{ isAmendment ? say('edit.whyAmendedHelp') : say('edit.whyInSpiteHelp') }}
    </p>
    <template #footer>
      <ElButton @click="shown = false">
        {{ say('edit.keepLooking') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="reason.trim().length < 3"
        :loading="busy"
        @click="send"
      >
        {{ isAmendment ? say('edit.proposeTheAmendment') : say('edit.openTheCycle') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
ul { padding-left: 20px; margin: 0 0 12px; }
li { padding: 2px 0; }
</style>
