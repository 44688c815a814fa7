<script setup lang="ts">
/** The rooms of the centres: demand, runs, a new run, two runs side by side. */
const session = useSessionStore()
const route = useRoute()
const rooms = computed(() => [
  { to: '/centres', title: 'Runs' }, { to: '/centres/demand', title: 'Demand' },
  ...(session.may('centres.run') ? [{ to: '/centres/new', title: 'New run' }] : []), { to: '/centres/compare', title: 'Compare' },
])
</script>

<template>
  <HouseRooms
    :rooms="rooms"
    label="Centres"
    :here="route.path"
  />
</template>
