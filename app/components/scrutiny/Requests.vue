<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'
import type { RequestView } from '~~/shared/scrutiny'

const { requestWords } = useWords().states

/** What somebody asks for: what it rests on, what was decided, and the office's word, given here with a reason. */
const props = defineProps<{ dossier: Dossier }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const spelling = useSpelling()
const asking = shallowRef<{ request: RequestView, word: 'granted' | 'declined' } | null>(null)
const standing = computed(() => standingOf(props.dossier, 'decide-request'))
/** The one that keys decide on. */
const firstOpen = computed(() => props.dossier.requests.find(request => request.word === null))
const shut = computed(() => whyNot(standing.value))
const { busy, perform } = useAct(props.dossier.id, dossier => emit('changed', dossier))

function ask(request: RequestView, word: 'granted' | 'declined') {
  asking.value = { request, word }
}
useKeys((event) => {
  const key = event.key.toLowerCase()
  const first = firstOpen.value
  if (asking.value || !first || shut.value || (key !== 'g' && key !== 'd')) return
  event.preventDefault()
  ask(first, key === 'g' ? 'granted' : 'declined')
})
async function decide(reason: string) {
  const asked = asking.value
  if (!asked || busy.value) return
  if (await perform('decide-request', { request: asked.request.id, word: asked.word, reason })) asking.value = null
}
</script>

<template>
  <div
    v-for="request in dossier.requests"
    :key="request.id"
    class="request"
  >
    <p>
      <b>{{ request.title }}</b>
      <span :class="{ attention: request.word === null, refusal: request.word === 'declined' }">{{ requestWords[request.word ?? 'open'] }}</span>
    </p>
    <p
      v-for="{ question, answer } in request.said"
      :key="question"
      class="small"
    >
      {{ spelling.item(question) }}: {{ spelling.answer(question, answer) }}
    </p>
    <p class="soft small">
      {{ say('scrutiny.decidedBy', { proof: request.proof, hasPapers: String(request.papers.length > 0), papers: request.papers.map(spelling.item).join(', ') }) }}
    </p>
    <p
      v-for="decision in request.decisions"
      :key="decision.at"
      class="soft small"
    >
      {{ say('scrutiny.requestDecidedBy', { ...decision, at: spelling.instant(decision.at) }) }}
    </p>
    <p
      v-if="!shut"
      class="words"
    >
      <button
        v-for="word in (['granted', 'declined'] as const).filter(one => one !== request.word)"
        :key="word"
        type="button"
        class="press small"
        :disabled="busy"
        @click="ask(request, word)"
      >
        {{ say('scrutiny.sayWord', { word }) }} <kbd v-if="request === firstOpen">{{ word === 'granted' ? 'G' : 'D' }}</kbd>
      </button>
    </p>
  </div>
  <p
    v-if="shut && dossier.requests.some(request => request.word === null)"
    class="soft small"
  >
    {{ shut }}
  </p>
  <HouseReasonDialog
    v-if="asking"
    :title="say('scrutiny.decideTitle', { title: asking.request.title, word: asking.word })"
    :note="say('scrutiny.whatFollowsFromWord', { word: asking.word, kind: asking.request.kind })"
    :placeholder="say('scrutiny.whyForTheCandidate')"
    :label="say('scrutiny.reasonOfTheDecision')"
    :press="say('scrutiny.sayWord', { word: asking.word })"
    :busy="busy"
    @give="decide"
    @close="asking = null"
  />
</template>

<style scoped>
.request { padding: 3px 0 6px; }
.request p:first-child { display: flex; gap: 8px; justify-content: space-between; }
.words { display: flex; gap: 8px; margin-top: 4px; }
</style>
