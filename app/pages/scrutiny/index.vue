<script setup lang="ts">
import type { RosterPage, RosterRow } from '~~/shared/applications'
import { spellMinutes } from '~~/core/calendar/zone'

/** The queue of scrutiny, the longest wait first. */
useHead({ title: titled(say('scrutiny.scrutiny')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const now = useNow()
const rows = shallowRef<RosterRow[] | null>(null)
const waiting = computed(() => cycle.band?.points.find(p => p.headline === 'in scrutiny')?.count ?? 0)
const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))

const { failure } = useLoaded(async () => {
  rows.value = (await callApi<RosterPage>(cycle.path('roster'), { query: { headline: 'in scrutiny', sort: 'waiting', limit: 50 } })).rows
  const first = rows.value[0]
  if (route.query.begin === 'oldest' && first) await router.replace(`/scrutiny/${first.id}`)
})
</script>

<template>
  <div class="page">
    <ScrutinyAreas />
    <div class="page-head">
      <h1>{{ say('scrutiny.waitForScrutiny', { waiting }) }}</h1>
      <div class="actions">
        <ElButton
          v-if="rows?.[0] && session.may('scrutiny.decide')"
          type="primary"
          @click="router.push(`/scrutiny/${rows[0].id}`)"
        >
          {{ say('scrutiny.beginWithTheOldest') }}
        </ElButton>
      </div>
    </div>
    <HouseAlert
      v-if="failure"
      :text="failure"
      kind="refusal"
    />
    <p
      v-else-if="rows?.length === 0"
      class="soft"
    >
      {{ say('scrutiny.theQueueIsEmptyApplicationsCome') }}
      <NuxtLink to="/roster?headline=fee+due">{{ say('scrutiny.showThoseWhoseFeeIsDue') }}</NuxtLink>
    </p>
    <table
      v-else-if="rows"
      class="plain-table"
    >
      <thead><tr><th>{{ say('scrutiny.waits') }}</th><th>{{ say('scrutiny.number') }}</th><th>{{ say('scrutiny.name') }}</th><th>{{ say('scrutiny.category') }}</th><th>{{ say('scrutiny.posts') }}</th></tr></thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.id"
        >
          <td class="nowrap">
            {{ age(row.since) }}
          </td>
          <td><NuxtLink :to="`/scrutiny/${row.id}`">{{ row.number }}</NuxtLink></td>
          <td>{{ row.name }}</td><td>{{ spelling.category(row.category) }}</td><td>{{ row.posts.map(spelling.post).join(', ') }}</td>
        </tr>
      </tbody>
    </table>
    <p
      v-if="rows && waiting > rows.length"
      class="soft small"
    >
      {{ say('scrutiny.theFirst', { rows: rows.length }) }} <NuxtLink to="/roster?headline=in+scrutiny&sort=waiting">{{ say('scrutiny.allInTheRoster') }}</NuxtLink>
    </p>
  </div>
</template>
