<script setup lang="ts">
/** A correction of an application, written at the office. */
const route = useRoute()
</script>

<template>
  <CorrectionForm :id="String(route.params.id)" />
</template>
