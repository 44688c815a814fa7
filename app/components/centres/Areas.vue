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
  <nav aria-label="Centres">
    <NuxtLink
      v-for="room in rooms"
      :key="room.to"
      :to="room.to"
      :aria-current="route.path === room.to ? 'page' : undefined"
    >{{ room.title }}</NuxtLink>
  </nav>
</template>

<style scoped>
nav { display: flex; gap: 4px 20px; flex-wrap: wrap; margin-bottom: 12px; font-size: 15px; }
a { text-decoration: none; padding: 2px 0; border-bottom: 2px solid transparent; }
a[aria-current] { color: var(--ink); font-weight: 600; border-color: var(--accent); }
</style>
