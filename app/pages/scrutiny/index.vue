<script setup lang="ts">
import type { RosterPage, RosterRow } from '~~/shared/applications'
import { spellMinutes } from '~~/core/calendar/zone'

/** The queue of scrutiny, the longest wait first. */
useHead({ title: 'Scrutiny · Lucid Roster' })
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
      <h1>{{ waiting }} wait for scrutiny</h1>
      <div class="actions">
        <ElButton
          v-if="rows?.[0] && session.may('scrutiny.decide')"
          type="primary"
          @click="router.push(`/scrutiny/${rows[0].id}`)"
        >
          Begin with the oldest
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
      The queue is empty. Applications come here when they are submitted and their fee is settled.
      <NuxtLink to="/roster?headline=fee+due">Show those whose fee is due</NuxtLink>
    </p>
    <table
      v-else-if="rows"
      class="plain-table"
    >
      <thead><tr><th>waits</th><th>number</th><th>name</th><th>category</th><th>posts</th></tr></thead>
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
      The first {{ rows.length }}; <NuxtLink to="/roster?headline=in+scrutiny&sort=waiting">all in the roster</NuxtLink>
    </p>
  </div>
</template>
