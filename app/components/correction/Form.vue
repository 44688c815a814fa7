<script setup lang="ts">
import '~/words/later'
import { isProof, proofSlot } from '~~/core/application/proof-slot'
import { slotOf, type Slot } from '~~/core/application/slots'
import type { OpenRule } from '~~/shared/corrections'

/**
 * A correction: what may be corrected, old beside new, what it would change, and where it stands. Candidates and officers see the same;
 * what may be done differs.
 */
const props = defineProps<{ id: string, own?: boolean }>()
const cycle = useCycleStore()
const spelling = useSpelling()
const session = useSessionStore()
const correction = useCorrection(props.id)
const { view, dossier, changes, reason, savedAt, trouble, busy, isDrafting } = correction
provide('files-into', 'correction/files')
const form = computed(() => props.own ? `/own/${props.id}` : `/intake/${props.id}`)
const notice = computed(() => cycle.notice)
/** Items that an officer has added beyond what the notice opens. */
const others = ref<string[]>([])
const questions = computed(() => notice.value?.sections.flatMap(s => s.questions) ?? [])
const mayGoBeyond = computed(() => !props.own && session.may('dates.override'))
const shownItems = computed(() => new Set(view.value?.rules.flatMap(rule => rule.items) ?? []))
/** What is asked only because of what was changed, and what an officer corrects beyond the rules. */
const further = computed(() =>
  [...new Set([...(view.value?.openItems ?? []).filter(item => !shownItems.value.has(item)), ...Object.keys(changes.value),
    ...others.value])].filter(item => !shownItems.value.has(item))
)
const choices = computed(() => questions.value.filter(q => !shownItems.value.has(q.id) && !others.value.includes(q.id)))
const slotsIn = (items: readonly string[]): Slot[] => items.flatMap(item => notice.value ? slotOf(notice.value, item) ?? [] : [])
const isUsed = (rule: OpenRule) => rule.items.some(item => item in changes.value || view.value?.files[item])
const ruleLine = (rule: OpenRule) =>
  say('correction.ruleLine', {
    until: say('correction.until', { until: spelling.instant(rule.closes) }),
    charge: rule.charge > 0 ? say('correction.costs', { amount: spelling.amount(rule.charge) }) : say('correction.free'),
    effect: rule.takesEffect === 'handed in' ? say('correction.atOnce') : say('correction.looked'),
    hasProof: String(rule.proof !== null),
    proof: rule.proof ?? '',
  })
const asSheet = computed(() => dossier.value && { ...dossier.value, files: view.value?.files ?? {} })
const hasFiles = computed(() => Object.keys(view.value?.files ?? {}).some(slot => !isProof(slot)))
const isReady = computed(() =>
  (Object.keys(changes.value).length > 0 || hasFiles.value) && view.value?.faults.length === 0 && view.value.lacks.length === 0
)
function add(event: Event) {
  const target = event.target as HTMLSelectElement
  if (target.value !== '') others.value = [...others.value, target.value]
  target.value = ''
}
useHead({ title: () => titled(say('correction.title', { number: dossier.value?.number ?? '' })) })
const { failure } = useLoaded(correction.load)
onBeforeRouteLeave(async () => {
  await correction.save()
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink :to="form">{{ say('correction.toTheForm') }}</NuxtLink>
  </p>
  <template v-else-if="view && dossier && notice && asSheet">
    <div class="correction">
      <div class="sheet-row head">
        <div class="body">
          <h1>{{ say('correction.title', { number: dossier.number }) }}</h1>
          <p class="soft">
            {{ dossier.name }} · <NuxtLink :to="form">{{ say('correction.toTheForm') }}</NuxtLink>
          </p>
          <p>{{ say('correction.what') }}</p>
          <p
            v-if="view.state && !isDrafting"
            class="note"
            :class="{ 'is-attention': view.state === 'unpaid' || view.state === 'refused' }"
          >
            <b>{{ say('correction.states', { state: view.state.replace(' ', '_'), open: spelling.amount(view.owes.open) }) }}</b>{{ ' ' }}
            <template v-if="view.state === 'unpaid'">
              {{ say('correction.payFirst', { open: spelling.amount(view.owes.open), until: spelling.instant(view.until) }) }}
            </template>
            <template v-else-if="view.state === 'waiting' && view.handed">
              {{ say('correction.waits', { at: spelling.instant(view.handed.at) }) }}
            </template>
            <template v-else-if="view.decided">
              {{ say('correction.decidedAt', { by: view.decided.by, at: spelling.instant(view.decided.at) }) }}
              <template v-if="view.decided.reason">
                {{ view.decided.reason }}
              </template>
            </template>
          </p>
          <p v-if="!isDrafting && view.rules.length === 0 && !mayGoBeyond">
            {{ say('correction.nothingOpen') }}
          </p>
        </div>
        <div class="beside" />
      </div>

      <template v-if="isDrafting">
        <template
          v-for="rule in view.rules"
          :key="rule.id"
        >
          <div class="sheet-row head">
            <div class="body">
              <h2 class="section-title">
                {{ rule.title }}
              </h2>
              <p class="soft small">
                {{ ruleLine(rule) }}
              </p>
            </div>
            <div class="beside" />
          </div>
          <CorrectionItems
            :correction="correction"
            :sheet="asSheet"
            :items="rule.items"
          />
          <SheetFiles
            v-if="rule.proof && isUsed(rule)"
            :dossier="asSheet"
            :slots="slotsIn([proofSlot(rule)])"
            :is-open="() => true"
            eager
            @added="attempt(correction.refresh)"
          />
        </template>

        <template v-if="further.length > 0 || mayGoBeyond">
          <div class="sheet-row head">
            <div class="body">
              <h2 class="section-title">
                {{ say('correction.otherItem') }}
              </h2>
              <div v-if="mayGoBeyond">
                <p class="soft small">
                  {{ say('correction.otherItemHelp') }}
                </p>
                <select
                  class="field"
                  :aria-label="say('correction.otherItem')"
                  @change="add"
                >
                  <option value="">
                    {{ say('correction.addAnItem') }}
                  </option>
                  <option
                    v-for="question in choices"
                    :key="question.id"
                    :value="question.id"
                  >
                    {{ question.label }}
                  </option>
                </select>
              </div>
            </div>
            <div class="beside" />
          </div>
          <CorrectionItems
            :correction="correction"
            :sheet="asSheet"
            :items="further"
          />
        </template>

        <div class="sheet-row">
          <div class="body why">
            <label for="correction-why">{{ say('correction.why') }} <span class="soft small">{{ say('correction.whyHelp') }}</span></label>
            <input
              id="correction-why"
              v-model="reason"
              class="field"
              maxlength="1000"
              @input="correction.plan()"
            >
          </div>
          <div class="beside" />
        </div>
      </template>

      <div
        v-if="view.state"
        class="sheet-row head rest"
      >
        <div class="body">
          <h2 class="section-title">
            {{ say('correction.effects') }}
          </h2>
          <CorrectionEffects
            :view="view"
            sees-files
          />
        </div>
        <div class="beside" />
      </div>
      <div
        v-else
        class="sheet-row rest"
      >
        <div class="body" /><div class="beside" />
      </div>
    </div>

    <div class="action-bar">
      <span
        v-if="isDrafting"
        :class="{ attention: trouble !== '' }"
      ><b v-if="savedAt">{{ say('correction.saved', { time: savedAt.toTimeString().slice(0, 8) }) }}</b> <span class="small">{{ trouble }}</span></span>
      <HouseButton
        v-if="isDrafting"
        class="push"
        @click="correction.drop()"
      >
        {{ say('correction.drop') }}
      </HouseButton>
      <HouseButton
        v-if="isDrafting"
        primary
        :busy="busy"
        :disabled="!isReady"
        @click="correction.act('ask-correction')"
      >
        {{ say('correction.handIn') }}
      </HouseButton>
      <HouseButton
        v-if="view.state === 'unpaid' || view.state === 'waiting'"
        :busy="busy"
        @click="correction.act('take-back-correction')"
      >
        {{ say('correction.takeBack') }}
      </HouseButton>
      <LazySheetPayment
        v-if="view.state === 'unpaid'"
        :dossier="dossier"
        :own="own"
        :more="view.owes.open"
        :refresh="correction.load"
      />
      <HouseButton
        v-if="(!view.state || !['drafting', 'unpaid', 'waiting'].includes(view.state)) && (view.rules.length > 0 || mayGoBeyond)"
        class="push"
        primary
        @click="correction.begin()"
      >
        {{ view.state ? say('correction.anotherOne') : say('correction.begin') }}
      </HouseButton>
    </div>
  </template>
</template>

<style scoped>
.correction { flex: 1; display: flex; flex-direction: column; }
.rest { flex: 1; }
.rest > .body { padding-bottom: 32px; }
.why { display: grid; gap: 4px; padding-top: 16px !important; }
</style>
