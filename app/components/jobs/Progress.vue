<script setup lang="ts">
import type { JobView } from '~~/shared/centres'

/** How far long work is, with a count and an end in sight. */
defineProps<{ job: JobView | null, live: boolean, what: string, undone?: boolean, percent?: boolean }>()
const emit = defineEmits<{ cancel: [] }>()
</script>

<template>
  <div
    v-if="job && live"
    class="progress"
    role="status"
  >
    <span>{{ what }}: {{ job.state === 'waiting' ? say('work.waitsForAFreeWorker') : job.total > 0 ? percent ? `${job.done} %` : say('work.of', { done: job.done, total: job.total }) : say('work.computing') }}</span>
    <progress
      :value="job.total > 0 ? job.done : undefined"
      :max="Math.max(1, job.total)"
    />
    <ElButton
      size="small"
      @click="emit('cancel')"
    >
      {{ say('work.stop') }}
    </ElButton>
  </div>
  <p
    v-else-if="job?.state === 'failed'"
    class="note is-refusal"
  >
    {{ say('work.ended', { what, error: job.error }) }}
  </p>
  <p
    v-else-if="job?.state === 'cancelled'"
    class="note is-attention"
  >
    {{ say('work.stoppedAfter', { what, done: job.done, hasPercent: String(Boolean(percent)), hasUndone: String(Boolean(undone)) }) }}
  </p>
</template>

<style scoped>
.progress { display: flex; gap: 12px; align-items: center; padding: 8px 0; }
progress { flex: 1; max-width: 360px; accent-color: var(--accent); }
</style>
