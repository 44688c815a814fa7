<script setup lang="ts">
import { withoutCentres } from '~~/core/notice/centres'
import { capacityOfCity } from '~~/core/seating/seats'

const { orderWords } = useWords().fees
const { severalWaiversWords } = useWords().noticeParts

/** The notice in force, read as a sheet. */
useHead({ title: titled(say('notice.notice')) })
const cycle = useCycleStore()
const notice = computed(() => cycle.notice)
const session = useSessionStore()
const router = useRouter()
/** Lays the notice in force down as a draft, to be changed and proposed. */
const amend = () =>
  attempt(async () => {
    if (!notice.value) return
    const id = crypto.randomUUID()
    await callApi(`/api/drafts/${id}`, { method: 'PUT', body: { document: withoutCentres(notice.value), revision: 0 } })
    await router.push(`/notice/draft/${id}`)
  })
/** The notice as a file that can be changed and proposed again. */
function download() {
  if (!notice.value) return
  saveFile(`${notice.value.code}-version-${cycle.version}.json`, JSON.stringify(notice.value, null, 2), 'application/json')
}
</script>

<template>
  <NoticeFirst v-if="!notice" />
  <div v-else>
    <div class="sheet-row head">
      <div class="body">
        <h1>{{ notice.title }}</h1>
        <p class="soft">
          {{ say('notice.versionInForce', { name: notice.body.name, code: notice.code, version: cycle.version }) }} <button
            class="press"
            @click="download"
          >
            {{ say('notice.downloadJson') }}
          </button> <button
            v-if="session.may('notice.amend')"
            class="press"
            @click="amend"
          >
            {{ say('notice.amendOnTheScreen') }}
          </button>
        </p>
      </div>
      <div class="beside" />
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.keyDates') }}
        </h2>
        <NoticeDates :notice="notice" />
        <p
          v-if="session.may('notice.amend')"
          class="move"
        >
          <NoticeMoveDates :notice="notice" />
        </p>
      </div>
      <div class="beside">
        <p class="soft small window">
          {{ say('notice.periodsAreHalfOpenWhatArrives', { answerDays: notice.outcomes.answerDays, hasUnanswered: String(notice.outcomes.unanswered === 'as it stood') }) }}
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <NoticeVersions
          :notice="notice"
          :version="cycle.version"
        />
      </div>
      <div class="beside">
        <NoticeHandouts
          :key="notice.code"
          :code="notice.code"
        />
      </div>
    </div>
    <NoticeReviews />
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.posts') }}
        </h2>
        <div
          v-for="post in notice.posts"
          :key="post.id"
        >
          <h3>{{ post.title }}</h3>
          <p
            v-for="clause in post.clauses"
            :key="clause.code"
            class="clause"
          >
            <span class="soft">{{ clause.clause }}</span><span>{{ clause.text }}</span>
          </p>
        </div>
      </div>
      <div class="beside">
        <p class="soft small">
          {{ say('notice.percentagesAreComparedUnrounded', { percentageCompared: notice.percentageCompared, hasLeapDayBirthday: String(notice.leapDayBirthday === 'mar-01') }) }}
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.fees') }}
        </h2>
        <NoticeFees :notice="notice" />
      </div>
      <div class="beside">
        <p class="soft small">
          {{ orderWords[notice.fees.order] }}
        </p>
        <p
          v-if="notice.fees.waivers.length > 1"
          class="soft small"
        >
          {{ severalWaiversWords[notice.fees.severalWaivers] }}
        </p>
      </div>
    </div>
    <NoticeFiles :notice="notice" />
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.citiesAndSeats') }}
        </h2>
        <HouseTable
          :columns="[
            { key: 'city', title: say('notice.city'), text: city => city.title },
            { key: 'island', title: say('notice.island'), text: city => city.island },
            { key: 'venues', title: say('notice.venues'), text: city => city.venues.map(v => v.title).join(', ') },
            { key: 'seats', title: say('notice.seats'), kind: 'number', text: city => capacityOfCity(city, notice?.sessions ?? []).capacity },
            {
              key: 'stepFree',
              title: say('notice.stepFree'),
              kind: 'number',
              text: city => capacityOfCity(city, notice?.sessions ?? []).accessibleCapacity,
            },
          ]"
          :rows="notice.cities"
          :row-key="city => city.id"
        />
      </div>
      <div class="beside">
        <p class="soft small">
          {{ say('notice.seatsOverBothSessions') }}
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.clause { display: grid; grid-template-columns: 40px minmax(0, 1fr); padding: 3px 0; }
.window { padding: 24px 0 28px; }
.move { padding-top: 12px; }
h3 { margin-top: 10px; }
.body { padding-bottom: 16px !important; }
</style>
