<script setup lang="ts">
import { spellInstant, spellUntil } from '~~/core/calendar/zone'
import type { Desk } from '~~/shared/applications'

/** Beside the desk: what was done outside the dates, what people were told and have not read, and the key dates. */
defineProps<{ desk: Desk | null }>()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const now = useNow()
const { value: spellTag } = useTags()
const dates = computed(() => {
  const { keyDates, body } = cycle.notice ?? {}
  if (!keyDates || !body) return []
  return keyDateLines(keyDates).map(([title, at]) => ({ title, at: spellInstant(at, body.zone), left: spellUntil(at, now.value) }))
})
</script>

<template>
  <template v-if="desk && desk.outsideDates.count > 0">
    <h2>{{ say('desk.outsideTheDates') }}</h2>
    <p class="outside">
      {{ say('desk.actsOutsideTheDates', { count: desk.outsideDates.count, latest: spelling.instant(desk.outsideDates.latest ?? '') }) }} <NuxtLink
        v-if="session.may('records.read')"
        to="/records"
      >{{ say('desk.records') }}</NuxtLink>
    </p>
  </template>
  <template v-if="desk && desk.unread.length > 0">
    <h2>{{ say('desk.toldNotRead') }}</h2>
    <p class="soft small">
      {{ say('desk.toldNotReadHelp') }}
    </p>
    <ul class="unread">
      <li
        v-for="one in desk.unread"
        :key="one.of"
      >
        <NuxtLink :to="`/roster?is=unread:${one.of}`">{{ spellTag(`unread:${one.of}`) }}</NuxtLink> <b>{{ countText(one.count) }}</b>
      </li>
    </ul>
  </template>
  <h2 v-if="dates.length > 0">{{ say('desk.keyDates') }}</h2>
  <dl>
    <template
      v-for="date in dates"
      :key="date.title"
    >
      <dt>{{ date.title }} <span
        v-if="date.left"
        class="soft"
      >{{ say('desk.in', { left: date.left }) }}</span> <span
        v-else
        class="soft"
      >{{ say('desk.past') }}</span></dt>
      <dd>{{ date.at }}</dd>
    </template>
  </dl>
  <p v-if="cycle.code && session.may('work.read')">
    <NuxtLink to="/work">{{ say('desk.workInTheBackground') }}</NuxtLink>
  </p>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 6px 0 20px; }
li { display: flex; justify-content: space-between; gap: 12px; padding: 5px 0; border-bottom: 1px solid var(--line); }
.outside { margin: 8px 0 20px; }
dl { margin: 12px 0 0; }
dt { font-weight: 600; }
dt .soft { font-weight: 400; }
dd { margin: 0 0 12px; }
</style>
