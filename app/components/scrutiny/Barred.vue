<script setup lang="ts">
import type { Identity } from '~~/core/identity/likely-pair'
import type { BarredMatchView } from '~~/shared/barred'

/** An application that is likely of somebody barred: both line by line, what speaks for it, and the answer. */
const props = defineProps<{ match: BarredMatchView, mayJudge: boolean }>()
const emit = defineEmits<{ judged: [] }>()
const { pairReasonWords } = useWords().scrutiny
const reason = ref('')
const { busy, refusal, send } = useSubmission()
const lines: [keyof Identity, string][] = [['name', say('scrutiny.name')], ['bornOn', say('scrutiny.birthDate')], ['identityNumber',
  say('scrutiny.paperNumber')], ['mobile', say('scrutiny.telephone')], ['email', say('scrutiny.email')]]
const judge = (result: 'same' | 'different') =>
  send(async () => {
    await callApi(`/api/barred-matches/${props.match.id}`, { method: 'POST', body: { result, reason: reason.value.trim() } })
    emit('judged')
  })
</script>

<template>
  <section class="match">
    <div class="head">
      <h3>{{ say('scrutiny.barredScore', { score: match.score }) }}</h3>
      <span
        v-for="one in match.reasons"
        :key="one.code"
        :class="one.bits > 0 ? 'settled' : 'refusal'"
        class="small"
      ><span aria-hidden="true">{{ one.bits > 0 ? '+' : '−' }}</span> {{ pairReasonWords[one.code] }}</span>
    </div>
    <table class="plain-table">
      <thead>
        <tr>
          <th /><th><NuxtLink :to="`/scrutiny/${match.applicationId}`">{{ match.number }}</NuxtLink> <HouseHeadlineMark :headline="match.headline" /></th><th>{{ say('scrutiny.onTheList') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="[key, title] in lines"
          :key="key"
        >
          <th scope="row">
            {{ title }}
          </th>
          <td>{{ match.applicant[key] || '–' }}</td>
          <td :class="{ differs: match.barredIdentity[key] !== '' && match.applicant[key] !== match.barredIdentity[key] }">
            {{ match.barredIdentity[key] || '–' }}
          </td>
        </tr>
        <tr>
          <th scope="row">
            {{ say('scrutiny.barredWhy') }}
          </th><td /><td>{{ match.barred.reason }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="match.state !== 'open'">
      <b>{{ say('scrutiny.barredJudged', { state: match.state, by: match.by ?? '' }) }}</b> {{ match.reason }}
    </p>
    <ScrutinyJudgement
      v-else-if="mayJudge"
      v-slot="{ unready }"
      v-model="reason"
      :refusal="refusal"
    >
      <ElButton
        v-for="result in (['same', 'different'] as const)"
        :key="result"
        :loading="busy"
        :disabled="unready"
        @click="judge(result)"
      >
        {{ say('scrutiny.barredResult', { result }) }}
      </ElButton>
    </ScrutinyJudgement>
  </section>
</template>

<style scoped>
.match { background: var(--sheet); border: 1px solid var(--line); padding: 12px 16px; margin: 10px 0 16px; }
.head { display: flex; flex-wrap: wrap; gap: 4px 16px; align-items: baseline; }
th[scope] { width: 170px; border-bottom: 1px solid var(--line); font-weight: 400; }
.differs { background: var(--attention-soft); }
</style>
