<script setup lang="ts">
import { withDecisions } from '~~/core/application/requests'
import { slotsOf } from '~~/core/application/slots'
import { listAnswer } from '~~/core/application/answers'
import type { Dossier } from '~~/shared/applications'
import type { Finding } from '~~/core/finding/finding'
import type { ItemReason, KeptReason } from '~~/shared/scrutiny'
import type { Permit } from '~~/app/composables/act'

const { findingWords } = useWords().findings
const { refusalOrder } = useWords().order

/** The reasons of a decision, item by item; for a return they are filled in from the failed findings. */
const props = defineProps<{ decision: 'accept' | 'return' | 'refuse', dossier: Dossier, failed: Finding[], busy: boolean }>()
const emit = defineEmits<{ decide: [reasons: ItemReason[], permit: Permit], close: [] }>()
const session = useSessionStore()
const cycle = useCycleStore()
const slots = computed(() =>
  cycle.notice
    ? slotsOf(cycle.notice, withDecisions(cycle.notice, props.dossier.answers, props.dossier.decided)).map(({ id, title }) => ({
      id,
      title,
    }))
    : []
)

const titles = {
  accept: say('scrutiny.acceptAgainstAFailedFinding'),
  return: say('scrutiny.returnForCorrection'),
  refuse: say('scrutiny.refuse'),
}
const presses = { accept: say('scrutiny.acceptAllTheSame'), return: say('scrutiny.return'), refuse: say('scrutiny.readItThrough') }
const standing = computed(() => standingOf(props.dossier, props.decision))
const outside = computed(() => standing.value?.outsideDates ? whyNot({ ...standing.value, refusal: standing.value.outsideDates }) : '')
const outsideReason = ref('')
/** The order as it will be sent, once it was asked for: a refusal is read before it goes. */
const order = computed(() =>
  reading.value && cycle.notice
    ? refusalOrder(cycle.notice, {
      number: props.dossier.number,
      name: props.dossier.name,
      answers: props.dossier.counted,
      decision: { reasons: reasons.value, by: session.principal?.name ?? '', at: new Date().toISOString() },
      falseClaims: props.dossier.rulings.filter((r, i) =>
        r.ruling === 'false' && props.dossier.rulings.findIndex(other => other.claim === r.claim) === i
      ),
    })
    : null
)
const reading = ref(false)
function go() {
  if (props.decision === 'refuse' && !reading.value) reading.value = true
  else emit('decide', reasons.value, outside.value ? { reason: outsideReason.value.trim(), outsideDates: true } : {})
}
const begun = startingReasons()
const reasons = ref<{ item: string, reason: string }[]>(begun.map(one => ({ ...one })))

function startingReasons() {
  if (props.decision === 'accept') return [{ item: props.failed[0]?.about ?? 'photograph', reason: '' }]
  // What ends an application is written, never taken over unread.
  if (props.decision === 'refuse') return [{ item: '', reason: '' }]
  const own = props.failed.filter(f =>
    listAnswer(props.dossier.answers, 'posts').includes(f.about) || slots.value.some(({ id }) => id === f.about)
  )
  const filled = own.map((finding) => {
    const words = findingWords(finding)
    return {
      item: finding.about,
      reason: `${finding.origin ? say('scrutiny.clause', { clause: finding.origin.clause }) : ''}${words.title}: ${words.value}${
        words.bound ? ` (${words.bound})` : ''
      }. ${words.advice}`.trim(),
    }
  })
  return filled.length > 0 ? filled : [{ item: '', reason: '' }]
}
const items = computed(() => [
  ...slots.value,
  ...(cycle.notice?.posts ?? []).map(p => ({ id: p.id, title: p.title })),
  ...(cycle.notice?.sections.flatMap(s => s.questions) ?? []).map(q => ({ id: q.id, title: q.label })),
])
const kept = shallowRef<KeptReason[]>([])
/** Sent without leaving the keys. */
function onKey(event: KeyboardEvent) {
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && ready.value && !props.busy) go()
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
onMounted(async () => {
  if (cycle.code) kept.value = await callApi<KeptReason[]>(cycle.path('reasons')).catch(() => [])
})
/** Wordings that the office keeps for an item, without the one that stands there. */
const wordings = (reason: ItemReason) =>
  kept.value.filter(one => one.item === reason.item && one.reason !== reason.reason.trim()).slice(0, 4)
async function keepWording(reason: ItemReason) {
  await attempt(async () => {
    await callApi(cycle.path('reasons'), { method: 'POST', body: { item: reason.item, reason: reason.reason.trim() } })
    kept.value = await callApi<KeptReason[]>(cycle.path('reasons'))
  })
}
/** A wording of one's own that can be kept: not what a finding has filled in, nor what is kept already. */
const canKeep = (reason: ItemReason) =>
  reason.item !== '' && reason.reason.trim().length >= 3 && !begun.some(one => one.reason === reason.reason) && !isKept(reason)
const isKept = (reason: ItemReason) => kept.value.some(one => one.item === reason.item && one.reason === reason.reason.trim())
const ready = computed(() =>
  (outside.value === '' || outsideReason.value.trim().length >= 3) && reasons.value.length > 0
  && reasons.value.every(r => r.item && r.reason.trim().length >= 3)
)
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="titles[decision]"
    width="min(760px, 96vw)"
    @close="emit('close')"
  >
    <p class="soft">
      {{ decision === 'accept' ? say('scrutiny.writeWhyTheFailedFindingDoes')
        : decision === 'return' ? say('scrutiny.theCandidateSeesTheseReasonsAnd') : say('scrutiny.aRefusalEndsTheApplicationAnd') }}
    </p>
    <p
      v-if="outside"
      class="note is-attention"
    >
      {{ say('scrutiny.asAnOfficerYouMayGo', { outside }) }}
      <ElInput
        v-model="outsideReason"
        :aria-label="say('scrutiny.reasonForActingOutsideTheDates')"
      />
    </p>
    <article
      v-if="order"
      class="order"
      :aria-label="say('scrutiny.theOrderAsItWillBe')"
    >
      <h3>{{ order.title }}</h3>
      <p>{{ order.opening }}</p>
      <template
        v-for="section in order.sections"
        :key="section.heading"
      >
        <h4>{{ section.heading }}</h4>
        <p
          v-for="paragraph in section.paragraphs"
          :key="paragraph"
        >
          {{ paragraph }}
        </p>
      </template>
    </article>
    <div
      v-for="(reason, i) in order ? [] : reasons"
      :key="i"
      class="reason"
    >
      <ElSelect
        v-model="reason.item"
        filterable
        :placeholder="say('scrutiny.item')"
        :aria-label="say('scrutiny.item')"
      >
        <ElOption
          v-for="item in items"
          :key="item.id"
          :value="item.id"
          :label="item.title"
        />
      </ElSelect>
      <div>
        <ElInput
          v-model="reason.reason"
          type="textarea"
          :autosize="{ minRows: 2, maxRows: 6 }"
          :placeholder="say('scrutiny.reasonInWordsForTheCandidate')"
          :aria-label="say('scrutiny.reason')"
        />
        <button
          v-for="one in wordings(reason)"
          :key="one.id"
          type="button"
          class="press small wording"
          @click="reason.reason = one.reason"
        >
          {{ one.reason }}
        </button>
        <button
          v-if="canKeep(reason)"
          type="button"
          class="press small wording"
          @click="keepWording(reason)"
        >
          + {{ say('scrutiny.keepWording', { item: items.find(item => item.id === reason.item)?.title ?? reason.item }) }}
        </button>
      </div>
      <ElButton
        :disabled="reasons.length === 1"
        :aria-label="say('scrutiny.takeOffReason', { i: i + 1 })"
        @click="reasons.splice(i, 1)"
      >
        {{ say('scrutiny.takeOff') }}
      </ElButton>
    </div>
    <ElButton
      v-if="!order"
      @click="reasons.push({ item: '', reason: '' })"
    >
      {{ say('scrutiny.anotherReason') }}
    </ElButton>
    <template #footer>
      <ElButton @click="emit('close')">
        {{ say('scrutiny.notYet') }}
      </ElButton>
      <ElButton
        v-if="order"
        @click="reading = false"
      >
        {{ say('scrutiny.changeTheReasons') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!ready"
        :loading="busy"
        @click="go"
      >
        {{ order ? say('scrutiny.sendTheRefusal') : presses[decision] }} <kbd>{{ say('band.ctrlEnter') }}</kbd>
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
  .order { max-height: 46vh; overflow-y: auto; border: 1px solid var(--line); padding: 12px 16px; margin: 8px 0; }
.order p { margin: 4px 0; }
.wording { display: block; margin-top: 4px; }
h4 { margin: 10px 0 2px; font-family: var(--serif); }
.reason { display: grid; grid-template-columns: 200px minmax(0, 1fr) auto; gap: 8px; margin: 12px 0; align-items: start; }
@media (max-width: 700px) { .reason { grid-template-columns: minmax(0, 1fr); } }
</style>
