<script setup lang="ts">
import '~/words/later'
import type { EndorsementAsked } from '~~/shared/endorsements'
import { ProblemError } from '~~/shared/problem'

/**
 * Where a link leads that was sent to somebody without an account: what is asked, and one answer. The link's secret stands behind the hash,
 * which no server's log holds.
 */
definePageMeta({ layout: 'plain' })
useHead({ title: titled(say('endorse.title')), meta: [{ name: 'referrer', content: 'no-referrer' }] })
const asked = shallowRef<EndorsementAsked | null>(null)
const token = ref('')
const signed = ref('')
const agreed = ref(false)
const said = ref<Record<string, string>>({})
const { busy, refusal, send } = useSubmission()
const isWhole = computed(() =>
  signed.value.trim().length >= 2 && agreed.value
  && (asked.value?.rule.questions ?? []).every(question => !question.required || (said.value[question.id] ?? '').trim() !== '')
)

const open = async () => {
  asked.value = await callApi<EndorsementAsked>('/api/endorsements/open', { method: 'POST', body: { token: token.value || 'none' } })
}
onMounted(() => {
  token.value = window.location.hash.slice(1)
  void send(async () => {
    await open()
    signed.value = asked.value?.isOpen ? asked.value.name : ''
  })
})
const answer = (word: 'given' | 'declined') =>
  send(async () => {
    const body = {
      token: token.value,
      version: asked.value?.version,
      word,
      signed: signed.value.trim(),
      said: word === 'given' ? said.value : {},
    }
    try {
      asked.value = await callApi<EndorsementAsked>('/api/endorsements/give', { method: 'POST', body })
    } catch (error) {
      // What is asked was changed meanwhile: it is read as it is now, and what was written stays.
      if (error instanceof ProblemError && error.problem.code === 'endorsement.changed') {
        agreed.value = false
        await open()
      }
      throw error
    }
  })
</script>

<template>
  <div>
    <template v-if="asked">
      <h1>{{ asked.rule.title }}</h1>
      <p>{{ say('endorse.asks', { candidate: asked.candidate, examination: asked.examination, name: asked.name }) }}</p>
      <p class="soft small">
        {{ say('endorse.number', { number: asked.number, office: asked.office }) }} {{ asked.until && asked.isOpen ? say('endorse.until', { until: asked.until }) : '' }}
      </p>
      <blockquote class="note">
        {{ asked.rule.text }}
      </blockquote>
      <p
        v-if="!asked.isOpen"
        class="settled thanks"
        role="status"
      >
        {{ say('endorse.thanks', { state: asked.state, candidate: asked.candidate }) }}
      </p>
      <form
        v-else
        @submit.prevent="answer('given')"
      >
        <div
          v-for="question in asked.rule.questions"
          :key="question.id"
          class="question"
        >
          <template v-if="question.kind === 'choice'">
            <p class="label">
              {{ question.label }}
            </p>
            <FieldChoice
              :model-value="said[question.id] ?? ''"
              :options="question.options"
              :label="question.label"
              @update:model-value="said = { ...said, [question.id]: $event }"
            />
          </template>
          <template v-else>
            <label :for="`say-${question.id}`">{{ question.label }} <span
              v-if="!question.required"
              class="soft"
            >{{ say('sheet.mayStayBlank') }}</span></label>
            <textarea
              :id="`say-${question.id}`"
              v-model="said[question.id]"
              class="field"
              rows="4"
              :maxlength="question.maxLength"
            />
          </template>
        </div>
        <p class="soft small">
          {{ say('endorse.shown', { isShown: String(asked.rule.shownToCandidate), candidate: asked.candidate }) }}
        </p>
        <label for="signed">{{ say('endorse.yourName') }}</label>
        <input
          id="signed"
          v-model="signed"
          class="field"
          maxlength="140"
          autocomplete="name"
        >
        <div class="options">
          <label><input
            v-model="agreed"
            type="checkbox"
          ><span>{{ say('endorse.sayYes', { kind: asked.rule.kind }) }}</span></label>
        </div>
        <HouseAlert
          :text="refusal"
          kind="refusal"
        />
        <p class="acts">
          <HouseButton
            primary
            type="submit"
            :busy="busy"
            :disabled="!isWhole"
          >
            {{ say('endorse.give', { kind: asked.rule.kind }) }}
          </HouseButton>
        </p>
        <details>
          <summary>{{ say('endorse.notThis') }}</summary>
          <p class="soft small">
            {{ say('endorse.declineHelp') }}
          </p>
          <HouseButton
            :busy="busy"
            :disabled="signed.trim().length < 2"
            @click="answer('declined')"
          >
            {{ say('endorse.decline') }}
          </HouseButton>
        </details>
      </form>
    </template>
    <template v-else>
      <h1>{{ say('endorse.title') }}</h1>
      <HouseAlert
        :text="refusal"
        kind="refusal"
      />
    </template>
  </div>
</template>

<style scoped>
h1 { margin-bottom: 10px; }
blockquote { margin: 16px 0; white-space: pre-wrap; }
form { display: flex; flex-direction: column; gap: 8px; }
form > label, .question > label, .label { font-weight: 600; }
.question { display: flex; flex-direction: column; gap: 4px; margin-bottom: 8px; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 6px; }
.button { min-height: 44px; }
details { margin-top: 8px; }
summary { cursor: pointer; color: var(--accent); min-height: 28px; }
details .button { margin-top: 8px; }
.thanks { font-weight: 600; }
</style>
