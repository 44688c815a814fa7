<script setup lang="ts">
import { placeholders, unknownPlaceholders, type Placeholder } from '~~/core/application/announcement'
import { shortMessages } from '~~/core/letters/sms'
import type { RosterFilter } from '~~/shared/applications'

/** A letter to everybody who matches: first seen whom it reaches and how it reads, then sent. */
const props = defineProps<{ filter: RosterFilter }>()
const emit = defineEmits<{ close: [] }>()
const cycle = useCycleStore()
const id = crypto.randomUUID()
const subject = ref('')
const text = ref('')
const mode = ref<'try' | 'do' | null>(null)
const { job, live, startAt } = useJob('announce', () => undefined)
/** Where the letter is being written. */
const area = useTemplateRef<HTMLTextAreaElement>('area')
function put(which: Placeholder) {
  const at = area.value?.selectionStart ?? text.value.length
  text.value = `${text.value.slice(0, at)}{${which}}${text.value.slice(area.value?.selectionEnd ?? at)}`
  void nextTick(() => {
    area.value?.focus()
    area.value?.setSelectionRange(at + which.length + 2, at + which.length + 2)
  })
}
const wrong = computed(() => unknownPlaceholders(`${subject.value} ${text.value}`).join(', '))
const isWritten = computed(() => subject.value.trim() !== '' && text.value.trim() !== '' && wrong.value === '')
const start = (how: 'try' | 'do') =>
  attempt(async () => {
    mode.value = how
    await startAt(cycle.path('announcements'), { id, filter: props.filter, subject: subject.value, text: text.value, mode: how })
  })
// What was looked at is what is sent.
watch([subject, text], () => {
  mode.value = null
})
const result = computed(() => mode.value && !live.value && !job.value?.error ? job.value?.result ?? null : null)
const number = (key: string) => Number(result.value?.[key] ?? 0)
/** To a telephone the text goes as short messages: that of the first of them once it is known. */
const short = computed(() => shortMessages(String(result.value?.text || text.value.trim())))
const isSent = computed(() => mode.value === 'do' && result.value !== null)
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('roster.writeToAllTitle')"
    width="min(680px, 94vw)"
    @close="emit('close')"
  >
    <label for="many-subject">{{ say('roster.subject') }}</label>
    <input
      id="many-subject"
      v-model="subject"
      class="field wide"
      maxlength="120"
      :disabled="live || isSent"
    >
    <label for="many-text">{{ say('roster.letterText') }}</label>
    <textarea
      id="many-text"
      ref="area"
      v-model="text"
      class="field wide"
      rows="7"
      maxlength="4000"
      :disabled="live || isSent"
    />
    <p class="soft small">
      {{ say('roster.placeholders') }} <button
        v-for="which in placeholders"
        :key="which"
        type="button"
        class="press putting"
        :disabled="live || isSent"
        @click="put(which)"
      >
        {{ say('roster.placeholder', { which }) }}
      </button>
    </p>
    <p
      v-if="short.messages > 0"
      class="soft small"
    >
      {{ say('roster.asShortMessages', { messages: short.messages, isPlain: String(short.alphabet === 'GSM-7') }) }}
    </p>
    <HouseAlert
      :text="wrong ? say('roster.unknownPlaceholder', { wrong }) : mode && job?.error && !live ? job.error : ''"
      kind="refusal"
    />
    <p
      v-if="live"
      role="status"
    >
      {{ say('roster.looking', { done: countText(job?.done ?? 0) }) }}
    </p>
    <template v-if="result">
      <p
        class="note"
        role="status"
      >
        {{ isSent ? say('roster.goesTo', { n: number('reached') }) : say('roster.wouldGoTo', { n: number('reached') }) }}
        <template v-if="number('without') > 0">
          {{ say('roster.withoutAddress', { n: number('without') }) }}
        </template>
      </p>
      <template v-if="!isSent && number('reached') > 0">
        <p class="soft small">
          {{ say('roster.firstReads') }}
        </p>
        <blockquote><b>{{ result.subject }}</b><br>{{ result.text }}</blockquote>
      </template>
    </template>
    <template #footer>
      <ElButton @click="emit('close')">
        {{ isSent ? say('roster.done') : say('roster.notYet') }}
      </ElButton>
      <ElButton
        v-if="!isSent"
        :loading="live"
        :disabled="!isWritten"
        @click="start('try')"
      >
        {{ say('roster.seeWhom') }}
      </ElButton>
      <ElButton
        v-if="mode === 'try' && number('reached') > 0"
        type="primary"
        :disabled="live"
        @click="start('do')"
      >
        {{ say('roster.sendTo', { n: number('reached') }) }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
label { display: block; font-weight: 600; font-size: 14px; margin: 10px 0 2px; }
.wide { width: 100%; }
textarea { display: block; min-height: 120px; padding: 6px 8px; font: inherit; resize: vertical; }
.putting { margin-left: 12px; min-height: 24px; }
blockquote { margin: 4px 0; padding: 8px 12px; border: 1px solid var(--line); white-space: pre-wrap; overflow-wrap: anywhere; }
</style>
