<script setup lang="ts">
import { findingWords } from '~~/core/words/en/findings'
import { slotsOf } from '~~/core/application/slots'
import { listAnswer } from '~~/core/application/answers'
import type { Dossier } from '~~/shared/applications'
import type { Finding } from '~~/core/finding/finding'
import type { DecisionInput } from '~~/shared/scrutiny'

/** The reasons of a decision, item by item; for a return they are filled in from the failed findings. */
const props = defineProps<{ decision: DecisionInput['decision'], dossier: Dossier, failed: Finding[], busy: boolean }>()
const emit = defineEmits<{ decide: [reasons: DecisionInput['reasons']], close: [] }>()
const cycle = useCycleStore()
const slots = computed(() => cycle.notice ? slotsOf(cycle.notice, props.dossier.answers).map(({ id, title }) => ({ id, title })) : [])

const titles = { accept: 'Accept against a failed finding', return: 'Return for correction', refuse: 'Refuse' }
const presses = { accept: 'Accept all the same', return: 'Return', refuse: 'Refuse' }
const reasons = ref<{ item: string, reason: string }[]>(startingReasons())

function startingReasons() {
  if (props.decision === 'accept') return [{ item: props.failed[0]?.about ?? 'photograph', reason: '' }]
  const own = props.failed.filter(f => listAnswer(props.dossier.answers, 'posts').includes(f.about) || slots.value.some(({ id }) => id === f.about))
  const filled = own.map((finding) => {
    const words = findingWords(finding)
    return { item: finding.about, reason: `${finding.origin ? `Clause ${finding.origin.clause}. ` : ''}${words.title}: ${words.value}${words.bound ? ` (${words.bound})` : ''}. ${words.advice}`.trim() }
  })
  return filled.length > 0 ? filled : [{ item: '', reason: '' }]
}
const items = computed(() => [
  ...slots.value,
  ...(cycle.notice?.posts ?? []).map(p => ({ id: p.id, title: p.title })),
  ...(cycle.notice?.sections.flatMap(s => s.questions) ?? []).map(q => ({ id: q.id, title: q.label })),
])
const ready = computed(() => reasons.value.length > 0 && reasons.value.every(r => r.item && r.reason.trim().length >= 3))
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="titles[decision]"
    width="min(760px, 96vw)"
    @close="emit('close')"
  >
    <p class="soft">
      {{ decision === 'accept' ? 'Write why the failed finding does not count here. It stays in the record.'
        : decision === 'return' ? 'The candidate sees these reasons and may correct the sheet and its images.' : 'A refusal ends the application. Name the clause or the paper for each reason.' }}
    </p>
    <div
      v-for="(reason, i) in reasons"
      :key="i"
      class="reason"
    >
      <ElSelect
        v-model="reason.item"
        filterable
        placeholder="Item"
        aria-label="Item"
      >
        <ElOption
          v-for="item in items"
          :key="item.id"
          :value="item.id"
          :label="item.title"
        />
      </ElSelect>
      <ElInput
        v-model="reason.reason"
        type="textarea"
        :autosize="{ minRows: 2, maxRows: 6 }"
        placeholder="Reason, in words for the candidate"
        aria-label="Reason"
      />
      <ElButton
        :disabled="reasons.length === 1"
        @click="reasons.splice(i, 1)"
      >
        Take off
      </ElButton>
    </div>
    <ElButton @click="reasons.push({ item: '', reason: '' })">
      Another reason
    </ElButton>
    <template #footer>
      <ElButton @click="emit('close')">
        Not yet
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!ready"
        :loading="busy"
        @click="emit('decide', reasons)"
      >
        {{ presses[decision] }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.reason { display: grid; grid-template-columns: 200px minmax(0, 1fr) auto; gap: 8px; margin: 12px 0; align-items: start; }
@media (max-width: 700px) { .reason { grid-template-columns: minmax(0, 1fr); } }
</style>
