<script setup lang="ts">
import type { AnnouncementView } from '~~/shared/announcements'
import type { FacetValue } from '~~/shared/applications'

/** The filters of the roster as marks that can be taken off, and a way to add more: each value says how many of the cycle have it. */
const props = defineProps<{ tags: readonly string[], days: number | null, /** A letter to many, by its id. */ unread?: string }>()
const emit = defineEmits<{ change: [tags: string[]], age: [days: number | null], read: [] }>()
const cycle = useCycleStore()
const { facets, value, title } = useTags()
const chosen = ref('')
const values = shallowRef<FacetValue[] | null>(null)
const ages = [3, 7, 14, 30, -3, -7]

watch(chosen, async (facet) => {
  values.value = null
  if (facet) {
    await attempt(async () => {
      values.value = await callApi<FacetValue[]>(cycle.path('roster/facet'), { query: { facet } })
    })
  }
})
/** Names of people whose decisions are filtered by. */
const names = shallowRef(new Map<string, string>())
watch(() => props.tags.some(tag => tag.startsWith('by:')) || chosen.value === 'by', async (wanted) => {
  if (!wanted || names.value.size > 0) return
  const people = await callApi<FacetValue[]>(cycle.path('roster/facet'), { query: { facet: 'by' } }).catch(() => [])
  names.value = new Map(people.map(one => [one.tag, one.name ?? one.tag]))
}, { immediate: true })
/** The subject of the letter that is filtered by. */
const letterTitle = ref(say('roster.letterToMany'))
watch(() => props.unread, async (id) => {
  if (!id || !useSessionStore().may('letters.read')) return
  const all = await callApi<AnnouncementView[]>(cycle.path('announcements')).catch(() => [])
  letterTitle.value = all.find(one => one.id === id)?.subject ?? say('roster.letterToMany')
}, { immediate: true })
const spelt = (tag: string) => names.value.get(tag) ?? value(tag)
const toggle = (tag: string) => emit('change', props.tags.includes(tag) ? props.tags.filter(one => one !== tag) : [...props.tags, tag])
const ageText = (days: number) => days > 0 ? say('roster.olderThan', { days }) : say('roster.youngerThan', { days: -days })
</script>

<template>
  <ElPopover
    trigger="click"
    width="420"
    placement="bottom-start"
  >
    <template #reference>
      <ElButton>{{ say('roster.addAFilter') }}</ElButton>
    </template>
    <p class="soft small">
      {{ say('roster.chooseWhat') }}
    </p>
    <select
      v-model="chosen"
      class="field what"
      :aria-label="say('roster.whatToFilterBy')"
    >
      <option value="">
        {{ say('roster.whatToFilterBy') }}
      </option>
      <option
        v-for="one in facets"
        :key="one.facet"
        :value="one.facet"
      >
        {{ one.title }}
      </option>
    </select>
    <p
      v-if="values?.length === 0"
      class="soft"
    >
      {{ say('roster.nothingToFilterBy') }}
    </p>
    <ul
      v-if="values"
      class="values"
    >
      <li
        v-for="one in values"
        :key="one.tag"
      >
        <label><input
          type="checkbox"
          :checked="tags.includes(one.tag)"
          @change="toggle(one.tag)"
        > {{ one.name ?? value(one.tag) }}</label>
        <span class="soft">{{ countText(one.n) }}</span>
      </li>
    </ul>
    <label class="age">{{ say('roster.age') }}
      <select
        class="field"
        :value="days ?? ''"
        @change="emit('age', Number(($event.target as HTMLSelectElement).value) || null)"
      >
        <option value="">{{ say('roster.anyAge') }}</option>
        <option
          v-for="one in ages"
          :key="one"
          :value="one"
        >{{ ageText(one) }}</option>
      </select>
    </label>
  </ElPopover>
  <button
    v-for="tag in tags"
    :key="tag"
    type="button"
    class="mark"
    :aria-label="say('roster.takeOffFilter', { title: `${title(tag)}: ${spelt(tag)}` })"
    @click="toggle(tag)"
  >
    <span class="soft">{{ title(tag) }}:</span> {{ spelt(tag) }} <span aria-hidden="true">✕</span>
  </button>
  <button
    v-if="days"
    type="button"
    class="mark"
    :aria-label="say('roster.takeOffFilter', { title: ageText(days) })"
    @click="emit('age', null)"
  >
    <span class="soft">{{ say('roster.age') }}</span> {{ ageText(days) }} <span aria-hidden="true">✕</span>
  </button>
  <button
    v-if="unread"
    type="button"
    class="mark"
    :aria-label="say('roster.takeOffFilter', { title: say('roster.unreadLetter') })"
    @click="emit('read')"
  >
    <span class="soft">{{ say('roster.unreadLetter') }}</span> {{ letterTitle }} <span aria-hidden="true">✕</span>
  </button>
</template>

<style scoped>
.what { width: 100%; margin: 8px 0; }
.values { list-style: none; margin: 0; padding: 0; max-height: 260px; overflow-y: auto; }
.values li { display: flex; justify-content: space-between; gap: 16px; padding: 3px 8px 3px 0; }
.age { display: flex; gap: 8px; align-items: center; margin-top: 10px; }
.mark {
  font: inherit; font-size: 14px; color: var(--ink); background: var(--accent-soft); border: 1px solid var(--line-strong);
  border-radius: var(--radius); padding: 4px 8px; cursor: pointer;
}
.mark:hover { border-color: var(--accent); }
</style>
