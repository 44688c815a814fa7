<script setup lang="ts">
import '~/words/later'
import type Sortable from 'sortablejs'

/** What was chosen, in an order: moved by dragging, by its number, or up and down by keys. */
defineProps<{
  title: (id: string) => string,
  /** What stands under a title. */
  about?: (id: string) => string,
  /** What is read above it. */
  says?: string,
  removable?: boolean,
}>()
const list = defineModel<string[]>({ required: true })

function move(from: number, to: number) {
  const next = [...list.value]
  const [one] = next.splice(from, 1)
  if (one) next.splice(Math.max(0, Math.min(next.length, to)), 0, one)
  list.value = next
}
/** Takes the place whose number was typed; what is none leaves all as it was. */
function placeAt(from: number, event: Event) {
  const field = event.target as HTMLInputElement
  const to = Number(field.value)
  if (Number.isInteger(to) && to > 0) move(from, to - 1)
  field.value = String(from + 1)
}
const rows = ref<HTMLElement | null>(null)
let sorting: Sortable | undefined
// What drags comes once there is something to drag.
watch([rows, () => list.value.length > 1], async ([element, isSorted]) => {
  sorting?.destroy()
  sorting = undefined
  if (!element || !isSorted) return
  const { default: Sorting } = await import('sortablejs')
  if (rows.value !== element) return
  sorting = Sorting.create(element, {
    handle: '.handle',
    animation: 120,
    onEnd: ({ item, oldIndex = 0, newIndex = 0 }) => {
      // The list is drawn from the answer: what was dragged goes back to where it was, and the answer changes.
      element.insertBefore(item, element.children[oldIndex + (newIndex < oldIndex ? 1 : 0)] ?? null)
      if (newIndex !== oldIndex) move(oldIndex, newIndex)
    },
  })
})
onBeforeUnmount(() => sorting?.destroy())
</script>

<template>
  <div>
    <p
      v-if="says"
      class="soft small"
    >
      {{ says }}
    </p>
    <ol ref="rows">
      <li
        v-for="(one, i) in list"
        :key="one"
      >
        <span
          class="handle"
          aria-hidden="true"
        >⠿</span>
        <input
          :value="i + 1"
          class="field rank"
          inputmode="numeric"
          autocomplete="off"
          :aria-label="say('parts.placeOf', { title: title(one) })"
          @change="placeAt(i, $event)"
          @keydown.enter.prevent="placeAt(i, $event)"
        >
        <span>{{ title(one) }}</span>
        <span class="moves">
          <button
            type="button"
            :disabled="i === 0"
            :aria-label="say('parts.onePlaceUp', { title: title(one) })"
            @click="move(i, i - 1)"
          >
            ↑
          </button>
          <button
            type="button"
            :disabled="i === list.length - 1"
            :aria-label="say('parts.onePlaceDown', { title: title(one) })"
            @click="move(i, i + 1)"
          >
            ↓
          </button>
          <button
            v-if="removable"
            type="button"
            :aria-label="say('parts.takeOff', { title: title(one) })"
            @click="list = list.filter(other => other !== one)"
          >
            {{ say('parts.takeOffShort') }}
          </button>
        </span>
        <span
          v-if="about"
          class="soft small about"
        >{{ about(one) }}</span>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol { list-style: none; margin: 4px 0 8px; padding: 0; max-width: 560px; }
li {
  display: grid; grid-template-columns: auto auto minmax(0, 1fr) auto; gap: 0 8px; align-items: center;
  border-bottom: 1px solid var(--line); padding: 3px 0; background: var(--sheet);
}
.about { grid-column: 3 / -1; }
.handle { cursor: grab; color: var(--ink-soft); padding: 2px 4px; touch-action: none; }
.rank { width: 44px; text-align: center; font-weight: 600; }
.moves { display: flex; gap: 6px; }
button {
  font: inherit; font-size: 14px; color: var(--accent); background: none; border: 1px solid var(--line); border-radius: var(--radius);
  padding: 2px 8px; min-height: 26px; cursor: pointer;
}
button:disabled { color: var(--line-strong); cursor: default; }
</style>
