<script setup lang="ts">
/** The rooms of one area of the work, above its page. */
defineProps<{ rooms: { to: string, title: string }[], label: string, here: string }>()
</script>

<template>
  <nav :aria-label="label">
    <NuxtLink
      v-for="room in rooms"
      :key="room.to"
      :to="room.to"
      :aria-current="here === room.to ? 'page' : undefined"
    >{{ room.title }}</NuxtLink>
  </nav>
</template>

<style scoped>
nav { display: flex; gap: 4px 20px; flex-wrap: wrap; margin-bottom: 12px; font-size: 15px; }
a { text-decoration: none; padding: 2px 0; border-bottom: 2px solid transparent; }
a[aria-current] { color: var(--ink); font-weight: 600; border-color: var(--accent); }
</style>
