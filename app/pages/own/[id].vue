<script setup lang="ts">
/** One of my applications. */
definePageMeta({ layout: 'candidate' })
const route = useRoute()
</script>

<template>
  <SheetWhole
    :id="String(route.params.id)"
    own
  />
</template>
