<script setup lang="ts">
import '~/words/later'
/** The rooms of scrutiny: the queue, likely pairs, and how the checks have done. */
const route = useRoute()
const rooms = [{ to: '/scrutiny', title: say('scrutiny.queue') }, { to: '/scrutiny/duplicates', title: say('scrutiny.duplicates') }, {
  to: '/scrutiny/corrections',
  title: say('correction.corrections'),
}, { to: '/scrutiny/barred', title: say('scrutiny.barred') }, { to: '/scrutiny/checks', title: say('scrutiny.howTheChecksDo') }]
</script>

<template>
  <HouseRooms
    :rooms="rooms"
    :label="say('scrutiny.scrutiny')"
    :here="route.path"
  />
</template>
