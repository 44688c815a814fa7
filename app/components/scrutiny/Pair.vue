<script setup lang="ts">
import type { Identity } from '~~/core/identity/likely-pair'
import type { PairSide, PairView } from '~~/shared/scrutiny'

/** One likely pair: both applications line by line, what speaks for one person and what against, and the answer. */
const props = defineProps<{ pair: PairView, mayJudge: boolean }>()
const emit = defineEmits<{ judged: [] }>()
const spelling = useSpelling()
const { pairReasonWords } = useWords().scrutiny
const sides = computed(() => [props.pair.first, props.pair.second])
const { busy, refusal, send } = useSubmission()
const reason = ref('')
const lines: { title: string, of: (side: PairSide) => string, key?: keyof Identity }[] = [
  { title: say('scrutiny.name'), of: side => side.identity.name, key: 'name' },
  { title: say('scrutiny.birthDate'), of: side => side.identity.bornOn, key: 'bornOn' },
  { title: say('scrutiny.paperNumber'), of: side => `${side.identity.identityNumber}`, key: 'identityNumber' },
  { title: say('scrutiny.telephone'), of: side => side.identity.mobile, key: 'mobile' },
  { title: say('scrutiny.email'), of: side => side.identity.email, key: 'email' },
  { title: say('scrutiny.posts'), of: side => side.posts.map(spelling.post).join(', ') },
  { title: say('scrutiny.submitted'), of: side => spelling.instant(side.submittedAt) },
]
const differs = (key: keyof Identity | undefined) => key !== undefined && props.pair.first.identity[key] !== props.pair.second.identity[key]
const judge = (body: { result: 'same', stands: string } | { result: 'different' }) =>
  send(async () => {
    await callApi(`/api/pairs/${props.pair.id}`, { method: 'POST', body: { ...body, reason: reason.value.trim() } })
    emit('judged')
  })
</script>

<template>
  <section class="pair">
    <div class="head">
      <h2>{{ say('scrutiny.pairScore', { score: pair.score }) }}</h2>
      <span
        v-for="one in pair.reasons"
        :key="one.code"
        :class="one.bits > 0 ? 'settled' : 'refusal'"
        class="small"
        :title="say('scrutiny.pairBits', { bits: one.bits })"
      ><span aria-hidden="true">{{ one.bits > 0 ? '+' : '−' }}</span> {{ pairReasonWords[one.code] }}</span>
      <b
        v-if="pair.state !== 'open'"
        class="push"
      >{{ say('scrutiny.judged', { state: pair.state, by: pair.by ?? 'none' }) }}</b>
    </div>
    <table class="plain-table">
      <thead>
        <tr>
          <th />
          <th
            v-for="side in sides"
            :key="side.id"
          >
            <NuxtLink :to="`/scrutiny/${side.id}`">{{ side.number }}</NuxtLink> <HouseHeadlineMark :headline="side.headline" /> {{ pair.stands === side.id ? say('scrutiny.standsNow') : '' }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="line in lines"
          :key="line.title"
        >
          <th scope="row">
            {{ line.title }}
          </th>
          <td
            v-for="side in sides"
            :key="side.id"
            :class="{ differs: differs(line.key) }"
          >
            {{ line.of(side) || '–' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p
      v-if="pair.reason"
      class="soft"
    >
      {{ pair.reason }}
    </p>
    <ScrutinyJudgement
      v-if="pair.state === 'open' && mayJudge"
      v-slot="{ unready }"
      v-model="reason"
      :refusal="refusal"
    >
      <ElButton
        v-for="side in sides"
        :key="side.id"
        :disabled="unready"
        :loading="busy"
        :title="say('scrutiny.pairSame')"
        @click="judge({ result: 'same', stands: side.id })"
      >
        {{ say('scrutiny.samePerson', { number: side.number }) }}
      </ElButton>
      <ElButton
        :disabled="unready"
        :loading="busy"
        :title="say('scrutiny.pairDifferent')"
        @click="judge({ result: 'different' })"
      >
        {{ say('scrutiny.differentPeople') }}
      </ElButton>
    </ScrutinyJudgement>
  </section>
</template>

<style scoped>
.pair { background: var(--sheet); border: 1px solid var(--line); padding: 12px 16px; margin-bottom: 16px; }
.head { display: flex; flex-wrap: wrap; gap: 4px 16px; align-items: baseline; }
.push { margin-left: auto; }
th[scope] { width: 170px; border-bottom: 1px solid var(--line); font-weight: 400; }
.plain-table { table-layout: fixed; }
.plain-table th:first-child { width: 170px; }
.differs { background: var(--attention-soft); }
</style>
