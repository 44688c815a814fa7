<script setup lang="ts">
import '~/words/later'
import { declarationId } from '~~/core/notice/terms'
import type { Answers } from '~~/core/application/answers'
import type { Notice } from '~~/core/notice/schema'
import type { TextRead } from '~~/shared/acts'

/** What is accepted before the form is frozen: texts of the notice that were not yet, and the declaration. */
const props = defineProps<
  { id: string, notice: Notice, answers: Answers, busy: boolean, /** Declared by the candidate's own hand. */ own?: boolean }
>()
const emit = defineEmits<{ submit: [texts: TextRead[]] }>()
const open = defineModel<boolean>({ required: true })
const { got, failure, reload } = useTexts(props.id)
// What was not taken may have been changed meanwhile: it stands there as it is now.
watch(() => props.busy, isBusy => isBusy || void reload())
const asked = computed(() => got.value?.texts.filter(one => !one.isAccepted) ?? [])
const { ticked, typed, isSigned, isComplete, read } = useTicks(() => asked.value, props.own)
function tick(id: string) {
  if (id === declarationId) return props.own ? say('own.iDeclareThis') : say('parts.theCandidateHasDeclaredThis')
  return props.own ? say('parts.iAcceptThis') : say('parts.theCandidateAcceptsThis')
}
</script>

<template>
  <ElDialog
    v-model="open"
    :title="say('parts.declaration')"
    width="min(760px, 94vw)"
    top="5vh"
  >
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <SheetReadBack
      :id="id"
      :notice="notice"
      :answers="answers"
      :own="own"
    />
    <SheetTextToAccept
      v-for="text in asked"
      :key="text.sha256"
      v-model="ticked[text.sha256]"
      v-model:typed="typed[text.sha256]"
      :is-signed="isSigned(text)"
      :text="text"
      :tick="tick(text.id)"
    />
    <p class="freeze">
      {{ say('parts.afterThisPressTheAnswersAnd') }}
    </p>
    <template #footer>
      <HouseButton @click="open = false">
        {{ say('parts.notYet') }}
      </HouseButton>
      <HouseButton
        primary
        :disabled="!isComplete"
        :busy="busy"
        @click="emit('submit', read())"
      >
        {{ say('parts.submitWithThisDeclaration') }}
      </HouseButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.freeze { margin: 12px 0 0; color: var(--attention); }
</style>
