<script setup lang="ts">
import type { ImageKind } from '~~/core/notice/schema'

/** Small drawings beside the slot: how a picture should be, and what is sent back most often. */
const props = defineProps<{ kind: ImageKind }>()
interface Example {
  good: boolean
  words: string
  move?: string
  head?: string
  wall?: string
  over?: 'glasses' | 'shade' | 'second'
}
const portraits: Example[] = [
  { good: true, words: say('pictures.straightPlainWall') },
  { good: false, words: say('pictures.tooSmall'), move: 'translate(18 26) scale(0.4)' },
  { good: false, words: say('pictures.leaning'), move: 'rotate(18 30 40)' },
  { good: false, words: say('pictures.eyesCovered'), over: 'glasses' },
  { good: false, words: say('pictures.lightFromOneSide'), over: 'shade' },
  { good: false, words: say('pictures.loudBackground'), wall: '#c98f4a' },
]
const signatures = [
  {
    good: true,
    words: say('pictures.darkPenWhitePaper'),
    path: 'M 8 22 C 14 4 18 30 24 16 S 34 6 36 22 S 48 10 52 18',
    stroke: '#1d2a33',
    width: 1.8,
    paper: '#fff',
  },
  {
    good: false,
    words: say('pictures.tooFaint'),
    path: 'M 8 22 C 14 4 18 30 24 16 S 34 6 36 22 S 48 10 52 18',
    stroke: '#c9ccd0',
    width: 1.4,
    paper: '#fff',
  },
  {
    good: false,
    words: say('pictures.cutOff'),
    path: 'M -6 22 C 0 4 6 30 12 16 S 24 6 26 22 S 38 10 42 18',
    stroke: '#1d2a33',
    width: 1.8,
    paper: '#fff',
  },
  {
    good: false,
    words: say('pictures.greyInShadow'),
    path: 'M 8 22 C 14 4 18 30 24 16 S 34 6 36 22 S 48 10 52 18',
    stroke: '#1d2a33',
    width: 1.8,
    paper: '#a8aaa8',
  },
]
const isPortrait = computed(() => props.kind === 'photograph')
</script>

<template>
  <ul
    v-if="kind !== 'thumb'"
    class="examples"
    :aria-label="isPortrait ? say('pictures.howAPhotographShouldBeAnd') : say('pictures.howASignatureShouldBeAnd')"
  >
    <template v-if="isPortrait">
      <li
        v-for="one in portraits"
        :key="one.words"
      >
        <svg
          viewBox="0 0 60 77"
          width="46"
          height="59"
          aria-hidden="true"
        >
          <rect
            width="60"
            height="77"
            :fill="one.wall ?? '#e9edf0'"
          />
          <g :transform="one.move ?? ''">
            <path
              d="M 4 90 C 6 62 20 62 24 58 L 36 58 C 40 62 54 62 56 90 Z"
              fill="#33506b"
            />
            <rect
              x="24"
              y="48"
              width="12"
              height="13"
              fill="#b98763"
            />
            <ellipse
              cx="30"
              cy="36"
              rx="14"
              ry="19"
              fill="#d9a982"
            />
            <path
              d="M 15 33 C 13 10 47 10 45 33 C 42 24 38 22 30 22 C 22 22 18 24 15 33 Z"
              fill="#3a2417"
            />
            <template v-if="one.over === 'glasses'">
              <rect
                x="17"
                y="31"
                width="12"
                height="8"
                rx="3"
                fill="#111"
              /><rect
                x="31"
                y="31"
                width="12"
                height="8"
                rx="3"
                fill="#111"
              />
            </template>
            <template v-else>
              <circle
                cx="24"
                cy="35"
                r="1.8"
                fill="#1b1411"
              /><circle
                cx="36"
                cy="35"
                r="1.8"
                fill="#1b1411"
              />
            </template>
            <path
              d="M 25 47 Q 30 49.5 35 47"
              fill="none"
              stroke="#8d4a42"
              stroke-width="1.6"
            />
            <path
              v-if="one.over === 'shade'"
              d="M 30 17 A 14 19 0 0 1 30 55 Z"
              fill="#000"
              opacity="0.5"
            />
          </g>
        </svg>
        <span><b :class="one.good ? 'settled' : 'refusal'">{{ one.good ? '✓' : '✕' }}</b> {{ one.words }}</span>
      </li>
    </template>
    <template v-else>
      <li
        v-for="one in signatures"
        :key="one.words"
      >
        <svg
          viewBox="0 0 60 32"
          width="60"
          height="32"
          aria-hidden="true"
        >
          <rect
            width="60"
            height="32"
            :fill="one.paper"
          />
          <path
            :d="one.path"
            fill="none"
            :stroke="one.stroke"
            :stroke-width="one.width"
            stroke-linecap="round"
          />
        </svg>
        <span><b :class="one.good ? 'settled' : 'refusal'">{{ one.good ? '✓' : '✕' }}</b> {{ one.words }}</span>
      </li>
    </template>
  </ul>
</template>

<style scoped>
.examples { list-style: none; display: flex; flex-wrap: wrap; gap: 10px 12px; padding: 0; margin: 4px 0 10px; }
li { width: 78px; font-size: 13px; line-height: 1.2; color: var(--ink-soft); }
svg { display: block; border: 1px solid var(--line-strong); margin-bottom: 3px; }
</style>
