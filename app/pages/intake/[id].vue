<script setup lang="ts">
/** One application at the office. */
const route = useRoute()
</script>

<template>
  <SheetWhole :id="String(route.params.id)" />
</template>
