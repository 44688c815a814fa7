<script setup lang="ts">
import '~/words/later'
import { distanceKm } from '~~/core/allocation/policy'
import { cityOfPostalCode } from '~~/core/application/answers'
import type { Notice } from '~~/core/notice/schema'
import type { CityFullness } from '~~/shared/centres'

/** Ranked test cities: added from a list or from those near home, moved, taken off. */
const props = defineProps<{ notice: Notice, max: number, id: string, /** Where home is known from. */ postalCode: string }>()
const list = defineModel<string[]>({ required: true })
const spelling = useSpelling()
const cycle = useCycleStore()
const picked = ref('')
/** Keys change a closed list at every press: what they stand on is taken by a press of its own. */
const byKeys = ref(false)

const islands = computed(() =>
  [...new Set(props.notice.cities.map(c => c.island))].map(island => ({
    title: island,
    options: props.notice.cities.filter(c => c.island === island && !list.value.includes(c.id)),
  }))
)
const full = shallowRef<CityFullness[]>([])
const home = computed(() => cityOfPostalCode(props.notice, props.postalCode))
// Asked once there is a city to say it of.
const isWanted = computed(() => home.value !== null || list.value.length > 0)
watch(isWanted, async (wanted) => {
  if (wanted && full.value.length === 0) full.value = await callApi<CityFullness[]>(cycle.path('fullness')).catch(() => [])
}, { immediate: true })
const kilometres = (id: string) => {
  const city = props.notice.cities.find(c => c.id === id)
  return home.value && city ? distanceKm(home.value, city) : null
}
/** How far from home a city is, and how many want its seats first. */
function about(id: string): string {
  const [far, seats] = [kilometres(id), full.value.find(one => one.city === id)]
  return [
    ...far === null ? [] : [say('parts.kilometres', { far })],
    ...seats ? [say('parts.wantedFirst', { first: seats.first, seats: seats.seats })] : [],
  ].join(' · ')
}
const nearAtMost = 4
const near = computed(() =>
  home.value === null || list.value.length >= props.max
    ? []
    : props.notice.cities.filter(c => !list.value.includes(c.id)).map(c => ({ id: c.id, far: kilometres(c.id) ?? 0 })).sort((a, b) =>
      a.far - b.far
    ).slice(0, nearAtMost)
)

function choose(city: string) {
  if (!byKeys.value) add(city)
}
/** What the list stands on is taken; only an empty one is opened by the same key. */
function take(event: KeyboardEvent) {
  if (!picked.value) return
  event.preventDefault()
  add(picked.value)
}
function add(city: string) {
  if (city && !list.value.includes(city)) list.value = [...list.value, city]
  picked.value = ''
}
</script>

<template>
  <div>
    <SheetRanked
      v-if="list.length > 0"
      v-model="list"
      :title="spelling.city"
      :about="about"
      removable
    />
    <FieldPick
      v-if="list.length < max"
      :id="id"
      v-model="picked"
      :groups="islands"
      :placeholder="list.length === 0 ? say('parts.firstChoice') : say('parts.nextChoice')"
      @keydown="byKeys = true"
      @keydown.enter="take"
      @pointerdown="byKeys = false"
      @update:model-value="choose"
    />
    <button
      v-if="picked"
      type="button"
      class="add"
      @click="add(picked)"
    >
      {{ say('parts.addCity', { city: spelling.city(picked) }) }}
    </button>
    <span class="soft small count">{{ say('parts.ofNamed', { named: list.length, max }) }}</span>
    <section v-if="near.length > 0">
      <p class="soft small">
        {{ say('parts.nearHome') }}
      </p>
      <ul>
        <li
          v-for="city in near"
          :key="city.id"
        >
          <span class="name">{{ spelling.city(city.id) }} <span class="soft small">{{ about(city.id) }}</span></span>
          <button
            type="button"
            :aria-label="say('parts.addCity', { city: spelling.city(city.id) })"
            @click="add(city.id)"
          >
            {{ say('parts.addShort') }}
          </button>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
ul { list-style: none; margin: 4px 0 8px; padding: 0; max-width: 560px; }
section { margin-top: 8px; }
li { display: flex; gap: 8px; align-items: center; border-bottom: 1px solid var(--line); padding: 3px 0; }
.name { flex: 1; min-width: 0; }
button {
  font: inherit; font-size: 14px; color: var(--accent); background: none; border: 1px solid var(--line); border-radius: var(--radius);
  padding: 2px 8px; min-height: 26px; cursor: pointer;
}
.add { margin-left: 8px; }
.count { margin-left: 12px; }
</style>
