<script setup lang="ts">
/** The rooms of scrutiny: the queue, and how the checks have done. */
const route = useRoute()
const rooms = [{ to: '/scrutiny', title: 'Queue' }, { to: '/scrutiny/checks', title: 'How the checks do' }]
</script>

<template>
  <HouseRooms
    :rooms="rooms"
    label="Scrutiny"
    :here="route.path"
  />
</template>
