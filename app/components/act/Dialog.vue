<script setup lang="ts">
import { reasonLeast, type ActStanding } from '~~/core/application/acts/judge'
import type { Permit } from '~~/app/composables/act'

const { actButtons } = useWords().acts
const { refusalText } = useWords().refusals

/** One act before it is done: what it does, what cannot be undone, and the reason where one is needed. */
const props = defineProps<{ standing: ActStanding, busy?: boolean, subject?: string }>()
const emit = defineEmits<{ act: [permit: Permit], close: [] }>()
const words = computed(() => actButtons[props.standing.act])
const outside = computed(() =>
  props.standing.outsideDates ? refusalText(props.standing.outsideDates.code, props.standing.outsideDates.parameters) : ''
)
const wantsReason = computed(() => props.standing.needsReason || outside.value !== '')
const reason = ref('')
const ready = computed(() => !wantsReason.value || reason.value.trim().length >= reasonLeast)
const go = () => ready.value && emit('act', { reason: reason.value.trim() || undefined, outsideDates: outside.value ? true : undefined })
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="words.press"
    width="min(560px, 94vw)"
    @close="emit('close')"
  >
    <p v-if="subject">
      <b>{{ subject }}</b>
    </p>
    <p>{{ words.says }}</p>
    <p
      v-if="outside"
      class="note is-attention"
    >
      {{ say('acts.asAnOfficerYouMayGo', { outside }) }}
    </p>
    <p
      v-if="standing.isFinal"
      class="note is-attention"
    >
      {{ say('acts.thisReachesPeopleOutsideTheOffice') }}
    </p>
    <p
      v-if="standing.needsSecond"
      class="note"
    >
      {{ say('acts.aSecondPersonHasToConfirm') }}
    </p>
    <slot />
    <template v-if="wantsReason">
      <label for="act-reason">{{ say('acts.reason') }}</label>
      <ElInput
        id="act-reason"
        v-model="reason"
        type="textarea"
        autofocus
        :autosize="{ minRows: 2, maxRows: 6 }"
        :maxlength="1000"
        :placeholder="say('acts.inWordsThatTheCandidateMay')"
      />
    </template>
    <template #footer>
      <HouseButton @click="emit('close')">
        {{ say('acts.notNow') }}
      </HouseButton>
      <HouseButton
        primary
        :disabled="!ready"
        :busy="busy"
        @click="go"
      >
        {{ standing.needsSecond ? say('acts.askForConfirmation', { act: words.press.toLowerCase() }) : words.press }}
      </HouseButton>
    </template>
  </ElDialog>
</template>

<style scoped>
p { margin-bottom: 10px; }
label { display: block; font-weight: 600; margin: 12px 0 4px; }
</style>
