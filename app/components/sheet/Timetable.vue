<script setup lang="ts">
import '~/words/later'
import { listAnswer, type Answers } from '~~/core/application/answers'
import { collide, collisionsAmong, minutesAskedFor, timetableOf } from '~~/core/application/timetable'
import { spellDate } from '~~/core/calendar/zone'
import type { Notice } from '~~/core/notice/schema'
import type { Session } from '~~/core/notice/centre-schema'

/** When the chosen papers are sat, drawn to scale day by day; what collides stands out while it is ticked. */
const props = defineProps<{ notice: Notice, answers: Answers }>()
const chosen = computed(() => listAnswer(props.answers, 'posts'))
const times = computed(() => timetableOf(props.notice, chosen.value))
const anHour = computed(() => minutesAskedFor(props.notice, props.answers))
const collisions = computed(() =>
  collisionsAmong(props.notice, props.answers, chosen.value).map(posts =>
    posts.map(id => props.notice.posts.find(post => post.id === id)?.title ?? id)
  )
)

const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3))
/** From the first hour to the last of all that is shown. */
const hours = computed(() => {
  const sessions = times.value.flatMap(time => time.sessions)
  const from = Math.floor(Math.min(...sessions.map(s => minutes(s.starts))) / 60)
  const to = Math.ceil(Math.max(...sessions.map(s => minutes(s.ends))) / 60)
  return { from, span: Math.max(1, to - from) }
})
const left = (clock: string) => (minutes(clock) / 60 - hours.value.from) / hours.value.span * 100
interface Block {
  paper: string
  session: Session
  isOneOf: boolean
  isHit: boolean
}
const days = computed(() => {
  const blocks = times.value.flatMap(({ paper, sessions }): Block[] =>
    sessions.map(session => ({
      paper: paper.title,
      session,
      isOneOf: sessions.length > 1,
      isHit: sessions.length === 1 && times.value.some(other =>
        other.paper.id !== paper.id && other.sessions.length === 1 && other.sessions.every(one => collide(one, session, anHour.value))
      ),
    }))
  )
  return [...new Set(blocks.map(block => block.session.date))].sort().map(date => ({
    date,
    blocks: blocks.filter(block => block.session.date === date),
  }))
})
</script>

<template>
  <section
    v-if="times.length > 0"
    class="timetable small"
    :aria-label="say('parts.timetable')"
  >
    <h3>{{ say('parts.timetable') }}</h3>
    <p
      v-for="posts in collisions"
      :key="posts.join()"
      class="hit"
      role="status"
    >
      {{ posts.length === 2 ? say('parts.collide', { first: posts[0] ?? '', second: posts[1] ?? '' }) : say('parts.collideTogether', { posts: posts.join(', ') }) }}
    </p>
    <ol>
      <li
        v-for="{ date, blocks } in days"
        :key="date"
      >
        <span class="day">{{ spellDate(date) }}</span>
        <div
          v-for="{ paper, session, isOneOf, isHit } in blocks"
          :key="paper + session.id"
          class="line"
        >
          <span
            class="block"
            :class="{ open: isOneOf, hits: isHit }"
            :style="{ left: `${left(session.starts)}%`, width: `${left(session.ends) - left(session.starts)}%` }"
            aria-hidden="true"
          />
          <span class="words"><b>{{ paper }}</b> {{ say('parts.paperTime', { starts: session.starts, ends: session.ends, isOneOf: String(isOneOf) }) }}</span>
        </div>
      </li>
    </ol>
    <p class="soft">
      {{ say('parts.timetableHelp', { from: hours.from, to: hours.from + hours.span, zone: notice.body.zone.name }) }}
    </p>
  </section>
</template>

<style scoped>
.timetable { margin: 0 0 12px; }
h3 { font: inherit; font-weight: 600; margin: 0 0 2px; }
ol { list-style: none; margin: 0; padding: 0; }
li { padding: 2px 0 4px; }
.day { color: var(--ink-soft); }
.line { position: relative; padding: 7px 0 2px; border-top: 1px solid var(--line); }
.block { position: absolute; top: -1px; height: 5px; background: var(--accent); }
.block.open { background: var(--sheet); box-shadow: 0 0 0 1px var(--accent) inset; }
.block.hits { background: var(--refusal); }
.hit { color: var(--refusal); font-weight: 600; }
</style>
