<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'

/** Who has the case in hand, and the decision of a first person that waits for a second look. */
const props = defineProps<{ dossier: Dossier }>()
const emit = defineEmits<{ confirmed: [], sentBack: [] }>()
const session = useSessionStore()
const spelling = useSpelling()
const { laneWords, doubtWords } = useWords().scrutiny
const proposal = computed(() => props.dossier.proposals.find(one => one.act === 'accept' || one.act === 'refuse') ?? null)
const busy = ref(false)
async function settle(method: 'POST' | 'DELETE') {
  const waiting = proposal.value
  if (!waiting || busy.value) return
  busy.value = true
  const good = await attempt(() => callApi(`/api/proposals/${waiting.id}`, { method }))
  busy.value = false
  if (!good) return
  if (method === 'POST') emit('confirmed')
  else emit('sentBack')
}
const isSecond = computed(() => proposal.value !== null && !proposal.value.isOwn && session.may(proposal.value.settledBy))
useKeys((event) => {
  if (!isSecond.value) return
  if (event.key.toLowerCase() === 'c') void settle('POST')
  if (event.key.toLowerCase() === 'b') void settle('DELETE')
})
</script>

<template>
  <p
    v-if="dossier.hand"
    class="soft small"
  >
    {{ dossier.hand.lane ? laneWords[dossier.hand.lane].title : '' }}<template v-if="dossier.hand.doubts.length > 1">
      · {{ dossier.hand.doubts.map(doubt => doubtWords[doubt]).join(', ') }}
    </template><template v-if="dossier.hand.isOwn">
      · {{ say('scrutiny.inYourHandUntil', { until: spelling.instant(dossier.hand.until) }) }}
    </template>
  </p>
  <p
    v-if="dossier.hand?.by && !dossier.hand.isOwn"
    class="note is-attention"
    role="status"
  >
    {{ say('scrutiny.inOtherHands', { by: dossier.hand.by, until: spelling.instant(dossier.hand.until) }) }}
  </p>
  <p
    v-if="dossier.matters.some(matter => matter.kind === 'likely-duplicate')"
    class="note is-attention"
  >
    {{ laneWords.duplicate.says }} <NuxtLink :to="{ path: '/scrutiny/duplicates', query: { of: dossier.id } }">{{ say('scrutiny.judgeThePair') }}</NuxtLink>
  </p>
  <div
    v-if="proposal"
    class="note is-attention second"
  >
    <span>{{ proposal.isOwn ? say('scrutiny.secondLookOwn') : say('scrutiny.secondLookAsked', { by: proposal.by, act: proposal.act }) }} <span class="soft">{{ proposal.reason }}</span></span>
    <template v-if="isSecond">
      <ElButton
        type="primary"
        :loading="busy"
        @click="settle('POST')"
      >
        {{ say('scrutiny.confirmDecision') }} <kbd>C</kbd>
      </ElButton>
      <ElButton
        :disabled="busy"
        @click="settle('DELETE')"
      >
        {{ say('scrutiny.sendBack') }} <kbd>B</kbd>
      </ElButton>
    </template>
  </div>
</template>

<style scoped>
.second { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.note { margin-top: 8px; }
</style>
