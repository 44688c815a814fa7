<script setup lang="ts">
import type { Notice } from '~~/core/notice/schema'

/** Ranked test cities: added from a list, moved up or down, taken off. */
const props = defineProps<{ notice: Notice, max: number, id: string }>()
const list = defineModel<string[]>({ required: true })
const spelling = useSpelling()
const picked = ref('')
/** Keys change a closed list at every press: what they stand on is taken by a press of its own. */
const byKeys = ref(false)

const islands = computed(() =>
  [...new Set(props.notice.cities.map(c => c.island))].map(island => ({
    title: island,
    options: props.notice.cities.filter(c => c.island === island && !list.value.includes(c.id)),
  }))
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
function move(from: number, by: number) {
  const next = [...list.value]
  const [city] = next.splice(from, 1)
  if (city) next.splice(from + by, 0, city)
  list.value = next
}
</script>

<template>
  <div>
    <ol v-if="list.length > 0">
      <li
        v-for="(city, i) in list"
        :key="city"
      >
        <span class="rank">{{ i + 1 }}</span><span class="name">{{ spelling.city(city) }}</span>
        <button
          type="button"
          :disabled="i === 0"
          :aria-label="say('sheet.onePlaceUp', { city: spelling.city(city) })"
          @click="move(i, -1)"
        >
          ↑
        </button>
        <button
          type="button"
          :disabled="i === list.length - 1"
          :aria-label="say('sheet.onePlaceDown', { city: spelling.city(city) })"
          @click="move(i, 1)"
        >
          ↓
        </button>
        <button
          type="button"
          :aria-label="say('sheet.takeCityOff', { city: spelling.city(city) })"
          @click="list = list.filter(c => c !== city)"
        >
          {{ say('sheet.takeOffShort') }}
        </button>
      </li>
    </ol>
    <FieldPick
      v-if="list.length < max"
      :id="id"
      v-model="picked"
      :groups="islands"
      :placeholder="list.length === 0 ? say('sheet.firstChoice') : say('sheet.nextChoice')"
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
      {{ say('sheet.addCity', { city: spelling.city(picked) }) }}
    </button>
    <span class="soft small count">{{ say('sheet.ofNamed', { named: list.length, max }) }}</span>
  </div>
</template>

<style scoped>
ol { list-style: none; margin: 4px 0 8px; padding: 0; max-width: 420px; }
li { display: flex; gap: 8px; align-items: center; border-bottom: 1px solid var(--line); padding: 3px 0; }
.rank { width: 20px; font-weight: 600; color: var(--ink-soft); }
.name { flex: 1; }
button {
  font: inherit; font-size: 14px; color: var(--accent); background: none; border: 1px solid var(--line); border-radius: var(--radius);
  padding: 2px 8px; cursor: pointer;
}
.add { margin-left: 8px; min-height: 24px; }
button:disabled { color: var(--line-strong); cursor: default; }
.count { margin-left: 12px; }
</style>
