<script setup lang="ts">
import { smallestChange } from '~~/core/eligibility/change'
import type { Answers } from '~~/core/application/answers'
import type { PostVerdict } from '~~/core/eligibility/evaluate'

const { changeWords, postVerdictWords } = useWords().explanation
const { verdictShapes } = useWords().work

/** Which posts are open to this person, and why others are not; press a post for its clauses. */
const props = defineProps<
  { verdicts: PostVerdict[], chosen: string[], answers: Answers, /** Only what is not open unfolds by itself. */ folded?: boolean }
>()
const cycle = useCycleStore()
const shut = ref<Record<string, boolean>>({})
/** Chosen posts first: what is asked for stands above what else would be open. */
const ordered = computed(() =>
  [...props.verdicts].sort((a, b) => Number(props.chosen.includes(b.post)) - Number(props.chosen.includes(a.post)))
)
const near = computed(() =>
  new Map(props.verdicts.filter(v => v.verdict === 'fail').flatMap((verdict) => {
    const { notice } = cycle
    const change = notice && smallestChange(notice, props.answers, verdict)
    return notice && change ? [[verdict.post, changeWords(notice, change)] as const] : []
  }))
)
</script>

<template>
  <div>
    <details
      v-for="verdict in ordered"
      :key="verdict.post"
      :open="!shut[verdict.post] && chosen.includes(verdict.post) && !(folded && verdict.verdict === 'pass')"
      @toggle="shut[verdict.post] = !($event.target as HTMLDetailsElement).open"
    >
      <summary :class="verdict.verdict">
        <span aria-hidden="true">{{ verdictShapes[verdict.verdict] }}</span>
        {{ verdict.title }}: {{ postVerdictWords[verdict.verdict] }} <span
          v-if="chosen.includes(verdict.post)"
          class="soft"
        >{{ say('sheet.appliedFor') }}</span>
      </summary>
      <HouseFindingNote
        v-for="finding in verdict.findings"
        :key="finding.code + finding.origin?.rule"
        :finding="finding"
      />
      <p
        v-if="near.has(verdict.post)"
        class="near small"
      >
        → {{ near.get(verdict.post) }}
      </p>
    </details>
  </div>
</template>

<style scoped>
details { padding: 4px 0 8px; }
summary { cursor: pointer; font-weight: 600; }
summary .soft { font-weight: 400; }
summary.pass { color: var(--settled); }
summary.fail { color: var(--refusal); }
summary.unsure { color: var(--attention); }
.near { padding: 4px 0 0 24px; }
</style>
