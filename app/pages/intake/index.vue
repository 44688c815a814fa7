<script setup lang="ts">
// Intake begins with the roster: who is there, and the way to register somebody.
definePageMeta({ middleware: () => navigateTo('/roster', { replace: true }) })
</script>

<template>
  <div />
</template>
