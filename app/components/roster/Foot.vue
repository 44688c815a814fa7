<script setup lang="ts">
import type { RosterCount, RosterFilter } from '~~/shared/applications'

/** How many the list holds, and what can be done with all of them. */
const props = defineProps<{ count: RosterCount | null, read: number, hasNext: boolean, filter: RosterFilter }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const isActing = ref(false)
const isWriting = ref(false)
const isPaying = ref(false)
const countWords = computed(() => {
  const told = props.count
  if (!told) return say('roster.counting')
  return told.isExact
    ? say('roster.countExact', { n: told.n })
    : say('roster.countAbout', { n: countText(told.n), low: countText(told.low), high: countText(told.high) })
})
</script>

<template>
  <p class="foot soft small">
    <b>{{ countWords }}</b> <button
      v-if="session.may('roster.act') && (count?.n ?? 0) > 0"
      type="button"
      class="press small"
      @click="isActing = true"
    >
      {{ say('roster.actOnAll') }}
    </button> <button
      v-if="session.may('letters.announce') && (count?.n ?? 0) > 0"
      type="button"
      class="press small"
      @click="isWriting = true"
    >
      {{ say('roster.writeToAll') }}
    </button> <button
      v-if="session.may('fees.collect') && (count?.n ?? 0) > 0"
      type="button"
      class="press small"
      @click="isPaying = true"
    >
      {{ say('roster.payForAll') }}
    </button> · {{ say('roster.readMoreBelow', { rows: read, hasNext: String(hasNext) }) }}
  </p>
  <LazyRosterAnnounce
    v-if="isWriting"
    :filter="filter"
    @close="isWriting = false"
  />
  <LazyRosterPayForAll
    v-if="isPaying"
    :filter="filter"
    @close="isPaying = false"
  />
  <RosterBulk
    v-if="isActing"
    :filter="filter"
    @close="isActing = false; emit('changed')"
  />
</template>

<style scoped>
.foot { padding-top: 6px; }
.foot button + button { margin-left: 10px; }
</style>
