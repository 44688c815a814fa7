<script setup lang="ts">
import type { RollDetail, RollRowView, RollSettings } from '~~/shared/rolls'

/** One nominal roll: what its columns are, what would become of its rows, and entering it. */
const route = useRoute()
const cycle = useCycleStore()
const spelling = useSpelling()
const id = String(route.params.id)
const roll = shallowRef<RollDetail | null>(null)
const found = shallowRef<RollRowView[]>([])
const outcome = ref<'refused' | 'gaps'>('refused')
const { reason, isClosed, begin } = useLateStart()
useHead({ title: () => titled(roll.value?.name ?? say('rolls.nominalRolls')) })

async function load(after = 0) {
  const page = await callApi<RollDetail>(`/api/rolls/${id}`, { query: { outcome: outcome.value, after } })
  found.value = after > 0 ? [...found.value, ...page.found] : page.found
  roll.value = page
}
const trying = useJob('try-roll', () => attempt(load))
const entering = useJob('enter-roll', () => attempt(load))
const isLive = computed(() => trying.live.value || entering.live.value)
const { busy, refusal, send } = useSubmission()
const set = (change: Partial<RollSettings>) =>
  send(async () => {
    if (!roll.value) return
    const { columns, options, charset } = roll.value
    roll.value = await callApi<RollDetail>(`/api/rolls/${id}`, { method: 'PUT', body: { columns, ...options, charset, ...change } })
    found.value = roll.value.found
  })
const files = useSubmission()
async function show(of: Promise<RollDetail>) {
  roll.value = await of
  found.value = roll.value.found
}
const chooseFiles = (file: File) =>
  files.send(() => show(callApi<RollDetail>(`/api/rolls/${id}/files`, { method: 'PUT', bytes: file, query: { name: file.name } })))
const dropFiles = () => files.send(() => show(callApi<RollDetail>(`/api/rolls/${id}/files`, { method: 'DELETE' })))
/** Rows that would be entered, and files that come with them or follow. */
const toEnter = computed(() => ({
  n: (roll.value?.totals?.made ?? 0) + (roll.value?.totals?.changed ?? 0),
  files: roll.value?.totals?.files?.placed ?? 0,
}))
/** What was said of words holds at once, and shows in a new trial. */
async function useWordsOfSender(words: RollDetail['options']['words']) {
  await set({ words })
  if (refusal.value === '') await tryIt()
}
const tryIt = () => send(() => trying.startAt(`/api/rolls/${id}/try`, {}))
const enter = () => send(() => begin(given => entering.startAt(`/api/rolls/${id}/enter`, given)))
watch(outcome, () => attempt(load))
const { failure } = useLoaded(async () => {
  await load()
  await trying.find()
  await entering.find()
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/intake/rolls">{{ say('rolls.toTheRolls') }}</NuxtLink>
  </p>
  <div
    v-else-if="roll"
    class="sheet-row head grow"
  >
    <div class="body">
      <p class="small">
        <NuxtLink to="/intake/rolls">
          {{ say('rolls.toTheRolls') }}
        </NuxtLink>
      </p>
      <h1>{{ roll.name }}</h1>
      <p class="soft">
        {{ roll.sender }} · {{ say('rolls.rowsIn', { rows: roll.rows }) }} · {{ say('rolls.by', { by: roll.by, at: spelling.instant(roll.at) }) }}
      </p>
      <HouseAlert
        :text="refusal || files.refusal.value"
        kind="refusal"
      />
      <RollColumns
        :roll="roll"
        :disabled="busy || isLive"
        @change="columns => set({ columns })"
      />
      <RollFiles
        :roll="roll"
        :disabled="busy || isLive"
        :busy="files.busy.value"
        @choose="chooseFiles"
        @drop="dropFiles"
      />
      <RollWords
        :roll="roll"
        :disabled="busy || isLive"
        @use="useWordsOfSender"
      />
      <section
        v-if="roll.totals"
        class="found"
      >
        <ElRadioGroup
          v-model="outcome"
          :aria-label="say('rolls.whatIsWrong')"
        >
          <ElRadio value="refused">
            {{ say('rolls.refusedRows') }} ({{ countText(roll.totals.refused) }})
          </ElRadio>
          <ElRadio value="gaps">
            {{ say('rolls.rowsWithGaps') }} ({{ countText(roll.totals.gaps) }})
          </ElRadio>
        </ElRadioGroup>
        <a
          v-if="roll.totals.refused > 0"
          :href="`/api/rolls/${id}/refused.csv`"
        >{{ say('rolls.downloadRefused') }}</a>
        <RollRows :rows="found" />
        <ElButton
          v-if="roll.next !== null"
          @click="attempt(() => load(roll?.next ?? 0))"
        >
          {{ say('rolls.more') }}
        </ElButton>
      </section>
      <RollHandIn
        :roll="roll"
        :disabled="busy || isLive"
        @done="attempt(load)"
      />
    </div>
    <RollMargin
      :roll="roll"
      :disabled="busy || isLive"
      @change="set"
    >
      <JobsProgress
        :job="trying.job.value"
        :live="trying.live.value"
        :what="say('rolls.trying')"
        @cancel="attempt(trying.cancel)"
      />
      <JobsProgress
        :job="entering.job.value"
        :live="entering.live.value"
        :what="say('rolls.entering')"
        @cancel="attempt(entering.cancel)"
      />
    </RollMargin>
  </div>
  <div
    v-if="roll"
    class="action-bar"
  >
    <label
      v-if="isClosed"
      class="why"
      for="why-outside"
    >{{ say('rolls.whyOutside') }}</label>
    <ElInput
      v-if="isClosed"
      id="why-outside"
      v-model="reason"
      maxlength="1000"
    />
    <ElButton
      class="push"
      :type="roll.state === 'read' ? 'primary' : undefined"
      :disabled="busy || isLive || !cycle.notice"
      @click="tryIt"
    >
      {{ roll.state === 'read' ? say('rolls.tryIt') : say('rolls.tryAgain') }}
    </ElButton>
    <ElButton
      v-if="roll.state === 'tried' && roll.totals"
      type="primary"
      :disabled="busy || isLive || toEnter.n + toEnter.files === 0"
      @click="enter"
    >
      {{ say('rolls.enterIt', toEnter) }}
    </ElButton>
  </div>
</template>

<style scoped>
.grow { flex: 1; }
.found { margin-top: 24px; }
.found > a { margin-left: 20px; }
.why { white-space: nowrap; }
</style>
