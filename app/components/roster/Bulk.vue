<script setup lang="ts">
import { reasonLeast } from '~~/core/application/acts/judge'
import { bulkActs } from '~~/shared/bulk'
import type { RosterFilter } from '~~/shared/applications'

/** One act on everybody who matches: first seen what would happen, then done by work in the background. */
const props = defineProps<{ filter: RosterFilter }>()
const emit = defineEmits<{ close: [] }>()
const cycle = useCycleStore()
const { actButtons } = useWords().acts
const act = ref<typeof bulkActs[number]>('withdraw')
const reason = ref('')
const outsideDates = ref(false)
const mode = ref<'try' | 'do' | null>(null)
const { job, live, startAt } = useJob('act-on-many', () => undefined)
const start = (how: 'try' | 'do') =>
  attempt(async () => {
    mode.value = how
    const given = how === 'do' ? { reason: reason.value.trim() || undefined } : {}
    await startAt(cycle.path('roster/act'), {
      filter: props.filter,
      act: act.value,
      mode: how,
      outsideDates: outsideDates.value || undefined,
      ...given,
    })
  })
watch([act, outsideDates], () => {
  mode.value = null
})
const result = computed(() => mode.value && !live.value ? job.value?.result ?? null : null)
const refusals = computed(() =>
  Object.entries(result.value ?? {}).flatMap(([key, n]) => key.startsWith('refused: ') ? [{ text: key.slice(9), n: Number(n) }] : [])
)
const reach = computed(() => Number(result.value?.done ?? 0) + Number(result.value?.waiting ?? 0))
const ready = computed(() => mode.value === 'try' && reach.value > 0 && reason.value.trim().length >= reasonLeast)
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('roster.actOnAllTitle')"
    width="min(640px, 94vw)"
    @close="emit('close')"
  >
    <label for="bulk-act">{{ say('roster.whichAct') }}</label>
    <select
      id="bulk-act"
      v-model="act"
      class="field"
      :disabled="live"
    >
      <option
        v-for="one in bulkActs"
        :key="one"
        :value="one"
      >
        {{ actButtons[one].press }}
      </option>
    </select>
    <p class="soft small">
      {{ actButtons[act].says }}
    </p>
    <ElCheckbox v-model="outsideDates">
      {{ say('roster.outside') }}
    </ElCheckbox>
    <p
      v-if="live"
      role="status"
    >
      {{ mode === 'do' ? say('roster.doing', { done: countText(job?.done ?? 0) }) : say('roster.trying', { done: countText(job?.done ?? 0) }) }}
    </p>
    <HouseAlert
      v-if="mode && job?.error && !live"
      :text="job.error"
      kind="refusal"
    />
    <template v-if="result">
      <p
        class="note"
        role="status"
      >
        {{ mode === 'try' ? say('roster.wouldReach', { n: countText(Number(result.done)), total: countText(Number(result.total)) }) : say('roster.reached', { n: countText(Number(result.done)), total: countText(Number(result.total)) }) }}
        <template v-if="Number(result.waiting) > 0">
          {{ say('roster.wouldWait', { n: countText(Number(result.waiting)) }) }}
        </template>
      </p>
      <template v-if="refusals.length > 0">
        <p>{{ mode === 'try' ? say('roster.notReached', { n: Number(result.refused) }) : say('roster.wereNotReached', { n: Number(result.refused) }) }}</p>
        <p
          v-for="one in refusals"
          :key="one.text"
          class="soft small"
        >
          {{ say('roster.likeThis', { n: countText(one.n), text: one.text }) }}
        </p>
      </template>
    </template>
    <template v-if="mode === 'try' && reach > 0">
      <label for="bulk-reason">{{ say('roster.why') }}</label>
      <input
        id="bulk-reason"
        v-model="reason"
        class="field wide"
        maxlength="1000"
      >
    </template>
    <template #footer>
      <ElButton @click="emit('close')">
        {{ say('roster.notYet') }}
      </ElButton>
      <ElButton
        :loading="live"
        @click="start('try')"
      >
        {{ say('roster.tryIt') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!ready"
        @click="start('do')"
      >
        {{ say('roster.doItTo', { n: reach }) }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
label { display: block; font-weight: 600; font-size: 14px; margin: 10px 0 2px; }
.wide { width: 100%; }
.note { margin: 10px 0; }
</style>
