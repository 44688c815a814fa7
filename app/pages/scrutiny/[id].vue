<script setup lang="ts">
import { claimLock } from '~~/core/eligibility/claims'
import { spellMinutes } from '~~/core/calendar/zone'
import type { Dossier } from '~~/shared/applications'
import type { ItemReason } from '~~/shared/scrutiny'
import type { Permit } from '~~/app/composables/act'

const { editWords } = useWords().pictures

/** The dossier of one case: pictures, facts and, beside them, all that was measured and computed. */
const route = useRoute()
const router = useRouter()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { feeStateWords } = useWords().states
const now = useNow()
const dossier = shallowRef<Dossier | null>(null)
/** The finding whose place is drawn on its picture, and whether the face's own lines are. */
const pointed = ref<string | null>(null)
const marking = ref(false)
const asking = ref<'accept' | 'return' | 'refuse' | null>(null)
const busy = ref(false)
const id = String(route.params.id)
useHead({ title: () => titled(dossier.value?.name ?? say('scrutiny.dossier')) })

const { slots, telling, chosen, failed, sections, items, papers, toRead } = useCaseParts(dossier)
const sideBySide = ref(false)
const acceptable = computed(() => canAct(dossier.value, 'accept'))
/** Something can be decided here, if not an acceptance. */
const open = computed(() =>
  (acceptable.value || canAct(dossier.value, 'return')) && !(dossier.value?.hand?.by && !dossier.value.hand.isOwn)
  && dossier.value?.hand?.lane !== 'second look'
)
const shut = computed(() => whyNot(standingOf(dossier.value, 'accept')))
const waiting = computed(() => cycle.band?.points.find(p => p.headline === 'in scrutiny')?.count ?? 0)
const waited = computed(() =>
  dossier.value ? spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(dossier.value.since).getTime()) / 60_000))) : ''
)
const doubtful = (question: string) => dossier.value?.doubts.some(d => d.about === question)

const fallen = (question: string) =>
  JSON.stringify(dossier.value?.counted[question] ?? '') !== JSON.stringify(dossier.value?.answers[question] ?? '')
const changedFrom = (question: string) => {
  const change = dossier.value?.changed.find(c => c.question === question)
  return change ? spelling.answer(question, change.before) : null
}
const mayRule = computed(() => session.may('scrutiny.decide') && dossier.value !== null && claimLock(dossier.value.tracks) === null)
async function ruleOn(claim: string, ruling: 'false' | 'stands', reason: string) {
  busy.value = true
  await attempt(async () => {
    dossier.value = await callApi<Dossier>(`/api/applications/${id}/claims/${encodeURIComponent(claim)}/ruling`, {
      method: 'POST',
      body: { ruling, reason },
    })
    await cycle.refreshBand()
  })
  busy.value = false
}

const queue = useQueue()
// What was read ahead is drawn with the page's first frame.
const ahead = queue.readBefore(id)
if (ahead) dossier.value = ahead
async function goOn() {
  const following = await queue.next()
  await router.push(following ? `/scrutiny/${following}` : '/scrutiny')
}
/** Lays the case back for others and goes on. */
async function next() {
  await attempt(async () => {
    if (dossier.value?.hand?.isOwn) await queue.pass(id)
    await goOn()
  })
}
const { busy: acting, perform } = useAct(id, (got) => {
  dossier.value = got
})
async function decide(decision: 'accept' | 'return' | 'refuse', reasons: ItemReason[], permit: Permit = {}) {
  const number = dossier.value?.number
  // The next case stands at once; should the office refuse the decision after all, it says so over whatever is looked at by then.
  if (queue.isReady() && !permit.outsideDates) {
    asking.value = null
    const sent = perform(decision, { reasons, ...permit })
    await attempt(goOn)
    if (!await sent) {
      ElNotification({
        title: say('scrutiny.notDecided', { number: number ?? '' }),
        message: say('scrutiny.notDecidedHelp'),
        type: 'error',
        duration: 0,
        onClick: () => {
          void router.push(`/scrutiny/${id}`)
        },
      })
    } else tell(say('scrutiny.settledAs', { number, decision }), 'success')
    void cycle.refreshBand().catch(() => undefined)
    return
  }
  if (!await perform(decision, { reasons, ...permit })) return
  asking.value = null
  tell(say('scrutiny.settledAs', { number: dossier.value?.number, decision }), 'success')
  void cycle.refreshBand().catch(() => undefined)
  await attempt(goOn)
}
async function confirmed() {
  void cycle.refreshBand().catch(() => undefined)
  await attempt(goOn)
}
function accept() {
  if (failed.value.length > 0 || standingOf(dossier.value, 'accept')?.outsideDates) asking.value = 'accept'
  else decide('accept', [])
}
function onKey(event: KeyboardEvent) {
  if (asking.value || sideBySide.value) return
  const key = event.key.toLowerCase()
  if (key === 'j') next()
  if (key === 'm') marking.value = !marking.value
  if (key === 's') sideBySide.value = true
  if (!open.value) return
  if (key === 'a' && acceptable.value) accept()
  if (key === 'r') asking.value = 'return'
  if (key === 'x') asking.value = 'refuse'
}
useKeys(onKey)
const { failure } = useLoaded(async () => {
  await read(!ahead)
})
/** Takes the case in hand, unless somebody else has it or it does not wait; then the following one is read ahead. */
async function read(anew: boolean) {
  const taken = session.may('scrutiny.decide')
    && await callApi(`/api/applications/${id}/hand`, { method: 'PUT' }).then(() => true, () => false)
  if (anew || !dossier.value) {
    const got = await callApi<Dossier>(`/api/applications/${id}`)
    if (got.cycle !== cycle.code) await cycle.choose(got.cycle)
    dossier.value = got
  }
  if (taken && dossier.value.hand?.isOwn) void queue.readAhead(id)
}
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/scrutiny">{{ say('scrutiny.toTheQueue') }}</NuxtLink>
  </p>
  <template v-else-if="dossier">
    <div class="sheet-row grow">
      <div class="body">
        <h1>{{ dossier.name }}</h1>
        <p class="soft">
          <NuxtLink :to="`/intake/${id}`">{{ dossier.number }}</NuxtLink> · {{ chosen.map(spelling.post).join(' · ') }} · <HouseHeadlineMark :headline="dossier.headline" />
        </p>
        <ScrutinyHand
          :dossier="dossier"
          @confirmed="confirmed"
          @sent-back="attempt(() => read(true))"
        />
        <div class="dossier">
          <div class="pictures">
            <button
              type="button"
              class="press small marks"
              :aria-pressed="marking"
              @click="marking = !marking"
            >
              {{ marking ? say('scrutiny.hideWhatWasMeasured') : say('scrutiny.showWhatWasMeasured') }} <kbd>M</kbd>
            </button>
            <button
              type="button"
              class="press small marks"
              @click="sideBySide = true"
            >
              {{ say('scrutiny.largeSideBySide') }} <kbd>S</kbd>
            </button>
            <figure
              v-for="{ id: slot, as, title, file } in slots"
              :key="slot"
            >
              <template v-if="file?.measured">
                <DocumentPages
                  v-if="as === 'document'"
                  :document="file"
                  :title="title"
                />
                <PictureMarked
                  v-else
                  :src="`/api/images/${file.id}`"
                  :alt="title"
                  :marks="file.marks"
                  :pointed="pointed"
                  :all="marking"
                />
              </template>
              <div
                v-else
                class="absent refusal"
              >
                {{ file ? say('scrutiny.keptBeingMeasured') : dossier.seesFiles ? say('scrutiny.none') : say('scrutiny.notShownToYourRole') }}
              </div>
              <figcaption class="soft small">
                <span>{{ title }}{{ (file?.version ?? 1) > 1 ? say('scrutiny.versionOfFile', { version: file?.version }) : '' }}</span>
                <span v-if="file">{{ say('scrutiny.kb', { bytes: (file.bytes / 1024).toFixed(0) }) }} <template v-if="as === 'image'">· {{ file.width }}×{{ file.height }}</template> <template v-else-if="file.pages.length > 1">{{ say('scrutiny.pages', { pages: file.pages.length }) }}</template></span>
              </figcaption>
            </figure>
          </div>
          <div>
            <ScrutinyReadings
              :dossier="dossier"
              :papers="papers"
              :questions="toRead"
              :may="session.may('scrutiny.decide')"
              @changed="dossier = { ...dossier, readings: $event }"
            />
            <section
              v-for="section in sections"
              :key="section.id"
            >
              <h2 class="section-title">
                {{ section.title }}
              </h2>
              <dl>
                <template
                  v-for="question in section.questions"
                  :key="question.id"
                >
                  <dt>{{ question.label }}</dt>
                  <dd>
                    <span :class="{ doubt: doubtful(question.id), fallen: fallen(question.id) }">
                      {{ spelling.answer(question.id, dossier.answers[question.id]) }}
                    </span>
                    <span
                      v-if="fallen(question.id)"
                      class="refusal small"
                    > {{ say('scrutiny.countsAsClaimFoundFalse', { counted: spelling.answer(question.id, dossier.counted[question.id]) }) }}</span>
                    <span
                      v-if="changedFrom(question.id) !== null"
                      class="attention small"
                    > {{ say('scrutiny.wasWhenLastDecided', { id: changedFrom(question.id) }) }}</span>
                  </dd>
                </template>
              </dl>
            </section>
            <section>
              <h2 class="section-title">
                {{ say('scrutiny.fee') }}
              </h2>
              <dl>
                <dt>{{ say('scrutiny.assessed') }}</dt><dd>{{ dossier.assessment ? spelling.amount(dossier.assessment.total) : '–' }} · {{ feeStateWords[dossier.tracks.fee] }}</dd>
              </dl>
            </section>
          </div>
        </div>
      </div>
      <div class="beside">
        <template
          v-for="{ id: slot, title, file } in slots"
          :key="slot"
        >
          <h3>{{ title }}</h3>
          <HouseFindingList
            v-model:pointed="pointed"
            :findings="file?.findings ?? []"
            :places="file?.marks.map(mark => mark.code)"
          />
          <p
            v-if="file && file.edits.length > 0"
            class="soft small"
          >
            {{ say('scrutiny.changedBeforeItWasSent', { edits: file.edits.map(editWords).join('; ') }) }}
          </p>
        </template>
        <ScrutinyLookalikes :application-id="id" />
        <template v-if="dossier.doubts.length > 0">
          <h3>{{ say('scrutiny.person') }}</h3>
          <HouseFindingNote
            v-for="finding in dossier.doubts"
            :key="finding.code"
            :finding="finding"
          />
        </template>
        <h3>{{ say('scrutiny.eligibility') }}</h3>
        <SheetPostVerdicts
          :verdicts="dossier.verdicts"
          :chosen="chosen"
          :answers="dossier.counted"
        />
        <template v-if="dossier.claims.length > 0">
          <h3>{{ say('scrutiny.claims') }}</h3>
          <ScrutinyClaimList
            :claims="dossier.claims"
            :rulings="dossier.rulings"
            :may-rule="mayRule"
            :busy="busy"
            @rule="ruleOn"
          />
        </template>
        <template v-if="dossier.requests.length > 0">
          <h3>{{ say('scrutiny.requests') }}</h3>
          <ScrutinyRequests
            :dossier="dossier"
            @changed="dossier = $event"
          />
        </template>
        <ScrutinyEndorsements
          v-if="Object.keys(dossier.endorsed).length > 0"
          :key="JSON.stringify(dossier.endorsed)"
          :dossier="dossier"
        />
        <ScrutinyReferrals
          :dossier="dossier"
          @changed="dossier = $event"
        />
        <ActMenu
          :dossier="dossier"
          :items="items"
          @changed="dossier = $event; cycle.refreshBand()"
          @gone="router.push('/scrutiny')"
        />
        <ScrutinyDecided :decisions="dossier.decisions" />
      </div>
    </div>
    <div class="action-bar">
      <template v-if="open">
        <ElButton
          v-if="acceptable"
          :type="failed.length === 0 ? 'primary' : 'default'"
          :loading="acting"
          @click="accept"
        >
          {{ say('scrutiny.accept') }} <kbd>A</kbd>
        </ElButton>
        <ElButton
          :type="failed.length > 0 ? 'primary' : 'default'"
          @click="asking = 'return'"
        >
          {{ failed.length > 0 ? say('scrutiny.returnWithReasonOther', { failed: failed.length }) : say('scrutiny.return') }} <kbd>R</kbd>
        </ElButton>
        <ElButton @click="asking = 'refuse'">
          {{ say('scrutiny.refuse') }} <kbd>X</kbd>
        </ElButton>
      </template>
      <span
        v-if="!open || !acceptable"
        class="soft"
      >{{ shut }} <a
        v-if="dossier.headline === 'refused'"
        :href="`/api/applications/${id}/order`"
        target="_blank"
      >{{ say('scrutiny.orderOfRefusalPdf') }}</a></span>
      <span class="push soft">{{ say('scrutiny.inTheQueue', { waiting }) }} <template v-if="open">{{ say('scrutiny.thisOneWaits', { waited }) }}</template></span>
      <ElButton @click="next">
        {{ say('scrutiny.next') }} <kbd>J</kbd>
      </ElButton>
    </div>
    <ScrutinySideBySide
      v-if="sideBySide"
      :dossier="dossier"
      :slots="telling"
      @close="sideBySide = false"
    />
    <ScrutinyDecisionDialog
      v-if="asking"
      :decision="asking"
      :dossier="dossier"
      :failed="failed"
      :busy="acting"
      @close="asking = null"
      @decide="(reasons, permit) => asking && decide(asking, reasons, permit)"
    />
  </template>
</template>

<style scoped>
.grow { flex: 1; }
.body { padding-top: 18px !important; padding-bottom: 24px !important; }
.beside { padding-top: 16px !important; padding-bottom: 24px !important; }
.dossier { display: grid; grid-template-columns: 236px minmax(0, 1fr); gap: 24px; margin-top: 14px; }
figure { margin: 0 0 12px; }
.pictures :deep(img) { width: 236px; }
.marks { display: block; margin-bottom: 6px; }
.absent { border: 1px dashed var(--refusal); padding: 32px; text-align: center; }
figcaption { display: flex; justify-content: space-between; gap: 8px; padding-top: 3px; }
section { margin-bottom: 16px; }
dl { display: grid; grid-template-columns: minmax(120px, 190px) minmax(0, 1fr); gap: 3px 12px; margin: 6px 0 0; line-height: 1.3; }
dt { color: var(--ink-soft); }
dd { margin: 0; overflow-wrap: anywhere; }
figcaption { white-space: nowrap; }
.fallen { text-decoration: line-through; text-decoration-color: var(--refusal); }
.doubt { border-bottom: 2px solid var(--attention); }
h3 { margin: 12px 0 2px; }
h3:first-child { margin-top: 0; }
@media (max-width: 900px) { .dossier { grid-template-columns: minmax(0, 1fr); } .pictures { max-width: 300px; } }
</style>
