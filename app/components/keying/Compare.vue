<script setup lang="ts">
import type { Answer } from '~~/core/application/answers'
import { placeKey, type KeyedDifference, type Settlement } from '~~/core/application/keying'
import type { Notice } from '~~/core/notice/schema'
import type { KeyingView } from '~~/shared/keying'

/** Where two keyings of a paper form differ, side by side, for somebody who has the paper in hand; afterwards, what was settled. */
const props = defineProps<{ view: KeyingView, notice: Notice }>()
const emit = defineEmits<{ changed: [] }>()
const spelling = useSpelling()
const questionOf = (id: string) => props.notice.sections.flatMap(section => section.questions).find(question => question.id === id)
const isOpen = computed(() => props.view.state === 'differing')
const word = ref<Record<string, 'first' | 'second' | 'anew'>>({})
const typed = ref<Record<string, Answer>>({})
const at = ref(0)
// What was said so far outlives a closed page; it counts only once all is settled.
const store = `lucid-settling-${props.view.id}`
onMounted(() => {
  const kept = isOpen.value ? localStorage.getItem(store) : null
  if (kept !== null) ({ word: word.value, typed: typed.value } = JSON.parse(kept) as { word: typeof word.value, typed: typeof typed.value })
})
watch([word, typed], () => localStorage.setItem(store, JSON.stringify({ word: word.value, typed: typed.value })))
const isJustSettled = ref(false)
const rows = computed(() =>
  props.view.differences.map(difference => ({
    ...difference,
    key: placeKey(difference),
    title: titleOf(difference),
    asked: questionOf(difference.question),
  }))
)
const settled = computed(() => new Map(props.view.settled?.settlements.map(one => [placeKey(one), one]) ?? []))
const left = computed(() =>
  rows.value.filter(({ key }) => !word.value[key] || (word.value[key] === 'anew' && typed.value[key] === undefined)).length
)
const { busy, perform } = useAct(props.view.id, () => undefined)

function titleOf({ question, row, column }: KeyedDifference): string {
  if (row === null) return spelling.item(question)
  const found = questionOf(question)
  return say('keying.rowOf', {
    item: spelling.item(question),
    row: row + 1,
    column: found?.kind === 'table' ? found.columns.find(one => one.id === column)?.label ?? '' : '',
  })
}
/** An answer as a person reads it: a choice by its title, a date spelt. */
function words({ question, row, column }: KeyedDifference, answer: Answer): string {
  if (answer.length === 0) return say('keying.blank')
  if (row === null) return spelling.answer(question, answer)
  const found = questionOf(question)
  const cell = found?.kind === 'table' ? found.columns.find(one => one.id === column) : undefined
  const text = typeof answer === 'string' ? answer : ''
  return cell?.kind === 'choice' ? cell.options.find(option => option.id === text)?.title ?? text : text
}
function choose(index: number, keep: 'first' | 'second' | 'anew') {
  const row = rows.value[index]
  if (!row || !isOpen.value) return
  word.value = { ...word.value, [row.key]: keep }
  at.value = keep === 'anew' ? index : Math.min(index + 1, rows.value.length - 1)
  void nextTick(() => {
    const target = document.getElementById(`differing-${at.value}`)
    target?.scrollIntoView({ block: 'nearest' })
    if (keep === 'anew') target?.querySelector<HTMLElement>('.anew input, .anew select, .anew textarea')?.focus()
  })
}
function settlements(): Settlement[] {
  return rows.value.flatMap(({ question, row, column, key }): Settlement[] => {
    const keep = word.value[key]
    const place = { question, row, column }
    if (!keep) return []
    return [keep === 'anew' ? { ...place, keep, answer: typed.value[key] ?? '' } : { ...place, keep }]
  })
}
/** What was typed where neither was right, once it is settled. */
function anewOf(key: string): Answer {
  const one = settled.value.get(key)
  return one?.keep === 'anew' ? one.answer : ''
}
async function settle() {
  if (!await perform('settle-keying', { settlements: settlements() })) return
  localStorage.removeItem(store)
  isJustSettled.value = true
  emit('changed')
}
useKeys((event) => {
  const keep = ({ 1: 'first', 2: 'second', 3: 'anew' } as const)[event.key as '1' | '2' | '3']
  if (!keep) return
  // The key would be typed into the field that it opens.
  event.preventDefault()
  choose(at.value, keep)
})
</script>

<template>
  <div class="sheet-row">
    <div class="body compare">
      <template v-if="isOpen">
        <h2>{{ say('keying.differTitle', { n: rows.length }) }}</h2>
        <p>{{ say('keying.differHelp', { compared: view.compared ?? 0 }) }}</p>
      </template>
      <p
        v-else
        class="note"
      >
        <b>{{ say('keying.agreed') }}</b> <template v-if="view.settled?.by">
          {{ say('keying.agreedBy', { by: view.settled.by, at: spelling.instant(view.settled.at) }) }}
        </template> <NuxtLink :to="`/intake/${view.id}`">
          {{ say('keying.toTheForm') }}
        </NuxtLink>
        <HouseButton
          v-if="isJustSettled"
          primary
          :busy="busy"
          @click="attempt(compareNext)"
        >
          {{ say('keying.compareNext') }}
        </HouseButton>
      </p>
      <section
        v-for="(row, index) in rows"
        :id="`differing-${index}`"
        :key="row.key"
        class="difference"
        :class="{ now: isOpen && index === at }"
      >
        <h3>{{ row.title }}</h3>
        <div class="sides">
          <component
            :is="isOpen ? 'label' : 'div'"
            v-for="side in (['first', 'second'] as const)"
            :key="side"
            :class="{ kept: isOpen ? word[row.key] === side : settled.get(row.key)?.keep === side }"
            class="side"
          >
            <span class="soft small"><input
              v-if="isOpen"
              type="radio"
              :name="row.key"
              :checked="word[row.key] === side"
              @change="choose(index, side)"
            > {{ side === 'first' ? say('keying.firstSays') : say('keying.secondSays') }} <span v-if="view[side]">({{ view[side]?.by }})</span> <kbd v-if="isOpen && index === at">{{ side === 'first' ? 1 : 2 }}</kbd></span>
            <KeyingMarked
              :text="words(row, row[side])"
              :other="words(row, row[side === 'first' ? 'second' : 'first'])"
            />
          </component>
          <div
            class="side"
            :class="{ kept: isOpen ? word[row.key] === 'anew' : settled.get(row.key)?.keep === 'anew' }"
          >
            <label
              v-if="isOpen"
              class="soft small"
            ><input
              type="radio"
              :name="row.key"
              :checked="word[row.key] === 'anew'"
              @change="choose(index, 'anew')"
            > {{ say('keying.neither') }} <kbd v-if="index === at">3</kbd></label>
            <div
              v-if="isOpen && word[row.key] === 'anew'"
              class="anew"
            >
              <SheetQuestionField
                v-if="row.row === null && row.asked"
                :question="{ ...row.asked, label: say('keying.typeIt') }"
                :notice="notice"
                :answer="typed[row.key] ?? ''"
                :readonly="false"
                :flawed="false"
                @change="typed = { ...typed, [row.key]: $event }"
              />
              <input
                v-else
                class="field"
                :aria-label="say('keying.typeIt')"
                :value="typed[row.key] ?? ''"
                autocomplete="off"
                @input="typed = { ...typed, [row.key]: ($event.target as HTMLInputElement).value }"
              >
            </div>
            <template v-else-if="!isOpen && settled.get(row.key)?.keep === 'anew'">
              <span class="soft small">{{ say('keying.neither') }}</span>
              <span>{{ words(row, anewOf(row.key)) }}</span>
            </template>
          </div>
        </div>
      </section>
    </div>
    <div class="beside" />
  </div>
  <div class="sheet-row rest">
    <div class="body" /><div class="beside" />
  </div>
  <div
    v-if="isOpen"
    class="action-bar"
  >
    <span :class="{ attention: left > 0 }">{{ say('keying.left', { n: left }) }}</span>
    <HouseButton
      class="push"
      primary
      :busy="busy"
      :disabled="left > 0"
      @click="settle"
    >
      {{ say('keying.settle') }}
    </HouseButton>
  </div>
</template>

<style scoped>
.compare h2 { margin: 8px 0 4px; }
.compare > p { padding-bottom: 12px; }
.note { display: flex; flex-wrap: wrap; gap: 6px 14px; align-items: center; }
.difference { border-top: 1px solid var(--line); padding: 10px 0 12px 10px; border-left: 3px solid transparent; margin-left: -13px; }
.difference.now { border-left-color: var(--accent); }
.difference h3 { margin: 0 0 6px; font-size: 15px; }
.sides { display: grid; grid-template-columns: repeat(auto-fit, minmax(200px, 1fr)); gap: 8px 16px; }
.side { display: grid; gap: 3px; align-content: start; padding: 6px 8px; border: 1px solid transparent; }
label.side { cursor: pointer; }
.side.kept { border-color: var(--accent); background: var(--paper-sunk, transparent); }
.anew { padding-top: 2px; }
.anew :deep(.question) { display: grid; grid-template-columns: minmax(0, 1fr); gap: 2px; padding: 0; }
.anew :deep(.field) { max-width: 100%; }
.rest { flex: 1; }
</style>
