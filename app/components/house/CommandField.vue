<script setup lang="ts">
import type { RosterRow } from '~~/shared/applications'

/** Finds a person by any number, name or telephone; opens with Ctrl or Cmd and K. */
const cycle = useCycleStore()
const router = useRouter()
const open = ref(false)
const text = ref('')
const found = ref<RosterRow[]>([])
const chosen = ref(0)
const state = ref<'idle' | 'looking' | 'done' | 'failed'>('idle')
const field = ref<{ focus: () => void } | null>(null)
let asked = 0

watch(text, async (value) => {
  const turn = ++asked
  if (value.trim().length < 2) {
    found.value = []
    state.value = 'idle'
    return
  }
  state.value = 'looking'
  await new Promise(done => setTimeout(done, 150))
  if (turn !== asked) return
  try {
    const rows = await callApi<RosterRow[]>(cycle.path('find'), { query: { q: value } })
    if (turn !== asked) return
    found.value = rows
    chosen.value = 0
    state.value = 'done'
  } catch {
    if (turn === asked) state.value = 'failed'
  }
})

async function show() {
  open.value = true
  text.value = ''
  await nextTick()
  setTimeout(() => field.value?.focus(), 30)
}
function go(row: RosterRow | undefined) {
  if (!row) return
  open.value = false
  router.push(`/intake/${row.id}`)
}
function onKey(event: KeyboardEvent) {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault()
    show()
    return
  }
  // Fast fingers type on while the field is still opening: no sign of a number may be lost.
  const isSign = event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey
  if (open.value && isSign && !(document.activeElement instanceof HTMLInputElement)) {
    event.preventDefault()
    text.value += event.key
    field.value?.focus()
  }
}
function move(by: number) {
  chosen.value = Math.min(Math.max(0, chosen.value + by), Math.max(0, found.value.length - 1))
}
onMounted(() => window.addEventListener('keydown', onKey))
onUnmounted(() => window.removeEventListener('keydown', onKey))
</script>

<template>
  <button
    class="field"
    @click="show"
  >
    {{ say('band.findAPersonNumberTelephone') }} <kbd>{{ say('band.ctrlK') }}</kbd>
  </button>
  <ElDialog
    v-model="open"
    :title="say('band.findAPerson')"
    width="min(560px, 94vw)"
    top="12vh"
  >
    <ElInput
      ref="field"
      v-model="text"
      :placeholder="say('band.applicationOrRollNumberBeginningOf')"
      :aria-label="say('band.applicationOrRollNumberBeginningOf')"
      @keydown.enter="go(found[chosen])"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
    />
    <ul>
      <li
        v-for="(row, i) in found"
        :key="row.id"
      >
        <button
          :class="{ chosen: i === chosen }"
          @click="go(row)"
        >
          <span><b>{{ row.name || say('band.noNameYet') }}</b> <span class="soft">{{ row.number }}</span></span>
          <HouseHeadlineMark :headline="row.headline" />
        </button>
      </li>
    </ul>
    <p
      v-if="state === 'done' && found.length === 0"
      class="soft"
    >
      {{ say('band.nobodyInThisCycleHasThat') }}
    </p>
    <p
      v-if="state === 'failed'"
      class="refusal"
    >
      {{ say('band.theSearchDidNotReachThe') }}
    </p>
  </ElDialog>
</template>

<style scoped>
.field {
  font: inherit; font-size: 14px; color: var(--ink-soft); background: var(--sheet); border: 1px solid var(--line-strong);
  border-radius: var(--radius); padding: 5px 10px; cursor: text; white-space: nowrap;
}
ul { list-style: none; margin: 12px 0 0; padding: 0; }
li button {
  width: 100%; font: inherit; color: inherit; text-align: left; display: flex; justify-content: space-between; gap: 12px; background: none;
  border: 0; border-bottom: 1px solid var(--line); padding: 8px; cursor: pointer;
}
li button:hover, li button.chosen { background: var(--accent-soft); }
</style>
