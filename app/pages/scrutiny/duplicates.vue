<script setup lang="ts">
import type { PairPage, PairView } from '~~/shared/scrutiny'

/** Pairs of applications that are likely of one person, side by side: somebody says whether they are. */
useHead({ title: titled(say('scrutiny.duplicates')) })
const cycle = useCycleStore()
const session = useSessionStore()
const route = useRoute()
const pairs = shallowRef<PairView[]>([])
const next = ref<string | null>(null)
const isRead = ref(false)
const of = computed(() => typeof route.query.of === 'string' ? route.query.of : undefined)

async function load(after?: string) {
  const page = await callApi<PairPage>(cycle.path('pairs'), { query: { after, of: of.value } })
  pairs.value = after ? [...pairs.value, ...page.pairs] : page.pairs
  next.value = page.next
  isRead.value = true
}
const { job, live, find, startAt } = useJob('find-pairs', () => {
  void load()
})
const compare = () => attempt(() => startAt(cycle.path('jobs/find-pairs'), {}))
onMounted(() => {
  if (session.may('scrutiny.compare')) void find().catch(() => undefined)
})
const { failure, reload } = useLoaded(() => load())
watch(of, () => void reload())
</script>

<template>
  <div class="page">
    <ScrutinyAreas />
    <div class="page-head">
      <h1>{{ of ? say('scrutiny.readPairsOf') : say('scrutiny.pairsOpen') }}</h1>
      <div
        v-if="session.may('scrutiny.compare') && !of"
        class="actions"
      >
        <span
          v-if="job"
          class="soft"
          role="status"
        >{{ live ? say('scrutiny.comparing', { percent: Math.round(100 * job.done / Math.max(1, job.total)) }) : job.result ? say('scrutiny.comparedAll', { compared: countText(Number(job.result.compared)), found: countText(Number(job.result.found)) }) : '' }}</span>
        <ElButton
          :disabled="live"
          @click="compare"
        >
          {{ say('scrutiny.compareAll') }}
        </ElButton>
      </div>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="isRead && pairs.length === 0"
      class="soft"
    >
      {{ say('scrutiny.noPairs') }}
    </p>
    <ScrutinyPair
      v-for="pair in pairs"
      :key="pair.id"
      :pair="pair"
      :may-judge="session.may('scrutiny.decide')"
      @judged="load()"
    />
    <ElButton
      v-if="next"
      @click="attempt(() => load(next ?? undefined))"
    >
      {{ say('band.more') }}
    </ElButton>
  </div>
</template>
