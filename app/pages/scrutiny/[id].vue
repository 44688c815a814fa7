<script setup lang="ts">
import { spellMinutes } from '~~/core/calendar/zone'
import type { Dossier } from '~~/shared/applications'
import type { ItemReason } from '~~/shared/scrutiny'
import type { Permit } from '~~/app/composables/act'

/** The dossier of one case: pictures, facts and, beside them, all that was measured and computed. */
const route = useRoute()
const router = useRouter()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const now = useNow()
const dossier = shallowRef<Dossier | null>(null)
/** The finding whose place is drawn on its picture, and whether the face's own lines are. */
const pointed = ref<string | null>(null)
const marking = ref(false)
const asking = ref<'accept' | 'return' | 'refuse' | null>(null)
const { busy, during } = useBusy()
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
const ruleOn = (claim: string, ruling: 'false' | 'stands', reason: string) =>
  during(async () => {
    dossier.value = await callApi<Dossier>(`/api/applications/${id}/claims/${encodeURIComponent(claim)}/ruling`, {
      method: 'POST',
      body: { ruling, reason },
    })
    await cycle.refreshBand()
  })

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
          <ScrutinyPictures
            v-model:marking="marking"
            :slots="slots"
            :pointed="pointed"
            :sees-files="dossier.seesFiles"
            @side-by-side="sideBySide = true"
          />
          <div>
            <ScrutinyReadings
              :dossier="dossier"
              :papers="papers"
              :questions="toRead"
              :may="session.may('scrutiny.decide')"
              @changed="dossier = { ...dossier, readings: $event }"
            />
            <ScrutinyAnswers
              :dossier="dossier"
              :sections="sections"
            />
          </div>
        </div>
      </div>
      <div class="beside">
        <ScrutinyFound
          v-model:pointed="pointed"
          :dossier="dossier"
          :slots="slots"
          :chosen="chosen"
          :busy="busy"
          @rule="ruleOn"
          @changed="dossier = $event"
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
@media (max-width: 900px) { .dossier { grid-template-columns: minmax(0, 1fr); } }
</style>
