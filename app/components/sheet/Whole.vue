<script setup lang="ts">
import type { Notice, Question } from '~~/core/notice/schema'
import { listAnswer } from '~~/core/application/answers'
import { ruleOfItem, rulesFor } from '~~/core/application/corrections'
import type { TextRead } from '~~/shared/acts'

const { matterWords, ownerWords } = useWords().work

/**
 * The sheet: one application as one continuous form, with the margin beside it. Officers and candidates see the same; what may be done
 * differs.
 */
const props = defineProps<{ id: string, /** The candidate's own. */ own?: boolean }>()
const router = useRouter()
const cycle = useCycleStore()
const spelling = useSpelling()
const { id } = props
const list = props.own ? '/own' : '/roster'
const sheet = useSheet(id)
const { dossier, answers, asked, findings, decided, verdicts, fee, conflict, merged } = sheet
provide('permit', sheet.permit)
provide('own', props.own)
provide('postal code', computed(() => String(answers.value.postalCode ?? '')))
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
const { claimsAt, requestsAt, gaps, feeFirst, slots, groups, hasEndorsements, missing, isSlotOpen } = useWanted(sheet)
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
/** In the order in which they are asked: parts of the form, the files, and what comes after those. */
const parts = computed<
  ({ section: Notice['sections'][number], group?: undefined } | { section?: undefined, group: typeof groups.value[number] })[]
>(() => {
  const sections = notice.value?.sections ?? []
  const asParts = (afterFiles: boolean) => sections.filter(one => (one.afterFiles ?? false) === afterFiles).map(section => ({ section }))
  return [...asParts(false), ...groups.value.map(group => ({ group })), ...asParts(true)]
})
/** One row for each question, so that its findings stand beside it; the long list of verdicts has room beside the rest of its section. */
function rowsOf(questions: Question[]): Question[][] {
  const live = questions.flatMap(q => asked.value.get(q.id) ?? [])
  const posts = live.findIndex(q => q.kind === 'posts')
  return posts < 0 ? live.map(q => [q]) : [...live.slice(0, posts).map(q => [q]), live.slice(posts)]
}
/** An earlier answer that may be taken over, as long as there is none here. */
function earlier(question: Question): { label: string, answer: string } | null {
  if (!('sameAs' in question) || !question.sameAs || answers.value[question.id] || !sheet.isOpen(question.id)) return null
  if (spelling.question(question.sameAs)?.kind !== question.kind) return null
  const answer = answers.value[question.sameAs]
  return typeof answer === 'string' && answer ? { label: spelling.question(question.sameAs)?.label ?? '', answer } : null
}
/** What of a part nobody can change once the form is handed in. */
function frozenIn(questions: Question[]): string {
  if (!notice.value || !sheet.writable.value) return ''
  const rules = rulesFor(notice.value, props.own ? 'candidate' : 'office')
  const [open, frozen]: [Question[], Question[]] = [[], []]
  for (const q of questions) if (asked.value.has(q.id)) (ruleOfItem(notice.value, rules, q.id) ? open : frozen).push(q)
  if (frozen.length === 0) return ''
  const kind = open.length === 0 ? 'all' : open.length < frozen.length ? 'most' : 'some'
  return say('sheet.frozenOnceHandedIn', { kind, items: (kind === 'most' ? open : frozen).map(q => q.label).join(', ') })
}
/** The address names the part that is worked on, so that Back and a reload lead there. */
const stepInto = (part: string) => history.replaceState(history.state, '', `#part-${part}`)
/** Of somebody who sits once; several papers stand below with their seats. */
const sessionTitle = computed(() => {
  const [only, ...more] = dossier.value?.placement?.sittings ?? []
  return more.length > 0 ? '' : notice.value?.sessions.find(s => s.id === only?.session)?.title.toLowerCase() ?? ''
})
useHead({ title: () => titled(dossier.value?.name || dossier.value?.number || say('sheet.application')) })

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
  const part = location.hash.slice(1)
  if (part) nextTick(() => document.getElementById(part)?.scrollIntoView())
})
// Dialogs and the checks of files come when the sheet stands, so that a press does not wait for them, nor ends in nothing without a line.
onMounted(() => setTimeout(() => void Promise.all([import('../act/Dialog.vue'), import('./TableField.vue')]).catch(() => undefined), 1500))
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
          <LazySheetStanding
            v-if="own && dossier.submittedAt"
            :dossier="dossier"
            :notice="notice"
          />
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
        v-for="{ section, group } in parts"
        :key="section?.id ?? group?.title"
      >
        <div class="sheet-row head">
          <div class="body">
            <h2
              :id="section && `part-${section.id}`"
              class="section-title"
            >
              {{ section ? section.title : group.title }}
            </h2>
            <p
              v-if="section ? frozenIn(section.questions) : group.words"
              class="soft small"
            >
              {{ section ? frozenIn(section.questions) : group.words }}
            </p>
          </div>
          <div class="beside" />
        </div>
        <template v-if="section">
          <div
            v-for="row in rowsOf(section.questions)"
            :key="row[0]?.id"
            class="sheet-row"
            @focusin="stepInto(section.id)"
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
                <p v-if="earlier(question)">
                  <button
                    type="button"
                    class="press small"
                    @click="sheet.change(question.id, earlier(question)?.answer ?? '')"
                  >
                    {{ say('sheet.sameAs', { other: earlier(question)?.label ?? '' }) }}
                  </button>
                </p>
                <LazySheetClaim
                  v-for="claim in claimsAt(question.id)"
                  :key="claim.id"
                  class="proof"
                  :claim="claim"
                  :notice="notice"
                  :answers="decided"
                />
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
        <SheetFiles
          v-else
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

    <SheetBar
      :sheet="sheet"
      :own="own"
      :fee-first="feeFirst"
      :gaps="gaps"
      :missing="missing"
      @eager="eager = true"
      @declare="declaring = true"
    />

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
      :notice="notice"
      :answers="decided"
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
</style>
