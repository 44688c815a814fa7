<script setup lang="ts">
/** The rooms of the centres: demand, runs, a new run, two runs side by side. */
const session = useSessionStore()
const route = useRoute()
const rooms = computed(() => [
  { to: '/centres', title: say('centres.runs') },
  { to: '/centres/demand', title: say('centres.demand') },
  ...(session.may('centres.run') ? [{ to: '/centres/new', title: say('centres.newRun') }] : []),
  { to: '/centres/compare', title: say('centres.compare') },
  { to: '/centres/register', title: say('centres.register') },
])
</script>

<template>
  <HouseRooms
    :rooms="rooms"
    :label="say('centres.centres')"
    :here="route.path"
  />
</template>
