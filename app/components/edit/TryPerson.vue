<script setup lang="ts">
import type { Answer, Answers } from '~~/core/application/answers'
import { liveSheet } from '~~/core/application/answers'
import { documentsAsked } from '~~/core/application/slots'
import { questionsRead } from '~~/core/eligibility/dependence'
import { evaluatePosts } from '~~/core/eligibility/evaluate'
import { assessFee } from '~~/core/fees/assess'
import { conditionLeaves } from '~~/core/notice/conditions'

/** Somebody invented, tried against the draft: what is asked of them, which posts are open and why not, what they would pay. */
const { draft } = useNoticeEditor()
const { postVerdictWords } = useWords().explanation
const { verdictShapes } = useWords().work
const answers = ref<Answers>({})
const notice = computed(() => draft.sound.value)

/** Questions that posts, fees or papers hang on, as far as they are asked of this person. */
const asked = computed(() => {
  const current = notice.value
  if (!current) return []
  const read = new Set(current.posts.flatMap(post => questionsRead(current, post)))
  const conditions = [...current.fees.base, ...current.fees.posts, ...current.fees.waivers, ...current.fees.surcharges,
    ...current.documents].map(one => one.when)
  for (const leaf of conditions.flatMap(conditionLeaves)) read.add(leaf.question)
  return liveSheet(current, answers.value).asked.filter(q => q.id === 'category' || q.kind === 'posts' || read.has(q.id))
})
const verdicts = computed(() => notice.value ? evaluatePosts(notice.value, answers.value) : [])
const fee = computed(() => notice.value ? assessFee(notice.value, answers.value, new Date(notice.value.keyDates.opens)) : null)
const papers = computed(() => notice.value ? documentsAsked(notice.value, answers.value).map(rule => rule.title) : [])
const examples = computed(() => (notice.value?.posts ?? []).filter(post => draft.examples.value[post.id]))
function take(post: string) {
  answers.value = { ...draft.examples.value[post], posts: [post] }
}
const change = (question: string, answer: Answer) => {
  answers.value = { ...answers.value, [question]: answer }
}
</script>

<template>
  <section class="try">
    <h2 class="section-title">
      {{ say('edit.tryAPerson') }}
    </h2>
    <p class="soft small">
      {{ notice ? say('edit.tryAPersonHelp') : say('edit.tryWaits') }}
    </p>
    <template v-if="notice">
      <p class="presses small">
        <button
          v-for="post in examples"
          :key="post.id"
          class="press"
          @click="take(post.id)"
        >
          {{ say('edit.somebodyFor', { post: post.title }) }}
        </button>
        <button
          class="press"
          @click="answers = {}"
        >
          {{ say('edit.emptyAgain') }}
        </button>
      </p>
      <div class="two">
        <div>
          <SheetQuestionField
            v-for="question in asked"
            :key="question.id"
            :question="question"
            :notice="notice"
            :answer="answers[question.id]"
            :readonly="false"
            :flawed="false"
            @change="answer => change(question.id, answer)"
          />
        </div>
        <div>
          <h3>{{ say('edit.postsOpen') }}</h3>
          <details
            v-for="verdict in verdicts"
            :key="verdict.post"
          >
            <summary :class="verdict.verdict">
              <span aria-hidden="true">{{ verdictShapes[verdict.verdict] }}</span>
              {{ verdict.title }}: {{ postVerdictWords[verdict.verdict] }}
            </summary>
            <HouseFindingNote
              v-for="finding in verdict.findings"
              :key="finding.code + finding.origin?.rule"
              :finding="finding"
            />
          </details>
          <h3>{{ say('edit.fee') }}</h3>
          <FeesItemisedFee
            :assessment="fee"
            :received="0"
          />
          <p
            v-if="papers.length > 0"
            class="small"
          >
            {{ say('edit.papersWanted', { papers: papers.join(', ') }) }}
          </p>
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.try { border-top: 2px solid var(--line-strong); padding-top: 14px; }
.presses { display: flex; flex-wrap: wrap; gap: 4px 14px; padding: 8px 0; }
.two { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(340px, 100%), 1fr)); gap: 8px 28px; align-items: start; }
summary { cursor: pointer; padding: 3px 0; }
summary.fail { color: var(--refusal); }
summary.pass { color: var(--settled); }
summary.unsure { color: var(--attention); }
h3 { margin-top: 10px; }
</style>
