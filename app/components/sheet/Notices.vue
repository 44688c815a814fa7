<script setup lang="ts">
import type { ActStanding } from '~~/core/application/acts/judge'
import type { Answer } from '~~/core/application/answers'
import { isFormAfterFee } from '~~/core/fees/order'
import type { Dossier } from '~~/shared/applications'

/**
 * What the person at a sheet has to know before they read on: why it is closed or open, what was decided, what somebody else has changed.
 */
const props = defineProps<
  {
    dossier: Dossier,
    closedByDate: ActStanding | null,
    closedFor: string,
    /** Questions that somebody else has changed meanwhile. */
    changed: string,
    own?: boolean,
    /** Nothing is written yet that an earlier form could give. */
    isFresh: boolean,
    take: (question: string, answer: Answer) => void,
  }
>()
const emit = defineEmits<{ allow: [], changed: [dossier: Dossier], added: [] }>()
const takes = ref(false)
const spelling = useSpelling()
const cycle = useCycleStore()
const { orderWords } = useWords().fees
/** The newest decision that the person has to know: a return that waits for an answer, or a refusal. */
const decided = computed(() => {
  const [last] = props.dossier.decisions
  const { scrutiny } = props.dossier.tracks
  return last && ((scrutiny === 'returned' && last.decision === 'return') || (scrutiny === 'refused' && last.decision === 'refuse'))
    ? last
    : undefined
})
/** Told to the office only, whose words of it are there. */
const isUnread = computed(() =>
  props.dossier.hasAccount && props.dossier.told.some(one => one.kind === decided.value?.decision && one.isUnread)
)
const openedNow = computed(() =>
  props.dossier.tracks.form === 'correcting' ? props.dossier.openedItems?.map(item => spelling.item(item)).join(', ') ?? '' : ''
)
</script>

<template>
  <LazySheetTextsFirst
    v-if="dossier.hasTextsFirst"
    :id="dossier.id"
    :own="own"
    @changed="emit('changed', $event)"
  />
  <LazySheetEarlier
    v-else-if="takes"
    :id="dossier.id"
    :take="take"
    @changed="emit('added')"
    @close="takes = false"
  />
  <p
    v-else-if="dossier.hasEarlier && isFresh"
    class="note"
  >
    {{ say('sheet.earlierIsThere') }}
    <button
      type="button"
      class="press"
      @click="takes = true"
    >
      {{ say('sheet.earlier') }}
    </button>
  </p>
  <LazyKeyingStanding
    v-if="dossier.keying"
    :dossier="dossier"
    @changed="emit('changed', $event)"
  />
  <div
    v-if="closedByDate"
    class="note is-attention"
  >
    <p>{{ closedByDate.outsideDates ? say('sheet.asAnOfficerYouMayGo', { whyNot: whyNot({ ...closedByDate, refusal: closedByDate.outsideDates }) }) : say('keying.somebodysWord') }}</p>
    <HouseButton @click="emit('allow')">
      {{ closedByDate.outsideDates ? say('sheet.goOnOutsideTheDates') : say('keying.changeIt') }}
    </HouseButton>
  </div>
  <p
    v-if="dossier.ownOthers.length > 0"
    class="note is-attention"
  >
    {{ say('sheet.anotherOfYours', { numbers: dossier.ownOthers.join(', '), onePerson: String(Boolean(cycle.notice?.scrutiny?.onePerson)) }) }}
  </p>
  <p
    v-if="cycle.notice && isFormAfterFee(cycle.notice, dossier.tracks)"
    class="note is-attention"
  >
    {{ orderWords[cycle.notice.fees.order] }}
  </p>
  <p
    v-if="closedFor"
    class="note is-attention"
  >
    {{ closedFor }}
  </p>
  <p
    v-if="changed"
    class="note"
    role="status"
  >
    {{ say('sheet.somebodyElseHasChangedOnThis', { changed }) }}
  </p>
  <p
    v-if="openedNow"
    class="note"
  >
    <b>{{ say('sheet.openForCorrection', { hasOpenUntil: String(Boolean(dossier.openUntil)), openUntil: spelling.instant(dossier.openUntil) }) }}</b> {{ say('sheet.allElseStaysFrozen', { openedNow }) }}
  </p>
  <div
    v-if="decided"
    class="note is-attention"
  >
    <b>{{ say('sheet.returnedOrRefusedBy', { decision: decided.decision, by: decided.by, hasAnswerUntil: String(Boolean(decided.answerUntil)), answerUntil: spelling.instant(decided.answerUntil) }) }}</b> <span
      v-if="isUnread"
      class="attention"
    >{{ say('letters.notRead') }}</span>
    <ul>
      <li
        v-for="reason in decided.reasons"
        :key="reason.item"
      >
        {{ spelling.item(reason.item) }}: {{ reason.reason }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul { margin: 4px 0; padding-left: 20px; }
</style>
