<script setup lang="ts">
import '~/words/later'
import { endorsementsWanted, isEndorsementOpen } from '~~/core/application/endorsements'
import type { Answers } from '~~/core/application/answers'
import { filledText } from '~~/core/notice/placeholders'
import type { Dossier } from '~~/shared/applications'
import type { EndorsementView } from '~~/shared/endorsements'

/**
 * What others have to say about an application: who was asked, what became of it, and a place to ask. Officers record there what came on
 * paper.
 */
const props = defineProps<
  {
    dossier: Dossier,
    answers: Answers,
    own?: boolean,
    /** Keeps what was typed: what is wanted hangs on it. */
    save: () => Promise<boolean>,
  }
>()
const emit = defineEmits<{ changed: [] }>()
const cycle = useCycleStore()
const spelling = useSpelling()
const now = useNow()
const rows = shallowRef<EndorsementView[]>([])
const address = `/api/applications/${props.dossier.id}/endorsements`
const load = async () => {
  rows.value = await callApi<EndorsementView[]>(address)
}
const { failure } = useLoaded(load)
// Somebody may answer while the sheet is open.
watch(() => JSON.stringify(props.dossier.endorsed), () => void attempt(load))
const wanted = computed(() => cycle.notice ? endorsementsWanted(cycle.notice, props.answers, props.dossier.endorsed) : [])
const mayAsk = computed(() => canAct(props.dossier, 'ask-endorsement'))
const mayRecord = computed(() => !props.own && canAct(props.dossier, 'record-endorsement'))
const { busy, refusal, send } = useSubmission()
async function changed(now: Promise<EndorsementView[]>) {
  rows.value = await now
  emit('changed')
}
const takeBack = (one: EndorsementView) => send(() => changed(callApi(`${address}/${one.id}`, { method: 'DELETE' })))
const sendTo = (where: string, body: object) =>
  send(async () => {
    if (await props.save()) await changed(callApi(`${address}${where}`, { method: 'POST', body }))
  })
</script>

<template>
  <div class="sheet-row head">
    <div class="body">
      <h2 class="section-title">
        {{ say('endorse.section') }}
      </h2>
      <p
        v-if="own"
        class="soft small"
      >
        {{ say('endorse.sectionHelp') }}
      </p>
      <HouseAlert
        :text="failure || refusal"
        kind="refusal"
      />
    </div>
    <div class="beside" />
  </div>
  <div
    v-for="{ rule, lacking, unasked } in wanted"
    :id="`row-endorsement-${rule.id}`"
    :key="rule.id"
    class="sheet-row"
  >
    <div class="body wanted">
      <h3>{{ rule.title }}</h3>
      <p class="soft small">
        {{ say('endorse.ofPeople', { count: rule.count, hasUntil: String(rule.until !== undefined), until: rule.until ? spelling.instant(rule.until) : '' }) }} ·
        <span :class="lacking > 0 ? 'attention' : 'settled'">{{ lacking > 0 ? say('endorse.lacking', { unasked }) : say('endorse.isThere') }}</span>
      </p>
      <p
        v-if="cycle.notice"
        class="small text"
      >
        {{ say('endorse.theyRead', { text: filledText(cycle.notice, rule.text) }) }}
      </p>
      <EndorsePerson
        v-for="one in rows.filter(row => row.rule === rule.id && row.state !== 'taken back')"
        :key="one.id"
        :one="one"
        :can-take-back="mayAsk && one.state !== 'given'"
        :busy="busy"
        @take-back="takeBack(one)"
      />
      <EndorseAsk
        v-if="unasked > 0 && mayAsk && isEndorsementOpen(rule, now)"
        :rule="rule.id"
        :busy="busy"
        @ask="sendTo('', $event)"
      />
      <EndorsePaper
        v-if="lacking > 0 && mayRecord"
        :rule="rule.id"
        :busy="busy"
        @record="sendTo('/paper', $event)"
      />
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('endorse.holds', { holds: rule.holds }) }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.wanted { padding-bottom: 16px; }
.text { white-space: pre-wrap; max-width: 70ch; padding: 4px 0 6px; }
</style>
