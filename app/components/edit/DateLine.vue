<script setup lang="ts">
import { addDays, dayNumber, parseCalendarDate, type CalendarDate } from '~~/core/calendar/calendar-date'
import { isClosedDay } from '~~/core/calendar/closed-days'
import { clockInZone, dateInZone, instantInZone, spellDate, spellInstant } from '~~/core/calendar/zone'
import { pointer, valueAt } from '~~/core/notice/finding'

/**
 * All dates of the notice on one line to scale. A mark is dragged or moved by arrow keys and keeps its clock time; closed days are shaded,
 * and moments of the office skip them.
 */
const { draft } = useNoticeEditor()
const { capital, partTitle } = useWords().noticeParts
const line = ref<HTMLElement | null>(null)
const frame = computed(() => draft.readable.value.body)
interface Mark {
  at: string
  title: string
  date: CalendarDate
  isMoment: boolean
}

const marks = computed<Mark[]>(() => {
  const found: Mark[] = []
  const add = (at: string, title: string) => {
    const value = valueAt(draft.document.value, at)
    if (typeof value !== 'string') return
    const isMoment = /^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(value) && !Number.isNaN(Date.parse(value))
    const date = isMoment ? dateInZone(value, frame.value.zone) : value
    if (parseCalendarDate(date)) found.push({ at, title, date, isMoment })
  }
  for (const key of ['opens', 'closes', 'lastPayment', 'correctionOpens', 'correctionCloses', 'cardsFrom', 'ageOn']) {
    add(pointer('keyDates', key), capital(partTitle(key)))
  }
  const late = valueAt(draft.document.value, '/fees/late')
  if (Array.isArray(late)) late.forEach((_, i) => add(pointer('fees', 'late', i, 'from'), say('edit.lateFee')))
  const sessions = valueAt(draft.document.value, '/sessions')
  if (Array.isArray(sessions)) {
    sessions.forEach((one: unknown, i) =>
      add(
        pointer('sessions', i, 'date'),
        say('edit.session', { title: typeof one === 'object' && one !== null && 'title' in one ? String(one.title) : String(i + 1) }),
      )
    )
  }
  return found.sort((a, b) => a.date.localeCompare(b.date))
})
const first = computed(() => Math.min(...marks.value.map(m => dayNumber(m.date))) - 4)
const last = computed(() => Math.max(...marks.value.map(m => dayNumber(m.date))) + 4)
const days = computed(() => Math.max(1, last.value - first.value))
const percent = (date: CalendarDate) => (dayNumber(date) - first.value) / days.value * 100
const dateOf = (number: number): CalendarDate => addDays('1970-01-01', number)
const isClosed = (date: CalendarDate) => isClosedDay(frame.value, date)
const closed = computed(() =>
  days.value > 400 ? [] : Array.from({ length: days.value }, (_, i) => dateOf(first.value + i)).filter(isClosed)
)
const periods = computed(() =>
  [['opens', 'closes'], ['correctionOpens', 'correctionCloses']].flatMap(([from, to]) => {
    const [a, b] = [marks.value.find(m => m.at === `/keyDates/${from}`), marks.value.find(m => m.at === `/keyDates/${to}`)]
    return a && b ? [{ left: percent(a.date), width: percent(b.date) - percent(a.date) }] : []
  })
)
/** Months along the line. */
const months = computed(() => Array.from({ length: days.value }, (_, i) => dateOf(first.value + i)).filter(date => date.endsWith('-01')))
const wrong = (mark: Mark) => draft.findings.value.some(f => f.at === mark.at)
const words = (mark: Mark) =>
  mark.isMoment ? spellInstant(String(valueAt(draft.document.value, mark.at)), frame.value.zone) : spellDate(mark.date)

function moveTo(mark: Mark, wanted: CalendarDate, by: number) {
  let date = wanted
  for (let step = 0; step < 14 && mark.isMoment && isClosed(date); step++) date = addDays(date, by < 0 ? -1 : 1)
  if (!mark.isMoment) return draft.set(mark.at, date)
  const clock = clockInZone(String(valueAt(draft.document.value, mark.at)), frame.value.zone).slice(0, 5)
  draft.set(mark.at, instantInZone(date, clock, frame.value.zone).toISOString())
}
function press(event: KeyboardEvent, mark: Mark) {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -7, PageUp: 7 }[event.key]
  if (by === undefined) return
  event.preventDefault()
  moveTo(mark, addDays(mark.date, by), by)
}
function drag(event: PointerEvent, mark: Mark) {
  const box = line.value?.getBoundingClientRect()
  const handle = event.currentTarget as HTMLElement
  if (!box) return
  handle.setPointerCapture(event.pointerId)
  // The scale stays while something is dragged along it.
  const [from, span, began] = [first.value, days.value, dayNumber(mark.date)]
  let shown = began
  const move = ({ clientX }: PointerEvent) => {
    const day = Math.round(from + (clientX - box.left) / box.width * span)
    if (day === shown) return
    moveTo({ ...mark, date: dateOf(shown) }, dateOf(day), day - shown)
    shown = day
  }
  const end = () => {
    handle.removeEventListener('pointermove', move)
    handle.removeEventListener('pointerup', end)
  }
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', end)
}
</script>

<template>
  <section v-if="marks.length > 1">
    <h2 class="section-title">
      {{ say('edit.dateLine') }}
    </h2>
    <p class="soft small">
      {{ say('edit.dateLineHelp') }}
    </p>
    <div
      class="scale"
      :style="{ height: `${46 + marks.length * 24}px` }"
    >
      <div
        ref="line"
        class="line"
      >
        <i
          v-for="date in closed"
          :key="date"
          class="closed"
          :style="{ left: `${percent(date)}%`, width: `${100 / days}%` }"
        />
        <i
          v-for="(period, i) in periods"
          :key="i"
          class="period"
          :style="{ left: `${period.left}%`, width: `${Math.max(0, period.width)}%` }"
        />
        <span
          v-for="date in months"
          :key="date"
          class="month small soft"
          :style="{ left: `${percent(date)}%` }"
        >{{ spellDate(date).slice(4) }}</span>
        <button
          v-for="(mark, i) in marks"
          :key="mark.at"
          class="mark small"
          :class="{ 'is-wrong': wrong(mark), 'is-left': percent(mark.date) > 62 }"
          :style="{ left: `${percent(mark.date)}%`, top: `${34 + i * 24}px` }"
          :aria-label="say('edit.markMoved', { title: mark.title, at: words(mark) })"
          @keydown="event => press(event, mark)"
          @pointerdown="event => drag(event, mark)"
        >
          <i
            class="stem"
            :style="{ height: `${22 + i * 24}px` }"
          /><span class="dot" /><span class="tag">{{ mark.title }} <span class="soft">{{ spellDate(mark.date).slice(0, -5) }}</span></span>
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.scale { padding: 6px 8px 0; overflow: hidden; }
.line { position: relative; height: 26px; background: var(--paper); border: 1px solid var(--line-strong); }
.closed { position: absolute; top: 0; bottom: 0; background: var(--line); }
.period { position: absolute; top: 16px; height: 8px; background: var(--accent); opacity: 0.55; }
.month {
  position: absolute; top: 0; border-left: 1px solid var(--line-strong); padding-left: 3px; height: 100%; font-size: 11px;
  line-height: 15px; white-space: nowrap; pointer-events: none;
}
.mark {
  position: absolute; display: flex; align-items: center; gap: 6px; background: none; border: 0; padding: 0 4px 0 0; margin-left: -6px;
  font: inherit; font-size: 13px; color: var(--ink); cursor: ew-resize; touch-action: none; white-space: nowrap; height: 22px;
}
.mark.is-left { flex-direction: row-reverse; transform: translateX(-100%); margin-left: 6px; padding: 0 0 0 4px; }
/* Stems run behind what is written. */
.tag { background: var(--sheet); position: relative; z-index: 1; }
.dot { position: relative; z-index: 1; width: 12px; height: 12px; border-radius: 50%; background: var(--accent); flex: none; }
.is-wrong .dot { background: var(--refusal); }
.is-wrong .tag { color: var(--refusal); }
.stem { position: absolute; bottom: 16px; left: 5px; width: 1px; background: var(--line); pointer-events: none; }
.is-left .stem { left: auto; right: 5px; }
</style>
