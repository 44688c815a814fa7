<script setup lang="ts">
import type { RunDetail, RunPeople, RunPerson } from '~~/shared/centres'

const { placeWords } = useWords().allocation

/**
 * The people of a run: of one city, of one place on the list, off their lists, moved; found by number or name. What is asked stands in the
 * address.
 */
const props = defineProps<{ run: RunDetail }>()
const route = useRoute()
const router = useRouter()
const spelling = useSpelling()
const people = shallowRef<RunPerson[]>([])
const next = ref<string | null>(null)
const loaded = ref(false)
const search = ref(String(route.query.search ?? ''))
let turn = 0
const text = (name: string) => typeof route.query[name] === 'string' ? route.query[name] : undefined
const asked = computed(() => ({ city: text('city'), choice: text('choice'), kind: text('kind'), search: text('search') }))
const shown = computed(() => Object.values(asked.value).some(Boolean) ? asked.value : { ...asked.value, kind: 'off list' })
const ask = (change: Record<string, string | undefined>) => router.replace({ query: change })
let typing: ReturnType<typeof setTimeout> | undefined
watch(search, (value) => {
  clearTimeout(typing)
  typing = setTimeout(() => ask({ search: value.trim() || undefined }), 250)
})

async function load(after: string | null) {
  const mine = ++turn
  await attempt(async () => {
    const page = await callApi<RunPeople>(`/api/runs/${props.run.id}/people`, {
      query: { ...shown.value, after: after ?? undefined, limit: 100 },
    })
    if (mine !== turn) return
    people.value = after ? [...people.value, ...page.people] : page.people
    next.value = page.next
    loaded.value = true
  })
}
watch(shown, () => {
  // Rows of one question never stand under the title of another.
  people.value = []
  loaded.value = false
  return load(null)
}, { immediate: true })

const title = computed(() => {
  const { city, choice, kind, search: words } = shown.value
  if (words) return say('centres.foundFor', { words })
  if (city) return say('centres.peopleIn', { city: spelling.city(city) })
  if (choice) return say('centres.peopleWithChoice', { choice })
  return kind === 'moved'
    ? say('centres.peopleWhoWouldBeMoved')
    : kind === 'no seat'
    ? say('centres.peopleWithoutASeat')
    : kind === 'locked'
    ? say('centres.peoplePlacedByHand')
    : say('centres.peopleOffTheirList')
})
const kinds = computed(() => [
  { kind: 'off list', title: say('centres.offTheirList') },
  ...(props.run.summary.unseated > 0 ? [{ kind: 'no seat', title: say('centres.withoutASeat') }] : []),
  ...(props.run.moves > 0 ? [{ kind: 'moved', title: say('centres.movedKind') }] : []),
  { kind: 'locked', title: say('centres.placedByHand') },
])
</script>

<template>
  <section>
    <h2 class="section-title head">
      {{ title }}
      <span class="kinds">
        <button
          v-for="one in kinds"
          :key="one.kind"
          class="press"
          :aria-pressed="shown.kind === one.kind"
          @click="ask({ kind: one.kind })"
        >{{ one.title }}</button>
        <ElInput
          v-model="search"
          :placeholder="say('centres.numberOrName')"
          :aria-label="say('centres.findByNumberOrName')"
          clearable
        />
      </span>
    </h2>
    <p
      v-if="loaded && people.length === 0"
      class="soft"
    >
      {{ shown.kind === 'off list' ? say('centres.nobodyEveryoneHasACityThey') : say('centres.nobody') }}
    </p>
    <HouseTable
      v-else
      :columns="[
        { key: 'number', title: say('centres.number'), kind: 'line' },
        { key: 'name', title: say('centres.name'), text: person => person.name },
        { key: 'place', title: say('centres.placedInColumn') },
        { key: 'which', title: say('centres.whichChoice'), kind: 'line', text: placeWords },
        { key: 'named', title: say('centres.choicesNamed'), look: 'soft', text: person => person.choices.map(spelling.city).join(' › ') },
        { key: 'why', title: say('centres.whyHere'), isQuiet: true, kind: 'line' },
      ]"
      :rows="people"
      :row-key="person => person.number"
    >
      <template #number="{ row: person }">
        <NuxtLink :to="`/intake/${person.applicationId}`">{{ person.number }}</NuxtLink>
      </template>
      <template #place="{ row: person }">
        {{ person.city ? spelling.city(person.city) : say('centres.noSeatInRow') }}<span class="soft small">{{ person.told && person.told !== person.city ? say('centres.wasTold', { told: spelling.city(person.told) }) : '' }}{{ person.locked ? say('centres.byHand') : '' }}{{ person.needs ? say('centres.alsoAccessible') : '' }}</span>
      </template>
      <template #why="{ row: person }">
        <NuxtLink :to="`/centres/why/${run.id}/${person.applicationId}`">
          {{ say('centres.whyHere') }}
        </NuxtLink>
      </template>
    </HouseTable>
    <ElButton
      v-if="next"
      class="more"
      @click="load(next)"
    >
      {{ say('centres.showMore') }}
    </ElButton>
  </section>
</template>

<style scoped>
section { margin-top: 28px; scroll-margin-top: 140px; }
.head { display: flex; flex-wrap: wrap; gap: 6px 20px; align-items: center; }
.kinds { display: flex; flex-wrap: wrap; gap: 4px 16px; align-items: center; font: 400 15px var(--sans); margin-left: auto; }
.kinds :deep(.el-input) { width: 180px; }
.press[aria-pressed='true'] { color: var(--ink); font-weight: 600; text-decoration: none; }
.more { margin-top: 12px; }
</style>
