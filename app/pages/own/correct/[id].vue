<script setup lang="ts">
/** A correction of one of my applications. */
definePageMeta({ layout: 'candidate' })
const route = useRoute()
</script>

<template>
  <CorrectionForm
    :id="String(route.params.id)"
    own
  />
</template>
