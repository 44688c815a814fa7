<script setup lang="ts">
import type { DueView } from '~~/shared/bank'

/** Finds somebody to whom money may belong, by number or name. */
defineProps<{ currency: string }>()
const emit = defineEmits<{ take: [due: DueView] }>()
const spelling = useSpelling()
const search = ref('')
const found = shallowRef<DueView[]>([])
const look = useDebounced(async () => {
  const asked = search.value
  const dues = asked.trim().length < 2 ? [] : await callApi<DueView[]>('/api/bank/dues', { query: { search: asked } }).catch(() => [])
  if (asked === search.value) found.value = dues
}, 200)
watch(search, look)
function take(due: DueView) {
  emit('take', due)
  search.value = ''
  found.value = []
}
</script>

<template>
  <div>
    <input
      v-model="search"
      class="field"
      type="search"
      autocomplete="off"
      :placeholder="say('bank.findPerson')"
      :aria-label="say('bank.findPerson')"
    >
    <ul v-if="found.length > 0">
      <li
        v-for="due in found"
        :key="due.applicationId"
      >
        <button
          type="button"
          @click="take(due)"
        >
          {{ due.name }} <span class="soft small">{{ due.number }} · {{ due.due > 0 ? say('bank.due', { due: spelling.amountIn(due.due, due.currency) }) : say('bank.nothingDue') }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.field { width: 100%; }
ul { list-style: none; margin: 0 0 8px; padding: 0; border: 1px solid var(--line); border-top: 0; }
button {
  display: block; width: 100%; text-align: left; font: inherit; color: inherit; background: none; border: 0; padding: 6px 10px;
  cursor: pointer;
}
button:hover, button:focus-visible { background: var(--accent-soft); }
</style>
