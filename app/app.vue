<script setup lang="ts">
// Another cycle is other work: every page begins anew with it.
const cycle = useCycleStore()
useHead({ htmlAttrs: { lang: useWords().code } })
</script>

<template>
  <NuxtLayout>
    <NuxtPage :key="cycle.code ?? 'none'" />
  </NuxtLayout>
</template>
