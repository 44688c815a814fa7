<script setup lang="ts">
import type { Question } from '~~/core/notice/schema'
import { listAnswer } from '~~/core/application/answers'
import type { Relation } from '~~/core/access/permissions'
import type { TextRead } from '~~/shared/acts'

const { matterWords, ownerWords } = useWords().work
const { proofWords } = useWords().conditions

/**
 * The sheet: one application as one continuous form, with the margin beside it. Officers and candidates see the same; what may be done
 * differs.
 */
const props = defineProps<{ id: string, /** The candidate's own. */ own?: boolean }>()
const router = useRouter()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { id } = props
const list = props.own ? '/own' : '/roster'
const relations: Relation[] = props.own ? ['own application'] : []
const sheet = useSheet(id)
const { dossier, answers, asked, findings, decided, verdicts, fee, state, savedText, trouble, conflict, merged } = sheet
provide('permit', sheet.permit)
provide('own', props.own)
const declaring = ref(false)
const busy = ref(false)

const notice = computed(() => cycle.notice)
// What the office, the gateway and the clock do shows by itself; what is being typed is left alone.
useLive(
  id,
  () => props.own === true && dossier.value !== null && (!sheet.editable.value || sheet.unpaidFirst.value === 'confirming'),
  () => dossier.value?.changedAt,
  () => sheet.refresh(),
)
const { claimsAt, requestsAt, gaps, feeFirst, slots, groups, lacking, hasEndorsements, awaited, missing, isSlotOpen } = useWanted(sheet)
const { closedByDate, closedFor, asking: askingPermit, allow } = useBeyondDates(sheet)
const items = computed(() =>
  notice.value
    ? [...slots.value.map(({ id: slot, title }) => ({ id: slot, title })),
      ...notice.value.sections.flatMap(s => s.questions).map(q => ({ id: q.id, title: q.label }))]
    : []
)
const changedBy = computed(() => merged.value.map(question => spelling.item(question)).join(', '))
const beside = (question: string) => findings.value.filter(f => f.about === question)
/** Missing answers are not shouted at somebody who has only begun: they show once the sheet is half full or was returned. */
const shown = (question: string) => beside(question).filter(f => f.code !== 'sheet.missing' || eager.value)
const eager = ref(false)
/** One row for each question, so that its findings stand beside it; the long list of verdicts has room beside the rest of its section. */
function rowsOf(questions: Question[]): Question[][] {
  const live = questions.filter(q => asked.value.has(q.id))
  const posts = live.findIndex(q => q.kind === 'posts')
  return posts < 0 ? live.map(q => [q]) : [...live.slice(0, posts).map(q => [q]), live.slice(posts)]
}
/** Of somebody who sits once; several papers stand below with their seats. */
const sessionTitle = computed(() => {
  const [only, ...more] = dossier.value?.placement?.sittings ?? []
  return more.length > 0 ? '' : notice.value?.sessions.find(s => s.id === only?.session)?.title.toLowerCase() ?? ''
})
useHead({ title: () => titled(dossier.value?.name || dossier.value?.number || say('sheet.application')) })

function toFirstGap() {
  eager.value = true
  nextTick(() => {
    const target = gaps.value[0]?.about ?? lacking.value[0]?.id ?? `endorsement-${awaited.value[0]?.rule.id}`
    const row = target ? document.getElementById(`row-${target}`) : null
    row?.scrollIntoView({ block: 'center' })
    row?.querySelector<HTMLElement>('input, button')?.focus()
  })
}
async function submit(texts: TextRead[]) {
  if (busy.value) return
  busy.value = true
  const done = await sheet.submit(texts)
  if (done) declaring.value = false
  else eager.value = true
  busy.value = false
}
const { failure } = useLoaded(async () => {
  await sheet.load()
  eager.value = dossier.value?.tracks.form === 'correcting'
})
// Dialogs and the checks of files come when the sheet stands, so that a press does not wait for them, nor ends in nothing without a line.
onMounted(() => setTimeout(() => void import('../act/Dialog.vue').catch(() => undefined), 1500))
onBeforeRouteLeave(async () => {
  await sheet.save()
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink :to="list">{{ own ? say('own.toMyApplications') : say('sheet.toTheRoster') }}</NuxtLink>
  </p>
  <template v-else-if="dossier && notice">
    <div class="sheet">
      <div class="sheet-row head">
        <div class="body">
          <h1>{{ answers.certificateName || say('sheet.newApplication') }}</h1>
          <p class="soft">
            {{ dossier.number }} · <HouseHeadlineMark :headline="dossier.headline" />
            <template v-if="dossier.submittedAt">
              {{ ' ' }}{{ say('sheet.submitted', { submittedAt: spelling.instant(dossier.submittedAt) }) }}
            </template>
            <template v-if="dossier.placement">
              {{ say('sheet.testCity') }} <b>{{ spelling.city(dossier.placement.sittings[0]?.city ?? '') }}</b>{{ sessionTitle && `, ${sessionTitle}` }}
            </template>
          </p>
        </div>
        <div class="beside matters">
          <template v-if="dossier.matters.length > 0 && !sheet.editable.value">
            <p
              v-for="matter in dossier.matters"
              :key="matter.kind + matter.about"
            >
              <b>{{ matterWords(matter).title }}</b> <span class="soft small">{{ say('sheet.clearedBy', { clears: matterWords(matter).clears, owner: ownerWords[matter.owner] }) }}<template v-if="matter.until">{{ say('sheet.before', { until: spelling.instant(matter.until) }) }}</template>.</span>
            </p>
          </template>
          <p
            v-else-if="!sheet.editable.value"
            class="settled"
          >
            <b>{{ say('sheet.nothingIsOpen') }}</b>
          </p>
        </div>
      </div>
      <div
        v-if="dossier.hasTextsFirst || dossier.hasEarlier || feeFirst || dossier.keying || dossier.tracks.form === 'correcting' || dossier.tracks.scrutiny === 'refused' || closedByDate || closedFor || changedBy || dossier.ownOthers.length > 0"
        class="sheet-row"
      >
        <div class="body">
          <SheetNotices
            :dossier="dossier"
            :closed-by-date="closedByDate"
            :closed-for="closedFor"
            :changed="changedBy"
            :own="own"
            :is-fresh="sheet.writable.value && !answers.certificateName"
            :take="sheet.change"
            @added="attempt(sheet.refresh)"
            @allow="askingPermit = true"
            @changed="sheet.show($event)"
          />
        </div>
        <div class="beside" />
      </div>

      <template
        v-for="section in notice.sections"
        :key="section.id"
      >
        <div class="sheet-row head">
          <div class="body">
            <h2 class="section-title">
              {{ section.title }}
            </h2>
          </div>
          <div class="beside" />
        </div>
        <div
          v-for="row in rowsOf(section.questions)"
          :key="row[0]?.id"
          class="sheet-row"
        >
          <div class="body">
            <SheetQuestionField
              v-for="question in row"
              :key="question.id"
              :question="question"
              :notice="notice"
              :answer="answers[question.id]"
              :readonly="!sheet.isOpen(question.id)"
              :flawed="shown(question.id).some(f => f.verdict === 'fail')"
              @change="sheet.change(question.id, $event)"
            />
          </div>
          <div class="beside">
            <template
              v-for="question in row"
              :key="question.id"
            >
              <HouseFindingNote
                v-for="finding in shown(question.id)"
                :key="finding.code"
                :finding="finding"
              />
              <p
                v-for="claim in claimsAt(question.id)"
                :key="claim.id"
                class="soft small proof"
              >
                <b>{{ claim.title }}</b> {{ say('sheet.isAClaimProofAtScrutiny', { proof: proofWords(notice, claim) }) }}
              </p>
              <p
                v-for="request in requestsAt(question.id)"
                :key="request.id"
                class="soft small proof"
              >
                <b>{{ request.title }}</b> {{ say('sheet.isARequest', { proof: request.proof }) }}
              </p>
            </template>
            <LazySheetPostLimits
              v-if="row.some(question => question.kind === 'posts' && (question.groups.length > 0 || question.mostLoad !== undefined))"
              :notice="notice"
              :answers="decided"
            />
            <LazySheetTimetable
              v-if="notice.testPapers.length > 0 && row.some(question => question.kind === 'posts')"
              :notice="notice"
              :answers="decided"
            />
            <SheetPostVerdicts
              v-if="row.some(question => question.kind === 'posts')"
              :verdicts="verdicts"
              :chosen="listAnswer(answers, 'posts')"
              :answers="answers"
              folded
            />
          </div>
        </div>
      </template>

      <template
        v-for="group in groups"
        :key="group.title"
      >
        <div class="sheet-row head">
          <div class="body">
            <h2 class="section-title">
              {{ group.title }}
            </h2>
            <p class="soft small">
              {{ group.words }}
            </p>
          </div>
          <div class="beside" />
        </div>
        <SheetFiles
          :dossier="dossier"
          :slots="group.slots"
          :is-open="isSlotOpen"
          :eager="eager"
          @added="attempt(sheet.refresh)"
        />
      </template>

      <LazyEndorseSection
        v-if="hasEndorsements"
        :dossier="dossier"
        :answers="decided"
        :own="own"
        :save="sheet.save"
        @changed="attempt(sheet.refresh)"
      />
      <LazySheetRequests
        v-if="dossier.requests.length > 0 && dossier.submittedAt"
        :dossier="dossier"
      />
      <SheetFeeRow
        :dossier="dossier"
        :fee="fee"
        :editable="sheet.editable.value"
        @changed="sheet.show($event)"
      />

      <LazySheetCentreRow
        v-if="dossier.placement"
        :dossier="dossier"
        :placement="dossier.placement"
      />
      <SheetFoot
        :dossier="dossier"
        :items="items"
        :own="own"
        @changed="sheet.show($event); cycle.refreshBand()"
        @gone="router.push(list)"
      />
    </div>

    <div class="action-bar">
      <span
        v-if="sheet.editable.value"
        :class="{ attention: state === 'kept here' || state === 'conflict' }"
      ><b>{{ savedText }}</b> <span
        v-if="trouble"
        class="small"
      >{{ trouble }}</span></span>
      <template v-if="sheet.writable.value">
        <button
          v-if="missing > 0"
          class="gap-link push"
          @click="toFirstGap"
        >
          {{ say('sheet.stillMissingOrWrongToThe', { gaps: missing }) }}
        </button>
        <LazyKeyingFinish
          v-if="dossier.keying && dossier.keying.state !== 'agreed'"
          :sheet="sheet"
        />
        <LazySheetFeeFirst
          v-else-if="feeFirst"
          :dossier="dossier"
          :own="own"
          :gaps="gaps"
          :sheet="sheet"
        />
        <HouseButton
          v-else
          primary
          :class="{ push: missing === 0 }"
          :disabled="missing > 0"
          @click="declaring = true"
        >
          {{ dossier.tracks.form === 'correcting' ? say('sheet.submitTheCorrection') : say('sheet.submit') }}
        </HouseButton>
      </template>
      <LazySheetPayment
        v-else-if="session.may('fees.collect', relations) && dossier.tracks.form !== 'withdrawn' && dossier.tracks.form !== 'lapsed' && (dossier.tracks.fee === 'due' || dossier.tracks.fee === 'confirming')"
        :dossier="dossier"
        :own="own"
        :refresh="sheet.refresh"
      />
      <template v-else>
        <CorrectionLink
          :dossier="dossier"
          :own="own"
        />
        <span class="soft">{{ dossier.hasTextsFirst ? '' : sheet.editable.value ? say('sheet.readOnly') : say('sheet.answersAndImagesAreFrozenA') }}</span>
        <HouseButton
          v-if="dossier.headline === 'in scrutiny' && session.may('scrutiny.decide')"
          class="push"
          primary
          @click="router.push(`/scrutiny/${id}`)"
        >
          {{ say('sheet.toScrutiny') }}
        </HouseButton>
        <HouseButton
          v-if="dossier.headline === 'refused'"
          class="push"
          :href="`/api/applications/${id}/order`"
        >
          {{ say('sheet.openTheOrderOfRefusal') }}
        </HouseButton>
        <HouseButton
          v-if="dossier.card && !dossier.card.voidAt && session.may('cards.read', relations)"
          class="push"
          primary
          :href="`/api/applications/${id}/card`"
        >
          {{ say('sheet.openTheAdmitCard') }}
        </HouseButton>
      </template>
    </div>

    <LazyActDialog
      v-if="askingPermit && closedByDate"
      :standing="{ ...closedByDate, needsReason: true }"
      :subject="`${dossier.number} ${dossier.name}`"
      @act="allow"
      @close="askingPermit = false"
    />
    <LazySheetDeclarationDialog
      v-if="declaring"
      :id="id"
      v-model="declaring"
      :own="own"
      :busy="busy"
      @submit="submit"
    />
    <LazySheetConflictDialog
      v-if="conflict"
      :differences="conflict"
      @settle="sheet.settle"
    />
  </template>
</template>

<style scoped>
.sheet { flex: 1; display: flex; flex-direction: column; }
.proof { padding-top: 6px; }
.matters { padding-top: 20px !important; }
.matters p { padding-bottom: 4px; }
.gap-link {
  font: inherit; color: var(--attention); background: none; border: 0; text-decoration: underline; text-underline-offset: 3px;
  cursor: pointer; padding: 6px;
}
</style>
