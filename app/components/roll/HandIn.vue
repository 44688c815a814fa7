<script setup lang="ts">
import { rollLeft, type RollDetail } from '~~/shared/rolls'

/** What a sender's rolls have brought and is a draft still: how many, what each lacks, and handing in those that lack nothing. */
const { roll } = defineProps<{ roll: RollDetail, disabled: boolean }>()
const emit = defineEmits<{ done: [] }>()
const declared = ref(false)
const { job, live, find, startAt, cancel } = useJob('hand-in-roll', () => {
  declared.value = false
  emit('done')
})
const { busy, refusal, send } = useSubmission()
const { reason, isClosed, begin } = useLateStart()
/** What the last time has brought; of work on this roll alone. */
const counts = computed(() => {
  const { state, result } = job.value ?? {}
  return state === 'done' && result?.roll === roll.id ? result : null
})
const left = computed(() => rollLeft.map(why => ({ why, n: Number(counts.value?.[why] ?? 0) })).filter(({ n }) => n > 0))
const handIn = () => send(() => begin(given => startAt(`/api/rolls/${roll.id}/hand-in`, { declared: true, ...given })))
onMounted(() => attempt(find))
</script>

<template>
  <section
    v-if="roll.drafts > 0 || counts"
    class="hand-in"
  >
    <h2 class="section-title">
      {{ say('rolls.handInTitle') }}
    </h2>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <JobsProgress
      :job="job"
      :live="live"
      :what="say('rolls.handingIn')"
      @cancel="attempt(cancel)"
    />
    <p
      v-if="counts"
      role="status"
    >
      {{ say('rolls.handedIn', { n: Number(counts.handedIn) }) }}
    </p>
    <ul v-if="left.length > 0">
      <li
        v-for="one in left"
        :key="one.why"
      >
        {{ say('rolls.leftWhy', one) }}
      </li>
    </ul>
    <p>
      {{ say('rolls.draftsOf', { n: roll.drafts, sender: roll.sender }) }}
      <a
        v-if="roll.drafts > 0"
        :href="`/api/rolls/${roll.id}/drafts.csv`"
      >{{ say('rolls.downloadDrafts') }}</a>
    </p>
    <template v-if="roll.drafts > 0">
      <ElCheckbox
        v-model="declared"
        :disabled="disabled || live"
      >
        {{ say('rolls.declared', { sender: roll.sender }) }}
      </ElCheckbox>
      <template v-if="isClosed">
        <label for="why-hand-in">{{ say('rolls.whyHandIn') }}</label>
        <ElInput
          id="why-hand-in"
          v-model="reason"
          maxlength="1000"
        />
      </template>
      <div>
        <ElButton
          :disabled="!declared || busy || live || disabled"
          @click="handIn"
        >
          {{ say('rolls.handIn') }}
        </ElButton>
      </div>
    </template>
  </section>
</template>

<style scoped>
.hand-in { margin-top: 28px; }
.hand-in :deep(.el-checkbox) { height: auto; margin: 4px 0 12px; white-space: normal; }
.hand-in :deep(.el-checkbox__label) { line-height: 1.4; }
p { margin: 8px 0; }
ul { margin: 0 0 8px; padding-left: 20px; }
label[for] { display: block; font-weight: 600; padding: 8px 0 4px; }
</style>
