<script setup lang="ts">
import '~/words/later'
import { listAnswer, type Answers } from '~~/core/application/answers'
import { asksForMore, postLimits } from '~~/core/application/post-limits'
import type { Notice } from '~~/core/notice/schema'

/** How many posts are chosen against every bound of the notice, while they are ticked. */
const props = defineProps<{ notice: Notice, answers: Answers }>()
const limits = computed(() => postLimits(props.notice, props.answers, listAnswer(props.answers, 'posts')))
const isAsked = computed(() => asksForMore(props.notice, props.answers))
</script>

<template>
  <ul class="limits small">
    <li
      v-for="limit in limits"
      :key="limit.of + limit.title"
      :class="{ attention: limit.fault === 'too many' }"
    >
      <b>{{ limit.of === 'load' ? say('sheet.load') : limit.title }}</b>
      {{ say('parts.chosenOf', { chosen: limit.chosen, min: limit.min, max: limit.max ?? 0, hasMax: String(limit.max !== null) }) }}
      <template v-if="limit.fault === 'too many' && isAsked">
        {{ say('parts.moreIsAskedFor') }}
      </template>
    </li>
  </ul>
</template>

<style scoped>
.limits { margin: 0 0 8px; padding: 0; list-style: none; }
</style>
