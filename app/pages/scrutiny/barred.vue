<script setup lang="ts">
import type { BarredPage, BarredTaken } from '~~/shared/barred'

/** People who may not take part: applications that are likely theirs, to be judged, and the list itself. */
useHead({ title: titled(say('scrutiny.barred')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const route = useRoute()
const page = shallowRef<BarredPage | null>(null)
const taken = shallowRef<BarredTaken | null>(null)
const of = computed(() => typeof route.query.of === 'string' ? route.query.of : undefined)
const empty = { name: '', bornOn: '', identityNumber: '', reason: '', until: '' }
const entry = reactive({ ...empty })
const fields = [['name', say('scrutiny.barredName')], ['bornOn', say('scrutiny.barredBorn')], ['identityNumber',
  say('scrutiny.barredNumber')], ['until', say('scrutiny.barredUntil')], ['reason', say('scrutiny.barredWhy')]] as const
const isReady = computed(() =>
  entry.reason.trim().length >= 3 && (entry.identityNumber.trim() !== '' || (entry.name.trim() !== '' && entry.bornOn !== ''))
)
const lifting = ref<string | null>(null)
const why = ref('')
const { busy, refusal, send } = useSubmission()

async function load() {
  page.value = await callApi<BarredPage>(cycle.path('barred'), { query: { of: of.value } })
}
const add = () =>
  send(async () => {
    taken.value = await callApi<BarredTaken>('/api/barred', { method: 'POST', body: { ...entry } })
    Object.assign(entry, empty)
    await load()
  })
const bring = (file: File) =>
  send(async () => {
    taken.value = await callApi<BarredTaken>('/api/barred', { method: 'PUT', bytes: file })
    await load()
  })
const lift = (id: string) =>
  send(async () => {
    await callApi(`/api/barred/${id}`, { method: 'DELETE', body: { reason: why.value.trim() } })
    lifting.value = null
    why.value = ''
    await load()
  })
const { failure, reload } = useLoaded(load)
watch(of, () => void reload())
</script>

<template>
  <div class="page">
    <ScrutinyAreas />
    <div class="page-head">
      <h1>{{ say('scrutiny.barred') }}</h1>
      <div
        v-if="session.may('barred.write')"
        class="actions"
      >
        <HouseFileButton
          :title="say('scrutiny.bringABarredList')"
          :label="say('scrutiny.bringABarredList')"
          accept=".csv,.xlsx,.ods"
          :busy="busy"
          @choose="bring"
        />
      </div>
    </div>
    <p class="soft">
      {{ say('scrutiny.barredHelp') }}
    </p>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <p
      v-if="taken"
      class="note"
      :class="{ 'is-attention': taken.faults.length > 0 }"
      role="status"
    >
      {{ say('scrutiny.barredTaken', { added: taken.added, repeated: taken.repeated, faults: taken.faults.length }) }}
      <span
        v-for="fault in taken.faults"
        :key="fault.row"
        class="fault small"
      >{{ say('scrutiny.barredFault', fault) }}</span>
    </p>
    <template v-if="page">
      <template v-if="page.matches.length > 0">
        <h2 class="section-title">
          {{ say('scrutiny.barredMatches') }}
        </h2>
        <ScrutinyBarred
          v-for="match in page.matches"
          :key="match.id"
          :match="match"
          :may-judge="session.may('scrutiny.decide')"
          @judged="attempt(load)"
        />
      </template>
      <h2 class="section-title">
        {{ say('scrutiny.barredPeople') }}
      </h2>
      <form
        v-if="session.may('barred.write')"
        class="entry"
        @submit.prevent="add"
      >
        <label
          v-for="[field, title] in fields"
          :key="field"
          :class="field"
          :for="`barred-${field}`"
        >{{ title }} <SheetDateField
          v-if="field === 'bornOn' || field === 'until'"
          :key="`${field}-${page.people.length}`"
          :input-id="`barred-${field}`"
          :name="field"
          :answer="entry[field]"
          :flawed="false"
          @change="entry[field] = $event"
        /><input
          v-else
          :id="`barred-${field}`"
          v-model="entry[field]"
          class="field"
          maxlength="1000"
        ></label>
        <ElButton
          native-type="submit"
          :loading="busy"
          :disabled="!isReady"
        >
          {{ say('scrutiny.bar') }}
        </ElButton>
      </form>
      <HouseTable
        :columns="[
          { key: 'name', title: say('scrutiny.barredName'), text: person => person.name || '–' },
          { key: 'born', title: say('scrutiny.barredBorn'), text: person => person.bornOn || '–' },
          { key: 'number', title: say('scrutiny.barredNumber'), text: person => person.identityNumber || '–' },
          { key: 'why', title: say('scrutiny.barredWhy'), text: person => person.reason },
          { key: 'until', title: say('scrutiny.barredUntil'), text: person => person.until ?? '–' },
          { key: 'by', title: say('scrutiny.barredBy'), look: 'small', text: person => `${person.by}, ${spelling.instant(person.at)}` },
          { key: 'lift', title: say('scrutiny.lift'), isQuiet: true },
        ]"
        :rows="page.people"
        :row-key="person => person.id"
        :row-look="person => person.lifted ? 'soft' : ''"
      >
        <template #lift="{ row: person }">
          <span
            v-if="person.lifted"
            class="small"
          >{{ say('scrutiny.lifted', { by: person.lifted.by, reason: person.lifted.reason }) }}</span>
          <form
            v-else-if="lifting === person.id"
            class="lift"
            @submit.prevent="lift(person.id)"
          >
            <input
              v-model="why"
              class="field"
              maxlength="1000"
              :placeholder="say('scrutiny.liftWhy')"
              :aria-label="say('scrutiny.liftWhy')"
            >
            <ElButton
              native-type="submit"
              size="small"
              :loading="busy"
              :disabled="why.trim().length < 3"
            >
              {{ say('scrutiny.lift') }}
            </ElButton>
          </form>
          <button
            v-else-if="session.may('barred.write')"
            type="button"
            class="press small"
            @click="lifting = person.id"
          >
            {{ say('scrutiny.lift') }}
          </button>
        </template>
      </HouseTable>
      <p
        v-if="page.people.length === 0"
        class="soft"
      >
        {{ say('scrutiny.nobodyBarred') }}
      </p>
    </template>
  </div>
</template>

<style scoped>
.entry { display: flex; flex-wrap: wrap; gap: 8px 12px; align-items: end; margin: 10px 0; }
.entry label { display: grid; gap: 2px; font-size: 14px; color: var(--ink-soft); }
.entry .bornOn, .entry .until { width: 184px; }
.entry .reason { flex: 1; min-width: 260px; }
.fault { display: block; }
.lift { display: flex; gap: 6px; }
</style>
